import { spawnSync } from 'node:child_process'
import { closeSync, mkdtempSync, openSync, rmSync, writeFileSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Actuality } from '../core/edits/actuality'
import { Ear } from '../core/hearing/ear'
import { lay } from '../core/page/lay'
import { HIGHEST, outputPlan } from '../core/page/plan'
import { USUAL_DIP } from '../core/page/dips'
import { newStory, USUAL_LOUDNESS, type Block, type Hanger, type Lane, type Output } from '../core/page/story'
import type { Plan, TapeFacts } from '../core/render/plan'
import { renderer } from '../core/render/render'
import { random } from '../core/sound/random'
import { packer, wavHeader } from '../core/sound/wav'
import { RATE, toFrames } from '../core/time'
import { SoundFiles } from '../server/media/store'
import { median, report } from './figure'
import { sound, words } from './speechlike'

/**
 * A page of ten minutes and 40 blocks with two beds that dip, brought to its loudness, with the limiter on: how fast it becomes a
 * file on one thread, how loud that is, and whether it is the same from wherever it is begun. Made speech and made music.
 */

/** How the peer goes under. */
const DUCKED = 'sidechaincompress=threshold=0.02:ratio=8:attack=200:release=1500'
const BLOCKS = 40
const BLOCK = 15 * RATE
const ROUNDS = 3
const folder = mkdtempSync(join(tmpdir(), 'measure-mix-'))
const path = (name: string, channel: number) => join(folder, `${name}-${channel}.f32`)

const speechLength = toFrames(11 * 60)
writeAll(path('voice', 0), sound(speechLength, words(speechLength, 1800)))
const bedLength = toFrames(5 * 60 + 10)
for (const channel of [0, 1]) writeAll(path('bed', channel), music(bedLength, channel))

function writeAll(file: string, blocks: Iterable<Float32Array>): void {
  const descriptor = openSync(file, 'w')
  for (const block of blocks) writeSync(descriptor, new Uint8Array(block.buffer))
  closeSync(descriptor)
}

/** Chords that swell, a little apart left and right. */
function* music(length: number, channel: number): Generator<Float32Array> {
  for (let at = 0; at < length; at += RATE) {
    const block = new Float32Array(Math.min(RATE, length - at))
    for (let i = 0; i < block.length; i++) {
      const t = (at + i) / RATE
      const swell = 0.6 + 0.4 * Math.sin(t / 3 + channel)
      block[i] = 0.2 * swell * [220, 277.2, 329.6].reduce((sum, f, k) => sum + Math.sin(2 * Math.PI * f * t + k + channel) / 3, 0)
    }
    yield block
  }
}

const tone = { sound: 'voice', quiet: [{ from: 1000, to: 9000 }] }
const facts: Record<string, TapeFacts> = {
  voice: { id: 'voice', frames: speechLength, sides: [{ name: '', channels: [0] }], tone },
  bed: { id: 'bed', frames: bedLength, sides: [{ name: '', channels: [0, 1] }], tone: { ...tone, sound: 'bed' } },
}
const pieces = new Map(
  Array.from({ length: BLOCKS }, (_, i): [string, Actuality] => [
    `piece ${i}`,
    {
      kind: 'actuality',
      slug: '',
      speaker: '',
      role: '',
      story: null,
      spans: [{ tape: 'voice', from: i * 16 * RATE, to: i * 16 * RATE + BLOCK + RATE, sound: 'tape' }],
      head: RATE / 2,
      tail: RATE / 2,
    },
  ]),
)
const blocks = Array.from({ length: BLOCKS }, (_, i): Block => ({
  id: `block ${i}`,
  kind: 'actuality',
  order: `a${String.fromCharCode(65 + Math.floor(i / 26))}${String.fromCharCode(97 + (i % 26))}`,
  aside: false,
  text: '',
  reader: '',
  pace: 170,
  piece: `piece ${i}`,
  // room in which the beds come up
  ...(i % 5 === 0 && i ? { gap: toFrames(4) } : {}),
}))
const lane: Lane = { id: 'lane', kind: 'lane', name: '', colour: 'ink', order: 'a0', locked: false, muted: false, gain: 0 }
const beds = [0, 20].map((first, i): Hanger => ({
  id: `bed ${i}`,
  kind: 'hanger',
  lane: 'lane',
  aside: false,
  plays: { tape: 'bed', from: 0, to: bedLength },
  start: { block: `block ${first}`, at: 'start', offset: 0 },
  end: { block: `block ${first + 19}`, at: 'end', offset: 0 },
  gain: -3,
  dip: USUAL_DIP,
  fadeOut: toFrames(3),
}))
const story = newStory({ slug: '' }, { id: 'out' }, [...blocks, lane, ...beds])
const lengthOf = (id: string) => (pieces.has(id) ? { length: BLOCK + RATE, head: RATE / 2, tail: RATE / 2 } : undefined)
const [{ file, output }] = lay(story, { lengthOf })
const planAt = (gain: number): Plan =>
  outputPlan(
    file,
    { ...output, gain } satisfies Output,
    (id) => pieces.get(id),
    (id) => facts[id],
  )

const open = () => new SoundFiles({ channel: (name: string, channel: number) => path(name, channel) })

/** The whole way to a 24-bit file; what it gives, in seconds. */
function render(plan: Plan, ear?: Ear): number {
  const start = performance.now()
  const files = open()
  const pulled = renderer(plan, files.read)
  const pack = packer(24)
  const descriptor = openSync(join(folder, 'ours.wav'), 'w')
  writeSync(descriptor, wavHeader(plan.length, 2, RATE, 24))
  for (let at = 0; at < plan.length; at += 1 << 15) {
    const out = [0, 1].map(() => new Float32Array(Math.min(1 << 15, plan.length - at)))
    pulled.pull(at, out)
    ear?.add(out)
    writeSync(descriptor, pack(out))
  }
  closeSync(descriptor)
  files.close()
  return (performance.now() - start) / 1000
}
const figuresOf = (plan: Plan) => {
  const ear = new Ear(2, false)
  render(plan, ear)
  const { loudness, channels } = ear.finish()
  return { loudness: loudness.integrated, peak: Math.max(...channels.map(({ truePeak }) => truePeak)) }
}

// brought to its target as the page does: by what it is away
const gain = Math.round((USUAL_LOUDNESS - figuresOf(planAt(0)).loudness) * 100) / 100
const plan = planAt(gain)
const { loudness } = figuresOf(plan)
report({ measure: 'mix', name: 'mix.loudness', value: Math.abs(loudness - USUAL_LOUDNESS), unit: 'LU off the target' })
// 12 dB louder it has to be limited hard
const loud = planAt(gain + 12)
report({ measure: 'mix', name: 'mix.peak', value: figuresOf(loud).peak - HIGHEST, unit: 'dB over the limit, 12 dB louder than its target' })

const times = Array.from({ length: ROUNDS }, () => render(plan))
const ours = median(times)
const graph = peerGraph()
const theirs = median(Array.from({ length: ROUNDS }, () => peer(graph)))
report({ measure: 'mix', name: 'mix.realtime', value: plan.length / RATE / ours, unit: 'seconds of sound a second, one thread' })
report({
  measure: 'mix',
  name: 'mix.vs',
  value: ours,
  unit: 's for the page',
  peer: 'ffmpeg adelay, afade, volume, sidechaincompress, amix, alimiter, one thread',
  peerValue: theirs,
  ratio: ours / theirs,
})

const next = random(21)
const whole = [0, 1].map(() => new Float32Array(loud.length))
{
  const files = open()
  const pulled = renderer(loud, files.read)
  for (let at = 0; at < loud.length; at += 1 << 15)
    pulled.pull(
      at,
      whole.map((channel) => channel.subarray(at, at + (1 << 15))),
    )
  files.close()
}
let same = 0
for (let i = 0; i < 100; i++) {
  const from = Math.floor(next() * (loud.length - 1))
  const count = Math.min(1 + Math.floor(next() * 20_000), loud.length - from)
  const out = [0, 1].map(() => new Float32Array(count))
  const files = open()
  renderer(loud, files.read).pull(from, out)
  files.close()
  if (out.every((channel, c) => channel.every((value, k) => Object.is(value, whole[c][from + k])))) same++
}
report({ measure: 'mix', name: 'mix.same', value: same, unit: 'of 100 random starts, bit for bit' })
rmSync(folder, { recursive: true, force: true })

/** The same page by general filters: parts of the speech delayed and faded, beds compressed by the speech, all limited. */
function peerGraph(): string {
  const parts = file.placed.map(({ from, to }, i) => {
    const start = (i * 16 * RATE) / RATE
    const delay = Math.round((Math.max(0, from) / RATE) * 1000)
    const length = (to - from) / RATE
    return (
      `[v${i}]atrim=start=${start}:duration=${length},asetpts=PTS-STARTPTS,afade=t=in:d=0.5,afade=t=out:st=${length - 0.5}:d=0.5,` +
      `volume=${gain}dB,adelay=${delay}[p${i}]`
    )
  })
  const split = `[0:a]asplit=${BLOCKS}${file.placed.map((_, i) => `[v${i}]`).join('')}`
  const sum = `${file.placed.map((_, i) => `[p${i}]`).join('')}amix=inputs=${BLOCKS}:normalize=0,asplit=3[speech][key0][key1]`
  const hung = file.hangers.map(({ from, to }, i) => {
    const length = (to - from) / RATE
    return (
      `[b${i}]atrim=duration=${length},asetpts=PTS-STARTPTS,volume=${gain - 3}dB,afade=t=out:st=${length - 3}:d=3,` +
      `adelay=delays=${Math.round((from / RATE) * 1000)}:all=1[d${i}];[d${i}][key${i}]${DUCKED}[c${i}]`
    )
  })
  return [
    split,
    ...parts,
    sum,
    '[1:a]asplit=2[b0][b1]',
    ...hung,
    '[speech]aformat=channel_layouts=stereo[wide];[wide][c0][c1]amix=inputs=3:normalize=0,alimiter=limit=0.89:level=0[out]',
  ].join(';')
}

function peer(filters: string): number {
  const script = join(folder, 'graph.txt')
  writeFileSync(script, filters)
  for (const name of ['voice', 'bed'] as const) {
    const count = name === 'bed' ? 2 : 1
    const inputs = Array.from({ length: count }, (_, c) => ['-f', 'f32le', '-ar', String(RATE), '-ac', '1', '-i', path(name, c)]).flat()
    const join2 = count === 2 ? ['-filter_complex', '[0:a][1:a]join=inputs=2:channel_layout=stereo[o]', '-map', '[o]'] : []
    spawnSync('ffmpeg', ['-v', 'error', '-n', ...inputs, ...join2, '-c:a', 'pcm_f32le', join(folder, `${name}.wav`)])
  }
  const start = performance.now()
  const { status, stderr } = spawnSync(
    'ffmpeg',
    [
      ['-v', 'error', '-y', '-threads', '1', '-filter_complex_threads', '1'],
      ['-i', join(folder, 'voice.wav'), '-i', join(folder, 'bed.wav')],
      ['-filter_complex_script', script, '-map', '[out]', '-c:a', 'pcm_s24le', join(folder, 'theirs.wav')],
    ].flat(),
    { encoding: 'utf8' },
  )
  if (status !== 0) throw new Error(stderr.slice(-2000))
  return (performance.now() - start) / 1000
}

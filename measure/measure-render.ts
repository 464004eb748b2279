import { spawnSync } from 'node:child_process'
import { closeSync, mkdtempSync, openSync, rmSync, statSync, writeFileSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { shapeLevel } from '../core/edits/levelLine'
import { listLength, normal, plainJoin, type EditList, type Span } from '../core/edits/editList'
import { applyPaint } from '../core/edits/painting'
import { planOf, type Plan, type TapeFacts } from '../core/render/plan'
import { random } from '../core/sound/random'
import { renderer } from '../core/render/render'
import { packer, wavHeader } from '../core/sound/wav'
import { milliseconds, RATE, toFrames } from '../core/time'
import { SoundFiles } from '../server/media/store'
import { median, report } from './figure'
import { sound, words } from './speechlike'

/** How fast a package of ten minutes and some 600 spans is rendered to a 24-bit WAV, on one thread. */

const MINUTES = 10
const SPANS = 600
const ROUNDS = 5
const FADE = milliseconds(8)

const folder = mkdtempSync(join(tmpdir(), 'measure-render-'))
const tapeLength = toFrames(25 * 60)
const tape = join(folder, 'sound-0.f32')
const tapeWav = join(folder, 'tape.wav')
{
  const file = openSync(tape, 'w')
  for (const block of sound(tapeLength, words(tapeLength, 4000))) writeSync(file, new Uint8Array(block.buffer))
  closeSync(file)
  spawnSync('ffmpeg', ['-v', 'error', '-y', '-f', 'f32le', '-ar', String(RATE), '-ac', '1', '-i', tape, '-c:a', 'pcm_s24le', tapeWav])
}

const facts: TapeFacts = {
  id: 'tape',
  frames: tapeLength,
  sides: [{ name: '', channels: [0] }],
  tone: {
    sound: 'tape',
    quiet: [
      { from: 1000, to: 9000 },
      { from: 400_000, to: 412_000 },
    ],
  },
}

/** Spans of a package: pieces of the tape in order, with what lies between them left out. */
function spans(tone: boolean): EditList {
  const next = random(9)
  const list: Span[] = []
  let from = 2000
  const mean = (MINUTES * 60 * RATE) / SPANS
  for (let i = 0; i < SPANS; i++) {
    const length = Math.round(mean * (0.4 + 1.2 * next()))
    const isTone = tone && i % 12 === 5
    list.push({
      tape: 'tape',
      from,
      to: from + length,
      sound: isTone ? 'tone' : 'tape',
      ...(i ? { join: { ...plainJoin(), fade: FADE } } : {}),
    })
    from += length + Math.round(mean * (0.2 + next()))
  }
  return normal(list)
}

/** The whole way to a file: read, mix, pack, write. */
function render(plan: Plan, path: string): number {
  const start = performance.now()
  const files = new SoundFiles({ channel: () => tape })
  const pulled = renderer(plan, files.read)
  const pack = packer(24)
  const file = openSync(path, 'w')
  writeSync(file, wavHeader(plan.length, 1, RATE, 24))
  const block = new Float32Array(1 << 15)
  for (let at = 0; at < plan.length; at += block.length) {
    const out = block.subarray(0, Math.min(block.length, plan.length - at))
    pulled.pull(at, [out])
    writeSync(file, pack([out]))
  }
  closeSync(file)
  files.close()
  return (performance.now() - start) / 1000
}

const timed = (act: () => number): number => median(Array.from({ length: ROUNDS }, act))

// all of it: joins, tone, level lines
let full = spans(true)
for (let at = RATE; at < listLength(full); at += 7 * RATE) {
  for (const step of shapeLevel({ spans: full }, { from: at, to: at + 2 * RATE }, () => -4, milliseconds(60)))
    if (step.type === 'paint') full = applyPaint(full, step)
}
const plan = planOf(full, () => facts)
const out = join(folder, 'ours.wav')
render(plan, out)
const seconds = timed(() => render(plan, out))
report({ measure: 'render', name: 'render.spans', value: full.length, unit: 'spans' })
report({ measure: 'render', name: 'render.realtime', value: plan.length / RATE / seconds, unit: 'seconds of sound a second' })

// the same without tone and level lines, against ffmpeg
const bare = spans(false)
const barePlan = planOf(bare, () => facts)
const ours = timed(() => render(barePlan, out))
const half = FADE / 2

/** A balanced tree of crossfades over numbered inputs; `names` are filter pads. */
function tree(names: readonly string[]): string {
  const steps: string[] = []
  let level = [...names]
  let made = 0
  while (level.length > 1) {
    const next: string[] = []
    for (let i = 0; i + 1 < level.length; i += 2) {
      const name = `m${made++}`
      steps.push(`[${level[i]}][${level[i + 1]}]acrossfade=ns=${FADE}:c1=qsin:c2=qsin[${name}]`)
      next.push(name)
    }
    if (level.length % 2) next.push(level[level.length - 1])
    level = next
  }
  return `${steps.join(';')};[${level[0]}]anull[out]`
}

const reach = bare.map((span, i) => ({ from: span.from - (i ? half : 0), to: span.to + (i < bare.length - 1 ? half : 0) }))

function ffmpeg(args: readonly string[], graph: string): number {
  const script = join(folder, 'graph.txt')
  const path = join(folder, 'theirs.wav')
  writeFileSync(script, graph)
  const start = performance.now()
  const { status, stderr } = spawnSync(
    'ffmpeg',
    ['-v', 'error', '-y', ...args, '-filter_complex_script', script, '-map', '[out]', '-c:a', 'pcm_s24le', path],
    { encoding: 'utf8', maxBuffer: 1 << 26 },
  )
  const took = (performance.now() - start) / 1000
  if (status !== 0) throw new Error(stderr.slice(-2000))
  // the concat demuxer cuts at whole packets, so the peer's length is a little off; its work is the same
  const frames = Math.round((statSync(path).size - 44) / 3)
  if (Math.abs(frames - barePlan.length) > barePlan.length * 0.03) throw new Error(`the peer made ${frames} frames, not ${barePlan.length}`)
  return took
}

const list = join(folder, 'list.txt')
writeFileSync(
  list,
  [
    'ffconcat version 1.0',
    ...reach.flatMap(({ from, to }) => [`file '${tapeWav}'`, `inpoint ${(from / RATE).toFixed(6)}`, `outpoint ${(to / RATE).toFixed(6)}`]),
    '',
  ].join('\n'),
)
let sum = 0
const ends = reach.slice(0, -1).map(({ from, to }) => (sum += to - from))
const pads = reach.map((_, i) => `s${i}`)
const asegment = `[0:a]asegment=samples=${ends.join('|')}${pads.map((pad) => `[${pad}]`).join('')};${tree(pads)}`
const fast = timed(() => ffmpeg(['-f', 'concat', '-safe', '0', '-i', list], asegment))
report({
  measure: 'render',
  name: 'render.vs',
  value: ours / fast,
  unit: 'of the peer’s wall time',
  peer: 'ffmpeg: concat demuxer, asegment, tree of acrossfade',
  peerValue: fast,
  ratio: ours / fast,
})

const inputs = reach.flatMap(({ from, to }) => ['-ss', (from / RATE).toFixed(6), '-t', ((to - from) / RATE).toFixed(6), '-i', tapeWav])
const exact = median([1, 2, 3].map(() => ffmpeg(inputs, tree(reach.map((_, i) => `${i}:a`)))))
report({
  measure: 'render',
  name: 'render.vs.exact',
  value: ours / exact,
  unit: 'of the peer’s wall time',
  peer: 'ffmpeg: a seeked input a span, tree of acrossfade',
  peerValue: exact,
  ratio: ours / exact,
})
rmSync(folder, { recursive: true })

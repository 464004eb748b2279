import FFT from 'fft.js'
import { speak, type Voice } from '../demo/speech'
import { judgeCut, placeCut, soundAround, type CutOrder, type Heard } from '../core/cuts/cut'
import type { Span } from '../core/edits/editList'
import { planOf, type TapeFacts } from '../core/render/plan'
import { random } from '../core/sound/random'
import { renderer } from '../core/render/render'
import type { Word } from '../core/tape/words'
import { milliseconds, RATE, toFrames, type Frames } from '../core/time'
import { launch } from '../e2e/browser'
import { requirePackages } from '../scripts/machine'
import { closeServices } from '../server/services'
import { heardBy, type Microphone } from './conversation'
import { percentile, report } from './figure'
import { openNewsroom, servicesOf } from './newsroom'
import { tapeOf, VOICES } from './spoken'

/**
 * Cuts on tapes whose word times are known: fillers, doubled words and clauses are taken out by
 * edges that a hand put roughly, and what is rendered is looked at. The voices are synthetic (flite).
 */

requirePackages('flite')
const measure = 'joins'
/** `npm run measure -- joins browser`: placing in the browser's worker alone. */
const only = process.argv[3]
const UNIT = 'synthetic voices; clean, room, noise'

/** What is said, and what is to go: in brackets. */
const SENTENCES = `
the captain [um] waits for the night boat, since last Monday.
my mother [the] the old one wrote a letter to the company, and nobody answered it.
nobody on this island [uh] asked for it, [before the tide turns,] and that is the truth.
the harbour office [the harbour office] sold the last ticket at twenty to twelve.
a nurse from the late shift, [when the lights go out,] has no way home.
our council [um] was told about the timetable [and the money] in the summer.
we heard the engine [we heard] and then the lights went out.
it has to run [it has to] every single evening, [while the weather holds,] for the children.
the fish plant [uh] needs the morning boat, because seven fishermen [seven] depend on it.
the woman at the ticket window, [who is my cousin,] remembers every winter without mail.
they gave [um] a hundred pounds to the doctor and [and] his brother.
everybody here [you know] spoke against it, and [um] nobody listened.
she waited [she waited] for an hour, in the rain, [with her brother,] on the quay.
`
  .trim()
  .split('\n')

interface Target {
  first: number
  last: number
}
interface Talk {
  voice: string
  sound: Float32Array
  words: Word[]
  targets: Target[]
}

function talk(voice: Voice, seed: number): Talk {
  const next = random(seed)
  const parts: { samples: Float32Array; at: Frames }[] = []
  const words: Word[] = []
  const targets: Target[] = []
  let at = toFrames(0.6)
  for (const sentence of SENTENCES) {
    const marked = sentence.split(/\s+/)
    const said = speak(voice, marked.map((word) => word.replace(/[[\]]/g, '')).join(' '))
    let first = -1
    marked.forEach((word, i) => {
      if (word.startsWith('[')) first = words.length + i
      if (word.includes(']')) targets.push({ first, last: words.length + i })
    })
    words.push(...said.words.map(({ text, from, to }): Word => ({ text, from: at + from, to: at + to, checked: true })))
    parts.push({ samples: said.samples, at })
    at += said.samples.length + toFrames(0.25 + 0.7 * next())
  }
  const sound = new Float32Array(at)
  for (const { samples, at: from } of parts) sound.set(samples, from)
  return { voice: voice.flite, sound, words, targets }
}

const MICROPHONE: Microphone = {
  heard: [{ metres: 0, level: 0 }],
  decay: 0.4,
  wet: 0,
  noise: 55,
  hum: 0,
  phone: false,
  seed: 5,
  noiseSeed: 6,
}
const ROOMS: [string, Partial<Microphone>][] = [
  ['clean', {}],
  ['room', { wet: 0.7, noise: 40 }],
  ['noise', { wet: 0.3, noise: 18 }],
]

const facts = (sound: Float32Array): TapeFacts => ({
  id: 'tape',
  frames: sound.length,
  sides: [{ name: '', channels: [0] }],
  tone: { sound: 'tape', quiet: [] },
})
const read = (sound: Float32Array) => (_: string, __: number, from: Frames, to: Frames) =>
  Float32Array.from({ length: to - from }, (_, i) => sound[from + i] ?? 0)

/** Two stretches of tape, joined as the application renders them; the join lies at `at`. */
function rendered(
  sound: Float32Array,
  x: Frames,
  y: Frames,
  join: { fade: Frames; shape: 'power' | 'gain' },
): { out: Float32Array; at: Frames } {
  const beside = Math.min(toFrames(0.5), x, sound.length - y)
  const spans: Span[] = [
    { tape: 'tape', from: x - beside, to: x, sound: 'tape' },
    { tape: 'tape', from: y, to: y + beside, sound: 'tape', join: { ...join, origin: 'hand', heard: false } },
  ]
  const out = [new Float32Array(2 * beside)]
  renderer(
    planOf(spans, () => facts(sound)),
    read(sound),
  ).pull(0, out)
  return { out: out[0], at: beside }
}

/** Whether the largest step within a fade is more than what the 50 ms on either side have in all but a thousandth. */
function steps({ out, at }: { out: Float32Array; at: Frames }, fade: Frames): boolean {
  const half = Math.floor(fade / 2)
  const step = (i: number) => Math.abs(out[i] - out[i - 1])
  const usual: number[] = []
  for (let i = Math.max(1, at - half - milliseconds(50)); i < at - half; i++) usual.push(step(i))
  for (let i = at + half + 1; i < Math.min(out.length, at + half + milliseconds(50)); i++) usual.push(step(i))
  let most = 0
  for (let i = at - half; i <= at + half; i++) most = Math.max(most, step(i))
  return most > percentile(usual, 0.999)
}

// another way to look at sound than the one that places cuts: cepstra of a mel spectrum
const SIZE = 1024
const fft = new FFT(SIZE)
const MELS = 26
const mel = (hertz: number) => 1127 * Math.log(1 + hertz / 700)
function cepstrum(sound: Float32Array, from: Frames): number[] {
  const input = Array.from({ length: SIZE }, (_, i) => (sound[from + i] ?? 0) * (0.54 - 0.46 * Math.cos((2 * Math.PI * i) / (SIZE - 1))))
  const out = fft.createComplexArray() as number[]
  fft.realTransform(out, input)
  const bands = Array.from({ length: MELS }, () => 1e-9)
  for (let bin = 2; bin < SIZE / 2; bin++) {
    const place = (mel((bin * RATE) / SIZE) / mel(8000)) * (MELS + 1) - 1
    if (place >= MELS) break
    const power = out[2 * bin] ** 2 + out[2 * bin + 1] ** 2
    const low = Math.floor(place)
    if (low >= 0) bands[low] += power * (1 - (place - low))
    if (low + 1 >= 0 && low + 1 < MELS) bands[low + 1] += power * (place - low)
  }
  const logs = bands.map(Math.log)
  return Array.from(
    { length: 13 },
    (_, k) =>
      logs.reduce((sum, value, i) => sum + value * Math.cos((Math.PI * k * (i + 0.5)) / MELS), 0) *
      (k ? Math.sqrt(2 / MELS) : Math.sqrt(1 / MELS)),
  )
}
const CLEAR = milliseconds(4)
/** How much changes across a place: the distance of the cepstra before and after it. */
function change(sound: Float32Array, at: Frames): number {
  const a = cepstrum(sound, at - CLEAR - SIZE)
  const b = cepstrum(sound, at + CLEAR)
  return Math.sqrt(a.reduce((sum, value, i) => sum + (value - b[i]) ** 2, 0))
}

/** Spearman's rank correlation. */
function rankCorrelation(a: readonly number[], b: readonly number[]): number {
  const ranks = (list: readonly number[]) => {
    const order = list.map((value, i) => ({ value, i })).sort((p, q) => p.value - q.value)
    const out = list.map(() => 0)
    order.forEach(({ i }, rank) => (out[i] = rank))
    return out
  }
  const [x, y] = [ranks(a), ranks(b)]
  const mean = (a.length - 1) / 2
  let [product, own, other] = [0, 0, 0]
  x.forEach((rank, i) => {
    product += (rank - mean) * (y[i] - mean)
    own += (rank - mean) ** 2
    other += (y[i] - mean) ** 2
  })
  return product / Math.sqrt(own * other)
}

class Tally {
  cuts = 0
  clipped = 0
  left = 0
  stepped = 0
  changes: number[] = []

  add(
    sound: Float32Array,
    x: Frames,
    y: Frames,
    join: { fade: Frames; shape: 'power' | 'gain' },
    kept: { before: Word; after: Word },
    gone: { from: Frames; to: Frames },
  ): void {
    const join_ = rendered(sound, x, y, join)
    this.cuts++
    if (Math.max(kept.before.to - x, y - kept.after.from) > milliseconds(10)) this.clipped++
    if (Math.max(x - gone.from, gone.to - y) > milliseconds(20)) this.left++
    if (steps(join_, join.fade)) this.stepped++
    this.changes.push(change(join_.out, join_.at))
  }
}

function joins(): void {
  const ours = new Tally()
  const plain = new Tally()
  const natural: number[] = []
  const guesses: number[] = []
  const jumps: number[] = []
  const next = random(77)
  const jitter = (ms: number) => milliseconds(Math.round((next() * 2 - 1) * ms))

  for (const [v, voice] of VOICES.entries())
    for (const [r, [, room]] of ROOMS.entries())
      for (let turn = 0; turn < 2; turn++) {
        const { sound: clean, words, targets } = talk({ ...voice, pitch: voice.pitch * (turn ? 1.04 : 1) }, 30 + 10 * v + r + 100 * turn)
        const sound = heardBy([clean], { ...MICROPHONE, ...room, seed: 5 + v, noiseSeed: 9 + v + turn })
        const heard = (asked: Frames): Heard => {
          const { from, to } = soundAround({ tape: 'tape', asked, low: 0, high: sound.length }, sound.length)
          return { words, sound: sound.subarray(from, to), start: from }
        }
        const order = (from: Frames, to: Frames): CutOrder => ({
          left: { tape: 'tape', asked: from, low: 0, high: sound.length },
          right: { tape: 'tape', asked: to, low: 0, high: sound.length },
        })
        words.forEach((word, i) => {
          const after = words[i + 1]
          if (after && Math.abs(after.from - word.to) < milliseconds(60))
            natural.push(change(sound, Math.round((word.to + after.from) / 2)))
        })
        for (const { first, last } of targets) {
          const gone = { from: words[first].from, to: words[last].to }
          const kept = { before: words[first - 1], after: words[last + 1] }
          const asked = { from: gone.from + jitter(25), to: gone.to + jitter(25) }
          const placed = placeCut(order(asked.from, asked.to), heard(asked.from), heard(asked.to))
          ours.add(sound, placed.left, placed.right, placed.join, kept, gone)
          plain.add(sound, asked.from, asked.to, { fade: milliseconds(5), shape: 'power' }, kept, gone)
          guesses.push(placed.heard)
          jumps.push(
            change(
              rendered(sound, placed.left, placed.right, placed.join).out,
              Math.min(toFrames(0.5), placed.left, sound.length - placed.right),
            ),
          )
        }
        // and at places that nobody would choose
        for (let i = 0; i < 20; i++) {
          const x = toFrames(1) + Math.floor(next() * (sound.length - toFrames(6)))
          const y = x + toFrames(0.3) + Math.floor(next() * toFrames(3))
          const join = rendered(sound, x, y, { fade: milliseconds(8), shape: 'power' })
          guesses.push(judgeCut(order(x, y), heard(x), heard(y)).heard)
          jumps.push(change(join.out, join.at))
        }
      }

  const mean = (list: readonly number[]) => list.reduce((sum, value) => sum + value, 0) / list.length
  const peer = 'edges as given, 5 ms crossfade'
  const both = (name: string, figure: (tally: Tally) => number, unit: string) =>
    report({ measure, name, value: figure(ours), unit, peer, peerValue: figure(plain) })
  report({ measure, name: 'joins.cuts', value: ours.cuts, unit: `cuts, ${UNIT}` })
  both('joins.clipped', (tally) => tally.clipped / tally.cuts, 'share that lose more than 10 ms of a kept word')
  both('joins.left', (tally) => tally.left / tally.cuts, 'share that leave more than 20 ms of what went')
  both('joins.step', (tally) => tally.stepped, 'joins with a step')
  both('joins.spectral', (tally) => mean(tally.changes) / mean(natural), 'of the change where words meet')
  report({
    measure,
    name: 'joins.predicted',
    value: rankCorrelation(guesses, jumps),
    unit: `rank correlation over ${guesses.length} joins`,
  })
}

const CUTS = 60

/** How long a cut takes to be placed in the browser's worker, its sound at hand: a word is taken out, and brought back, and so on. */
async function inBrowser(): Promise<void> {
  const newsroom = await openNewsroom()
  const services = await servicesOf(newsroom)
  const { sound, words } = talk(VOICES[0], 30)
  const tape = await tapeOf(services, 'cuts', heardBy([sound], { ...MICROPHONE, ...ROOMS[1][1] }), words)
  await closeServices(services)
  const server = await newsroom.start()
  const browser = await launch()
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const press = async (...keys: string[]) => {
    for (const key of keys) await page.keyboard.press(key)
  }
  await page.goto(`${newsroom.address}/tapes/${tape}`)
  await page.waitForSelector('canvas[data-drawn=words]')
  await press('Control+a', 'p', 'g')
  await page.getByTestId('length-total').waitFor()
  await page.waitForSelector('canvas[data-drawn=words]')
  const placed = () => page.evaluate(() => performance.getEntriesByName('place a cut').map(({ duration }) => duration))
  await press('Home')
  for (let i = 0; i < CUTS; i++) {
    const before = (await placed()).length
    await press('Control+ArrowRight', 'Control+ArrowRight', 'Shift+ArrowRight', 'Backspace')
    await page.waitForFunction((count) => performance.getEntriesByName('place a cut').length > count, before)
    await page.waitForTimeout(150)
    await press('Control+z', 'Escape')
    await page.waitForTimeout(100)
  }
  const took = await placed()
  await browser.close()
  await server.stop()
  await newsroom.close()
  report({ measure, name: 'joins.place.median', value: percentile(took, 0.5), unit: `ms in the browser's worker, ${took.length} cuts` })
  report({ measure, name: 'joins.place.p95', value: percentile(took, 0.95), unit: "ms in the browser's worker" })
}

if (only !== 'browser') joins()
await inBrowser()

import { quoteAt, plainWords, type Anchor } from '../core/page/anchors'
import { lay, type Known } from '../core/page/lay'
import { saidIn } from '../core/page/said'
import { newStory, outputsOf, variantId, type Block, type Hanger, type Lane, type StoryRecord } from '../core/page/story'
import type { Actuality } from '../core/edits/actuality'
import type { Plan } from '../core/render/plan'
import { renderAll, renderer, type ReadSound } from '../core/render/render'
import { random } from '../core/sound/random'
import type { Word } from '../core/tape/words'
import { RATE, toFrames } from '../core/time'
import { report } from './figure'

/**
 * A stage after the sum: what is played from anywhere must be the file, bit for bit. And the laying of a page of 200 blocks
 * with 50 hangers that hold on to edges and to words, for two outputs.
 */

const next = random(11)
const below = (limit: number): number => Math.floor(next() * limit)

const noise = Float32Array.from({ length: 20 * RATE }, () => next() - 0.5)
const read: ReadSound = (_, __, from, to) => {
  const out = new Float32Array(to - from)
  for (let frame = Math.max(0, from); frame < Math.min(to, noise.length); frame++) out[frame - from] = noise[frame]
  return out
}
const LENGTH = 18 * RATE
const loud: Plan = {
  length: LENGTH,
  channels: 2,
  strips: [0, 1, 2].map((i) => ({
    sound: 'noise',
    channel: 0,
    pan: { left: i === 1 ? 0 : 1, right: i === 2 ? 0 : 1 },
    at: i * RATE,
    length: 15 * RATE,
    from: i * 7000,
    gain: 1.5,
    ramps: [],
  })),
  stages: [{ kind: 'ceiling', dB: -3 }],
}
const file = renderAll(loud, read)
const STARTS = 200
let same = 0
for (let i = 0; i < STARTS; i++) {
  const from = below(LENGTH - 1)
  const count = Math.min(1 + below(8000), LENGTH - from)
  const out = [new Float32Array(count), new Float32Array(count)]
  renderer(loud, read).pull(from, out)
  if (out.every((channel, c) => channel.every((value, frame) => Object.is(value, file[c][from + frame])))) same++
}
report({ measure: 'stage', name: 'stage.same', value: same, unit: `of ${STARTS} random starts, bit for bit` })

const TEXT = 'The last boat to Brackle left at midnight for forty years and since Monday it does not leave at all'
const words = plainWords(TEXT)
const said = (piece: number): Word[] =>
  words.map((text, i) => ({ text, from: piece * 10 * RATE + i * (RATE / 3), to: piece * 10 * RATE + i * (RATE / 3) + RATE / 4 }) as Word)
const PIECES = 100
const pieces = new Map(
  Array.from({ length: PIECES }, (_, i): [string, Actuality] => [
    `piece${i}`,
    {
      kind: 'actuality',
      slug: '',
      speaker: '',
      role: '',
      story: null,
      head: 0,
      tail: 0,
      spans: Array.from({ length: 8 }, (__, n) => ({
        tape: `tape${i}`,
        from: i * 10 * RATE + n * RATE,
        to: i * 10 * RATE + n * RATE + toFrames(0.9),
        sound: 'tape' as const,
      })),
    },
  ]),
)
const known: Known = {
  lengthOf: (id) => (pieces.has(id) ? { length: 8 * toFrames(0.9), head: toFrames(0.3), tail: toFrames(0.3) } : undefined),
  saidIn: (id) => saidIn(pieces.get(id)!, (tape) => said(Number(tape.slice(4)))),
}
const order = (i: number): string => `b${String(i).padStart(3, '0')}1`
const blocks = Array.from({ length: 200 }, (_, i): Block => ({
  id: `block${i}`,
  kind: i % 2 ? 'actuality' : 'copy',
  order: order(i),
  aside: i % 17 === 16,
  text: i % 2 ? '' : TEXT,
  reader: '',
  pace: 170,
  piece: i % 2 ? `piece${(i - 1) / 2}` : null,
}))
const lane: Lane = { id: 'lane', kind: 'lane', name: 'Bed', colour: 'tape', order: 'a0', locked: false, muted: false, gain: 0 }
function anchor(i: number): Anchor {
  const block = blocks[(i * 4) % 199]
  if (i % 3 === 0) return { block: block.id, at: 'start', offset: -RATE }
  const index = i % words.length
  const tape = block.piece && { tape: `tape${block.piece.slice(5)}`, at: Number(block.piece.slice(5)) * 10 * RATE + index * (RATE / 3) }
  return { block: block.id, at: quoteAt(words, index, tape || undefined), offset: 0 }
}
const hangers = Array.from({ length: 50 }, (_, i): Hanger => ({
  id: `hanger${i}`,
  kind: 'hanger',
  lane: 'lane',
  aside: false,
  plays: { tape: 'quay', from: 0, to: 60 * RATE },
  start: anchor(i),
  end: anchor(i + 1),
  gain: -12,
}))
const evening = newStory({ slug: '' }, { id: 'evening' }, [...blocks, lane, ...hangers])
const variants = blocks
  .filter((_, i) => i % 5 === 0)
  .map(({ id }): StoryRecord => ({
    id: variantId('morning', id),
    kind: 'variant',
    output: 'morning',
    block: id,
    ...(id.endsWith('0') ? { out: true } : { text: 'short' }),
  }))
const morning: StoryRecord = { ...outputsOf(evening)[0], id: 'morning', order: 'a1' }
const page = {
  ...evening,
  records: { ...evening.records, ...Object.fromEntries([morning, ...variants].map((record) => [record.id, record])) },
}
const RUNS = 200
const times: number[] = []
for (let i = 0; i < RUNS; i++) {
  const began = performance.now()
  const [{ air }] = lay(page, known)
  times.push(performance.now() - began)
  if (air.hangers.length !== hangers.length) throw new Error('not all was laid')
}
const sorted = times.slice(RUNS / 4).sort((a, b) => a - b)
report({
  measure: 'stage',
  name: 'stage.lay',
  value: sorted[Math.floor(sorted.length / 2)],
  unit: 'ms for 200 blocks and 50 hangers in two outputs, on air and as files, median',
})
report({ measure: 'stage', name: 'stage.lay.p95', value: sorted[Math.floor(sorted.length * 0.95)], unit: 'ms' })

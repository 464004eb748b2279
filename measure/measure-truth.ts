import { placeCut, soundAround, type CutOrder, type Heard } from '../core/cuts/cut'
import { actualityType, type Actuality, type ActualityStep } from '../core/edits/actuality'
import { holdTime, moveEdge, takeOut } from '../core/edits/acts'
import { bringBack } from '../core/edits/bringBack'
import { edits, isRoom, listLength, saidBy, slice, type Span } from '../core/edits/editList'
import { endIn, endOut } from '../core/edits/ends'
import { fairRecord } from '../core/edits/fairRecord'
import { changeGaps, changePause } from '../core/edits/gaps'
import { nicks } from '../core/edits/gone'
import { shapeLevel } from '../core/edits/levelLine'
import { toggleMute } from '../core/edits/mute'
import { offcutsOf, setAside, takeBack } from '../core/edits/offcuts'
import { movePassage, putIn } from '../core/edits/order'
import { layPatch, patches, takeOffPatch } from '../core/edits/patch'
import { slipSide, toggleSideMute } from '../core/edits/voices'
import { plainJoin } from '../core/edits/editList'
import { piecePlan } from '../core/page/plan'
import type { Block } from '../core/page/story'
import { readingTime } from '../core/page/reading'
import { inFile, onAir } from '../core/page/timing'
import { planOf, type TapeFacts } from '../core/render/plan'
import { random } from '../core/sound/random'
import { renderAll } from '../core/render/render'
import { applyAll } from '../core/steps/document'
import type { Word } from '../core/tape/words'
import { toFrames, type Frames, type Stretch } from '../core/time'
import { requirePackages } from '../scripts/machine'
import { report } from './figure'
import { spoken, VOICES } from './spoken'

/**
 * Whether what Plain Cut says of an edit is so: the record against a count made from the words themselves,
 * bringing back against the sound that was there, run-on joins against flat, lengths of pages, and the
 * pauses that cuts leave on speech without full stops. The voices are synthetic (flite).
 */

const HISTORIES = 500
const next = random(2_026)
const upTo = (count: number): number => Math.floor(next() * count)

// --- a tape of words that are told apart by their names, each 1,000 frames long with 200 between them
const COUNT = 60
const EACH = 1200
const WORDS: Word[] = Array.from({ length: COUNT }, (_, i) => ({ text: `w${i}`, from: i * EACH + 100, to: i * EACH + 1100 }))
const wordsOf = () => WORDS
const BEYOND = { free: () => 100, barred: () => [] }
const TAPE = COUNT * EACH
const SIDES = [
  { name: 'Piet', channels: [0] as [number] },
  { name: 'Kit', channels: [1] as [number] },
]
const fresh = (): Actuality => ({
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 10 * EACH, to: 50 * EACH, sound: 'tape' }],
  head: 100,
  tail: 100,
  sides: { a: SIDES },
})

/** The words that are heard, counted frame by frame: those of which at least half sounds in one run. */
function heardByCount({ spans }: Actuality): Set<string> {
  const heard = new Set<string>()
  let run = { word: -1, last: -1, count: 0 }
  for (const span of spans) {
    if (isRoom(span)) continue
    const said = saidBy(span)
    const pace = (said.to - said.from) / Math.max(1, span.to - span.from)
    for (let i = 0; i < span.to - span.from; i++) {
      const frame = Math.floor(said.from + i * pace)
      const index = Math.floor(frame / EACH)
      const word = WORDS[index]
      if (!word || frame < word.from || frame >= word.to) continue
      if (index !== run.word || frame < run.last) run = { word: index, last: frame, count: 0 }
      run.last = frame
      run.count += pace
      if (run.count >= (word.to - word.from) / 2) heard.add(word.text)
    }
  }
  return heard
}

const done = (piece: Actuality, steps: readonly ActualityStep[]): Actuality => applyAll(actualityType, piece, steps)

/** A stretch of whole words of a piece, a little off their edges as a hand is. */
function passage(piece: Actuality): Stretch {
  const length = listLength(piece.spans)
  const from = Math.min(length - EACH, upTo(Math.max(1, length / EACH)) * EACH + upTo(180))
  return { from: Math.max(0, from), to: Math.min(length, from + (1 + upTo(4)) * EACH) }
}

type Act = (piece: Actuality) => ActualityStep[]
const ACTS: Record<string, Act> = {
  takeOut: (piece) => takeOut(piece, passage(piece)),
  withPause: (piece) => takeOut(piece, passage(piece), plainJoin(), 400),
  holdTime: (piece) => holdTime(piece, passage(piece)),
  move: (piece) => movePassage(piece, passage(piece), upTo(listLength(piece.spans) / EACH) * EACH),
  mute: (piece) => toggleMute(piece, passage(piece)),
  longerPause: (piece) => changePause(piece, passage(piece), 500),
  gap: (piece) => changeGaps(piece, edits(piece.spans).slice(0, 2), upTo(600) - 200, []),
  edge: (piece) => {
    const all = edits(piece.spans)
    return all.length ? moveEdge(piece, all[upTo(all.length)], next() < 0.5 ? 'left' : 'right', upTo(800) - 400, TAPE) : []
  },
  paste: (piece) => {
    const { from, to } = passage(piece)
    return putIn(piece, slice(piece.spans, from, to), upTo(listLength(piece.spans)))
  },
  setAside: (piece) => setAside(piece, passage(piece), { id: `offcut ${next()}`, at: '2026-11-25T17:40:00Z' }),
  putBack: (piece) => {
    const [offcut] = offcutsOf(piece)
    return offcut ? takeBack(piece, offcut, upTo(listLength(piece.spans))) : []
  },
  bringBack: (piece) => {
    const all = nicks(piece)
    return all.length ? bringBack(piece, all[upTo(all.length)]) : []
  },
  startIn: (piece) => endIn(piece, 'head', wordsOf, BEYOND),
  endIn: (piece) => endIn(piece, 'tail', wordsOf, BEYOND),
  startOut: (piece) => endOut(piece, 'head', wordsOf, BEYOND),
  endOut: (piece) => endOut(piece, 'tail', wordsOf, BEYOND),
  ownPatch: (piece) =>
    layPatch(piece, passage(piece), { tape: 'a', from: 55 * EACH, to: 56 * EACH, own: true }, { left: plainJoin(), right: plainJoin() }),
  patchOff: (piece) => {
    const [patch] = patches(piece)
    return patch ? takeOffPatch(piece, patch) : []
  },
}
const NAMES = Object.keys(ACTS)

/** Entries of the record that are wrong after a history: words told that are not gone, gone and not told, or told twice. */
function wrongEntries(): number {
  let piece = fresh()
  const ever = heardByCount(piece)
  for (let i = 0; i < 4 + upTo(10); i++) {
    const steps = ACTS[NAMES[upTo(NAMES.length)]](piece)
    const after = done(piece, steps)
    if (listLength(after.spans) < 4 * EACH) continue
    piece = after
    // sound that was laid over from elsewhere, and taken off again, was never taken out of what was said
    for (const word of heardByCount({ ...piece, spans: piece.spans.filter(({ patch }) => !patch?.own) })) ever.add(word)
  }
  const now = heardByCount(piece)
  const gone = [...ever].filter((word) => !now.has(word))
  const told = fairRecord(piece, { wordsOf, offOf: () => [] }).parts.flatMap((part) =>
    (part.kind === 'out' ? part.text : part.kind === 'patched' ? part.replaced : '').split(' ').filter(Boolean),
  )
  // words that were never heard here lie between passages that were joined: they are told, and rightly
  const wrong = told.filter((word) => now.has(word)).length + gone.filter((word) => !told.includes(word)).length
  return wrong + told.length - new Set(told).size
}

let wrong = 0
for (let i = 0; i < HISTORIES; i++) wrong += wrongEntries()
report({ measure: 'truth', name: 'truth.record', value: wrong, unit: `wrong entries in ${HISTORIES} random histories` })

// --- bringing back
const sound = random(7)
const NOISE = [0, 1].map(() => Float32Array.from({ length: TAPE + 10_000 }, () => sound() - 0.5))
const facts = (id: string): TapeFacts => ({ id, frames: TAPE, sides: SIDES, tone: { sound: id, quiet: [{ from: 0, to: 40_000 }] } })
const read = (_: string, channel: number, from: Frames, to: Frames) =>
  Float32Array.from({ length: to - from }, (__, i) => NOISE[channel][from + i] ?? 0)
const render = (piece: Actuality) => renderAll(piecePlan(piece, facts), read)[0]

function rich(): Actuality {
  let piece = fresh()
  const shaping: Act[] = [
    (now) => shapeLevel(now, passage(now), () => -9 + upTo(12)),
    (now) => toggleMute(now, passage(now)),
    (now) => toggleSideMute(now, passage(now), upTo(2)),
    (now) => slipSide(now, passage(now), 1, 480),
    (now) =>
      layPatch(now, passage(now), { tape: 'a', from: 2 * EACH, to: 3 * EACH + upTo(900) }, { left: plainJoin(), right: plainJoin() }),
    (now) => takeOut(now, passage(now)),
    (now) => holdTime(now, passage(now)),
    (now) => movePassage(now, passage(now), upTo(listLength(now.spans))),
  ]
  for (let i = 0; i < 6; i++) piece = done(piece, shaping[upTo(shaping.length)](piece))
  return piece
}

let differ = 0
for (let i = 0; i < HISTORIES; i++) {
  const piece = rich()
  const held = i % 2 === 0
  let stretch = passage(piece)
  // what is held already cannot be held again
  while (held && slice(piece.spans, stretch.from, stretch.to).some(({ sound: of }) => of !== 'tape')) stretch = passage(piece)
  const out = done(piece, (held ? holdTime : takeOut)(piece, stretch))
  const known = new Set(nicks(piece).map(({ how, tape, from, to }) => `${how}/${tape}/${from}/${to}`))
  const gone = nicks(out).filter(
    ({ how, at, tape, from, to }) =>
      at >= stretch.from && at <= stretch.to && (how === 'held') === held && !known.has(`${how}/${tape}/${from}/${to}`),
  )
  // the last place first, so that none moves another; what was taken out at one place comes back as one
  const back = (held ? gone.reverse() : gone.slice(0, 1)).reduce((now, nick) => done(now, bringBack(now, nick)), out)
  const [was, is] = [render(piece), render(back)]
  if (was.length !== is.length || was.some((sample, at) => Math.abs(sample - is[at]) > 1e-6)) differ++
}
report({ measure: 'truth', name: 'truth.bringback', value: differ, unit: `pieces that sound otherwise, of ${HISTORIES}` })

// --- joins that run on
const constant = (_: string, __: number, from: Frames, to: Frames) => new Float32Array(to - from).fill(0.5)
let worst = 0
for (let i = 0; i < HISTORIES; i++) {
  const at = 5000 + upTo(20_000)
  const dB = upTo(13) - 6
  const join = { fade: 2 + upTo(3000), shape: next() < 0.5 ? ('power' as const) : ('gain' as const), origin: 'hand' as const, heard: false }
  const left: Span = { tape: 'a', from: 0, to: at, sound: 'tape' }
  const right: Span = { tape: 'a', from: at, to: 40_000, sound: 'tape', level: [{ at: 0, dB }], join }
  const mono = (): TapeFacts => ({ ...facts('a'), sides: [{ name: '', channels: [0] }] })
  const [out] = renderAll(planOf([left, right], mono), constant)
  const [low, high] = [Math.min(0, dB), Math.max(0, dB)]
  for (let frame = at - 2000; frame < at + 2000; frame++) {
    const level = 20 * Math.log10(out[frame] / 0.5)
    worst = Math.max(worst, low - level, level - high)
  }
}
report({
  measure: 'truth',
  name: 'truth.flat',
  value: Math.max(0, worst),
  unit: `dB beyond the two levels at ${HISTORIES} joins that run on`,
})

// --- lengths of a page
const block = (id: string, kind: Block['kind'], words: number, piece: string | null): Block => ({
  id,
  kind,
  order: id,
  aside: false,
  text: Array(words).fill('word').join(' '),
  reader: '',
  pace: 170,
  piece,
})
const handle = toFrames(0.3)
let off = 0
for (let i = 0; i < HISTORIES; i++) {
  const lengths = new Map<string, { length: Frames; head: Frames; tail: Frames }>()
  const blocks = Array.from({ length: 2 + upTo(8) }, (_, at): Block => {
    const kind = (['intro', 'copy', 'copy', 'actuality'] as const)[upTo(4)]
    const id = `b${at}`
    if (kind === 'actuality') lengths.set(id, { length: toFrames(2 + next() * 9), head: upTo(20_000), tail: upTo(20_000) })
    return block(id, kind, 3 + upTo(30), kind === 'actuality' ? id : null)
  })
  const recorded = blocks.map((one): Block => {
    if (one.kind !== 'copy') return one
    const words = readingTime(one.text, one.pace!)
    lengths.set(`v${one.id}`, { length: words + 2 * handle, head: handle, tail: handle })
    return { ...one, piece: `v${one.id}` }
  })
  const lengthOf = (id: string) => lengths.get(id)
  off +=
    Math.abs(onAir(blocks, lengthOf).length - onAir(recorded, lengthOf).length) +
    Math.abs(inFile(blocks, lengthOf, 'tone').length - inFile(recorded, lengthOf, 'tone').length)
}
report({ measure: 'truth', name: 'truth.trt', value: off, unit: `frames between unrecorded and recorded pages, of ${HISTORIES}` })

// --- pauses on speech without full stops
requirePackages('flite')
const CUTS = 100
let [short, long] = [0, 0]
let [cutsBetween, cutsWithin] = [0, 0]
for (const [v, voice] of VOICES.entries()) {
  const { sound: samples, truth } = spoken(voice, 240, 31 + v)
  const ends = truth.map(({ text }) => /[.]$/.test(text))
  const bare = truth.map(({ text, from, to }): Word => ({ text: text.replace(/[.,?!]/g, ''), from, to }))
  const starts = bare.flatMap((_, i) => (i === 0 || ends[i - 1] ? [i] : []))
  const pauses = starts
    .slice(1)
    .map((i) => bare[i].from - bare[i - 1].to)
    .sort((a, b) => a - b)
  const usual = pauses[pauses.length >> 1]
  const heard = (asked: Frames): Heard => {
    const { from, to } = soundAround({ tape: 't', asked, low: 0, high: samples.length }, samples.length)
    return { words: bare, sound: samples.subarray(from, to), start: from }
  }
  /** What is left between the words once words `[a, b)` are taken out. */
  const leaves = (a: number, b: number): Frames => {
    const jitter = () => upTo(toFrames(0.05))
    const [from, to] = [
      bare[a].from - Math.min(jitter(), Math.max(0, bare[a].from - bare[a - 1].to)),
      bare[b - 1].to + Math.min(jitter(), Math.max(0, bare[b].from - bare[b - 1].to)),
    ]
    const order: CutOrder = {
      left: { tape: 't', asked: from, low: 0, high: samples.length },
      right: { tape: 't', asked: to, low: 0, high: samples.length },
    }
    const placed = placeCut(order, heard(from), heard(to))
    return Math.max(0, placed.left - bare[a - 1].to) + Math.max(0, bare[b].from - placed.right) + placed.lacks
  }
  const share = Math.ceil(CUTS / VOICES.length)
  for (let i = 0; i < share && cutsBetween < CUTS; i++, cutsBetween++) {
    const first = 1 + upTo(starts.length - 4)
    if (leaves(starts[first], starts[first + 1 + upTo(2)]) < 0.6 * usual) short++
  }
  for (let i = 0; i < share && cutsWithin < CUTS;) {
    const a = 1 + upTo(bare.length - 8)
    const b = a + 1 + upTo(2)
    // within a phrase: no sentence ends at it, or in what goes
    if (ends.slice(a - 1, b).some(Boolean)) continue
    if (leaves(a, b) > toFrames(0.15)) long++
    i++
    cutsWithin++
  }
}
report({ measure: 'truth', name: 'truth.pause', value: short, unit: `cuts between sentences that leave too little, of ${cutsBetween}` })
report({ measure: 'truth', name: 'truth.within', value: long, unit: `cuts within a phrase that leave too much, of ${cutsWithin}` })

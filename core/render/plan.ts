import type { EndFade } from '../edits/actuality'
import type { EditList, Span } from '../edits/editList'
import { longestFade, SHORTEST_END } from '../edits/fades'
import { isRoom, runsOn, sameFrames, spanLength } from '../edits/editList'
import type { MendStep } from '../mend/chain'
import { repairsWithin, type Repair } from '../mend/repair'
import { isMadeTone, soundOf, tapeOf, toneOf } from '../tape/renditions'
import type { Side } from '../tape/tape'
import { milliseconds, type Frames, type Stretch } from '../time'
import type { EndShape, FadeShape, Ramp } from '../sound/fade'
import { factor, type LevelPoint } from '../sound/level'
import type { StageOrder } from './stage'
import { toneGrains } from './tone'

/** A run of frames of one channel of one sound, laid on the time line of what is rendered. */
export interface Strip {
  /** A tape's id, or the name of the room tone that was made for it. */
  sound: string
  channel: number
  pan: Pan
  at: Frames
  length: Frames
  /** The frame of the sound at `at`. */
  from: Frames
  gain: number
  /** Level lines; one counts upon the other. */
  lines?: readonly Line[]
  /** Spots of the sound that are repaired before anything else is done to it. */
  repairs?: readonly Repair[]
  /** What is being tried on its sound, which is `length` frames long. */
  trying?: Trying & { length: Frames }
  /** It is cut below so many hertz; its sound is `length` frames long. */
  lowCut?: LowCut
  ramps: Ramp[]
}

/** A level line: its points are frames of the sound, so that it travels with it, or frames of the plan. */
export interface Line {
  clock: 'sound' | 'plan'
  points: readonly LevelPoint[]
}

/** How loud a strip is left and right, as factors, and how that changes from a frame of the plan to the next. */
export interface Pan {
  left: number
  right: number
  moves?: readonly PanPoint[]
}

export interface PanPoint {
  at: Frames
  left: number
  right: number
}

const MIDDLE: Pan = { left: 1, right: 1 }
const [LEFT, RIGHT]: Pan[] = [
  { left: 1, right: 0 },
  { left: 0, right: 1 },
]

/** All that is to sound, flat: what edit lists and pages become, and what the renderer mixes. */
export interface Plan {
  length: Frames
  channels: 1 | 2
  strips: Strip[]
  /** What is done to the sum, in this order. */
  stages?: readonly StageOrder[]
}

/** A side, with what is being tried on it while it is heard; that is never kept: what is applied is a rendition. */
export interface HeardSide extends Side {
  trying?: Trying
}

export interface LowCut {
  hertz: number
  length: Frames
}

/** Steps of mending that are being tried; `away`: only what they take away is heard. */
export interface Trying {
  steps: readonly MendStep[]
  away?: true
}

/** What must be known of a tape to render from it. */
export interface TapeFacts {
  id: string
  frames: Frames
  sides: HeardSide[]
  /** Renditions of its sides that are made. */
  renditions?: readonly string[]
  /** Where its room tone comes from: quiet stretches of its own, or of a tone made from its noise floor. */
  tone: { sound: string; quiet: Stretch[] }
}

export type FactsOf = (tape: string) => TapeFacts

/** How long a side and its room tone cross over. */
const MUTE_FADE = milliseconds(20)
/** What begins and ends anywhere leaves no click. */
export const SHORT_END: EndFade = { length: SHORTEST_END, shape: 'gain' }

const channelsOf = (facts: TapeFacts): 1 | 2 => (facts.sides.some((side) => side.channels.length === 2) ? 2 : 1)

/** What is known of tapes, with their sides as a piece has them. */
export function withSides(factsOf: FactsOf, { sides }: { sides?: Readonly<Record<string, HeardSide[]>> }): FactsOf {
  if (!sides) return factsOf
  // asked for each span of a piece
  const known = new Map<string, { of: TapeFacts; facts: TapeFacts }>()
  return (tape) => {
    const of = factsOf(tape)
    if (!Object.hasOwn(sides, tape)) return of
    const last = known.get(tape)
    if (last?.of === of) return last.facts
    const facts = { ...of, sides: sides[tape] }
    known.set(tape, { of, facts })
    return facts
  }
}

type Bare = Pick<Strip, 'at' | 'length' | 'from' | 'gain' | 'lines' | 'ramps'> & Pick<Span, 'lowCut'>

/** One side's channels: alone in the middle, or left and right. */
const sideStrips = (side: HeardSide, sound: string, frames: Frames, { at, length, from, gain, lines, lowCut, ramps }: Bare): Strip[] =>
  side.channels.map((channel, i): Strip => ({
    sound,
    channel,
    pan: side.channels.length === 1 ? MIDDLE : i === 0 ? LEFT : RIGHT,
    at,
    length,
    from,
    gain: gain * (side.level ? factor(side.level) : 1) * (side.flip ? -1 : 1),
    lines,
    repairs: isMadeTone(sound) ? undefined : repairsWithin(side.repairs, from, from + length),
    ...(side.trying && !isMadeTone(sound) ? { trying: { ...side.trying, length: frames } } : {}),
    ...(lowCut === undefined ? {} : { lowCut: { hertz: lowCut, length: frames } }),
    ramps,
  }))

/** Room tone of one side, for what lies at `from` for `length`. */
const sideTone = (side: Side, facts: TapeFacts, { lowCut }: Span, at: Frames, from: Frames, length: Frames, ramps: Ramp[]): Strip[] =>
  toneGrains(facts.id, facts.tone.quiet, from, from + length).flatMap((grain) =>
    sideStrips(side, toneOf(facts, side), toneLength(facts), {
      at: at + grain.at - from,
      length: grain.length,
      from: grain.from,
      gain: 1,
      lowCut,
      ramps: [...grain.ramps.map((ramp) => ({ ...ramp, at: at + ramp.at - from })), ...ramps],
    }),
  )

/** How long the sound is that room tone is taken from: the tape, or a tone that was made, which is no longer than its quiet. */
const toneLength = ({ frames, tone }: TapeFacts): Frames =>
  isMadeTone(tone.sound) ? tone.quiet.reduce((most, { to }) => Math.max(most, to), 0) : frames

/** A crossfade at an edge of a span, and the span on its other side. */
interface Crossing extends Omit<Ramp, 'shape'> {
  shape: FadeShape
  other: Span
}

/** Whether a side says the same frames on both sides of a join: then a crossfade of equal power would make a bump. */
const sideRunsOn = (span: Span, { other, rise }: Crossing, side: number): boolean =>
  !isRoom(span) &&
  !isRoom(other) &&
  (rise ? sameFrames(other, span) : sameFrames(span, other)) &&
  (span.mutes?.[side] ?? null) === (other.mutes?.[side] ?? null) &&
  (span.slip?.[side] ?? 0) === (other.slip?.[side] ?? 0)

/** The ramps of one side at the crossings of its span: of equal gain where it runs on, of equal power where another sound comes. */
const crossed = (span: Span, side: number, crossings: readonly Crossing[]): Ramp[] =>
  crossings.map((crossing) => {
    const { at, length, rise, shape } = crossing
    const runsOnHere = sideRunsOn(span, crossing, side)
    const changes = !runsOnHere && sameFrames(rise ? crossing.other : span, rise ? span : crossing.other)
    return { at, length, rise, shape: runsOnHere ? 'gain' : changes ? 'power' : shape }
  })

/** The strips of one span from `from` on for `length`, which may reach beyond the span for its crossfades. */
function spanStrips(span: Span, at: Frames, from: Frames, length: Frames, ends: Ramp[], crossings: Crossing[], facts: TapeFacts): Strip[] {
  const strips = facts.sides.flatMap((side, i) => {
    const ramps = [...ends, ...crossed(span, i, crossings)]
    if (isRoom(span) || span.mutes?.[i] === true) return sideTone(side, facts, span, at, from, length, ramps)
    const slip = (side.slip ?? 0) + (span.slip?.[i] ?? 0)
    return mutedParts(span.mutes?.[i] === false ? [] : (side.hush ?? []), from, from + length).flatMap((part) => {
      // where a side gives way to its room, the two cross over around the edge
      const early = part.from > from ? MUTE_FADE / 2 : 0
      const late = part.to < from + length ? MUTE_FADE / 2 : 0
      const start = part.from - early
      const edges: Ramp[] = []
      if (early) edges.push({ at: at + start - from, length: MUTE_FADE, rise: true, shape: 'power' })
      if (late) edges.push({ at: at + part.to - late - from, length: MUTE_FADE, rise: false, shape: 'power' })
      const [place, count] = [at + start - from, part.to + late - start]
      if (part.muted) return sideTone(side, facts, span, place, start, count, [...ramps, ...edges])
      return sideStrips(side, soundOf(facts, side), facts.frames, {
        at: place,
        length: count,
        from: start - slip,
        gain: factor(span.levels?.[i] ?? 0),
        lines: span.level && [{ clock: 'sound', points: slipped(span.level, slip) }],
        lowCut: span.lowCut,
        ramps: [...ramps, ...edges],
      })
    })
  })
  return span.gain ? strips.map((strip) => ({ ...strip, gain: strip.gain * factor(span.gain!) })) : strips
}

/** A level line stays with what is heard, also where a side is heard later than it was recorded. */
const slipped = (line: LevelPoint[], slip: Frames): LevelPoint[] => (slip ? line.map((point) => ({ ...point, at: point.at - slip })) : line)

/** A stretch in parts, by whether a side is muted in them. */
function mutedParts(mutes: readonly Stretch[], from: Frames, to: Frames): (Stretch & { muted: boolean })[] {
  if (!mutes.length) return to > from ? [{ from, to, muted: false }] : []
  const parts: (Stretch & { muted: boolean })[] = []
  let at = from
  for (const one of [...mutes].sort((a, b) => a.from - b.from)) {
    const [start, end] = [Math.max(at, one.from), Math.min(to, one.to)]
    if (end <= start) continue
    if (start > at) parts.push({ from: at, to: start, muted: false })
    const last = parts.at(-1)
    if (last?.muted && last.to === start) last.to = end
    else parts.push({ from: start, to: end, muted: true })
    at = end
  }
  if (to > at) parts.push({ from: at, to, muted: false })
  return parts
}

/** How far the crossfade at each cut reaches to either side, as far as the spans that meet and their tapes allow. */
function reaches(list: EditList, factsOf: FactsOf): Frames[] {
  return list.map((right, i) => {
    const left = list[i - 1]
    if (!left || runsOn(left, right)) return 0
    return Math.floor(
      Math.min(
        right.join?.fade ?? 0,
        longestFade({ left, right }, (tape) => factsOf(tape).frames),
      ) / 2,
    )
  })
}

const NO_FADE: EndFade = { length: 0, shape: 'gain' }

/** A fade at the end of a plan. */
interface End {
  length: Frames
  shape: EndShape
}

function endRamps(length: Frames, head: End, tail: End): Ramp[] {
  const ends: Ramp[] = []
  if (head.length > 0) ends.push({ at: 0, length: Math.min(head.length, length), rise: true, shape: head.shape })
  if (tail.length > 0)
    ends.push({ at: Math.max(0, length - tail.length), length: Math.min(tail.length, length), rise: false, shape: tail.shape })
  return ends
}

/**
 * The plan of an edit list. Crossfades are centred on their cuts and reach over what lies beyond
 * them, so the plan is exactly as long as the list. `head` and `tail` are the fades at its ends,
 * `gain` is in dB.
 */
export function planOf(list: EditList, factsOf: FactsOf, head: EndFade = NO_FADE, tail: EndFade = NO_FADE, gain = 0): Plan {
  const reach = reaches(list, factsOf)
  const strips: Strip[] = []
  const length = list.reduce((sum, span) => sum + spanLength(span), 0)
  const ends = endRamps(length, head, tail)
  let start = 0
  let channels: 1 | 2 = 1
  for (const [i, one] of list.entries()) {
    const span = cutAsAround(list, i, one)
    const before = reach[i]
    const after = reach[i + 1] ?? 0
    const end = start + spanLength(span)
    const ramps = ends.filter((ramp) => ramp.at < end + after && ramp.at + ramp.length > start - before)
    const crossings: Crossing[] = []
    if (before) crossings.push({ at: start - before, length: 2 * before, rise: true, shape: span.join!.shape, other: list[i - 1] })
    if (after) crossings.push({ at: end - after, length: 2 * after, rise: false, shape: list[i + 1].join!.shape, other: list[i + 1] })
    const facts = factsOf(span.tape)
    if (channelsOf(facts) === 2) channels = 2
    strips.push(...spanStrips(span, start - before, span.from - before, end - start + before + after, ramps, crossings, facts))
    start = end
  }
  return { length, channels, strips: gain ? strips.map((strip) => ({ ...strip, gain: strip.gain * factor(gain) })) : strips }
}

/** Room that was added within a passage with a low cut has it too, or what rumbles would be back in each pause. */
function cutAsAround(list: EditList, i: number, span: Span): Span {
  const [before, after] = [list[i - 1]?.lowCut, list[i + 1]?.lowCut]
  return span.sound === 'room' && before !== undefined && after !== undefined ? { ...span, lowCut: Math.min(before, after) } : span
}

/** What one side of a tape says in a plan, for hearing it alone. What comes of other sounds stays. */
export const onlySide = (plan: Plan, { id, sides }: TapeFacts, side: number): Plan => ({
  ...plan,
  strips: plan.strips.filter(({ sound, channel }) => tapeOf(sound) !== id || sides[side]?.channels.some((own) => own === channel)),
})

/** What all sides of a tape but the first say in a plan, without their room. */
export const othersOf = (plan: Plan, facts: TapeFacts): Plan => ({
  ...plan,
  strips: plan.strips.filter(({ sound, channel }) =>
    facts.sides.slice(1).some((side) => soundOf(facts, side) === sound && side.channels.some((own) => own === channel)),
  ),
})

/** The room of a tape for a while, faded in and out over `handle` frames, as a plan: copy that has no voice track yet. */
export const roomPlan = (facts: TapeFacts, length: Frames, handle: Frames): Plan => {
  const end: EndFade = { length: Math.max(handle, SHORTEST_END), shape: 'gain' }
  return planOf([{ tape: facts.id, from: 0, to: length, sound: 'room' }], () => facts, end, end)
}

const later = <T extends { at: Frames }>(things: readonly T[], by: Frames): T[] => things.map((thing) => ({ ...thing, at: thing.at + by }))

/** A plan moved along the time line, with all that is tied to it. */
export function shifted(strips: readonly Strip[], by: Frames): Strip[] {
  if (by === 0) return [...strips]
  return strips.map((strip) => ({
    ...strip,
    at: strip.at + by,
    ramps: later(strip.ramps, by),
    ...(strip.lines
      ? { lines: strip.lines.map((line) => (line.clock === 'plan' ? { ...line, points: later(line.points, by) } : line)) }
      : {}),
    ...(strip.pan.moves ? { pan: { ...strip.pan, moves: later(strip.pan.moves, by) } } : {}),
  }))
}

/** A plan that is faded in at its start and out at its end. */
export function withEnds(plan: Plan, head: End, tail: End): Plan {
  const ends = endRamps(plan.length, head, tail)
  return { ...plan, strips: plan.strips.map((strip) => ({ ...strip, ramps: [...strip.ramps, ...ends] })) }
}

/** The part `[from, to)` of a plan as a plan of its own, without fades added. */
export function part(plan: Plan, from: Frames, to: Frames): Plan {
  const strips: Strip[] = []
  for (const strip of plan.strips) {
    const at = Math.max(strip.at, from)
    const end = Math.min(strip.at + strip.length, to)
    if (end > at) strips.push({ ...strip, at, length: end - at, from: strip.from + at - strip.at })
  }
  return { ...plan, length: to - from, strips: shifted(strips, -from) }
}

import type { EditList, Span } from '../edits/editList'
import { runsOn, spanLength } from '../edits/editList'
import type { Side } from '../tape/tape'
import { milliseconds, type Frames, type Stretch } from '../time'
import type { FadeShape } from './fade'
import type { LevelPoint } from './level'
import { toneGrains } from './tone'

/** A fade on a strip: silent before a rise, full after it; a fall is the other way round. */
export interface Ramp {
  at: Frames
  length: Frames
  rise: boolean
  shape: FadeShape
}

/** A run of frames of one channel of one sound, laid on the time line of what is rendered. */
export interface Strip {
  /** A tape's id, or the name of the room tone that was made for it. */
  sound: string
  channel: number
  pan: 'both' | 'left' | 'right'
  at: Frames
  length: Frames
  /** The frame of the sound at `at`. */
  from: Frames
  gain: number
  line?: LevelPoint[]
  ramps: Ramp[]
}

/** All that is to sound, flat: what edit lists and pages become, and what the renderer mixes. */
export interface Plan {
  length: Frames
  channels: 1 | 2
  strips: Strip[]
}

/** What must be known of a tape to render from it. */
export interface TapeFacts {
  id: string
  frames: Frames
  sides: Side[]
  /** Where its room tone comes from: quiet stretches of its own, or of a tone made from its noise floor. */
  tone: { sound: string; quiet: Stretch[] }
}

export type FactsOf = (tape: string) => TapeFacts

/** Fades at the very ends of a piece are never shorter than this. */
export const SHORTEST_FADE = milliseconds(5)

const channelsOf = (facts: TapeFacts): 1 | 2 => (facts.sides.some((side) => side.channels.length === 2) ? 2 : 1)

function sideStrips(facts: TapeFacts, sound: string, strip: Omit<Strip, 'sound' | 'channel' | 'pan'>): Strip[] {
  const [only] = facts.sides
  if (facts.sides.length === 1 && only.channels.length === 1) return [{ ...strip, sound, channel: only.channels[0], pan: 'both' }]
  return facts.sides.flatMap((side) =>
    side.channels.map((channel, i): Strip => ({
      ...strip,
      sound,
      channel,
      pan: side.channels.length === 1 ? 'both' : i === 0 ? 'left' : 'right',
    })),
  )
}

/** The strips of one span from `from` on for `length`, which may reach beyond the span for its crossfades. */
function spanStrips(span: Span, at: Frames, from: Frames, length: Frames, ramps: Ramp[], facts: TapeFacts): Strip[] {
  if (span.sound === 'tape') return sideStrips(facts, facts.id, { at, length, from, gain: 1, line: span.level, ramps })
  return toneGrains(facts.id, facts.tone.quiet, from, from + length).flatMap((grain) =>
    sideStrips(facts, facts.tone.sound, {
      at: at + grain.at - from,
      length: grain.length,
      from: grain.from,
      gain: 1,
      ramps: [...grain.ramps.map((ramp) => ({ ...ramp, at: at + ramp.at - from })), ...ramps],
    }),
  )
}

/** How far the crossfade at each cut reaches to either side, as far as the spans that meet and their tapes allow. */
function reaches(list: EditList, factsOf: FactsOf): Frames[] {
  return list.map((right, i) => {
    const left = list[i - 1]
    if (!left || runsOn(left, right)) return 0
    const beyondLeft = left.sound === 'tone' ? Infinity : factsOf(left.tape).frames - left.to
    const beyondRight = right.sound === 'tone' ? Infinity : right.from
    const wanted = Math.floor((right.join?.fade ?? 0) / 2)
    return Math.max(0, Math.min(wanted, spanLength(left) >> 1, spanLength(right) >> 1, beyondLeft, beyondRight))
  })
}

/**
 * The plan of an edit list. Crossfades are centred on their cuts and reach over what lies beyond
 * them, so the plan is exactly as long as the list. `head` and `tail` are fade lengths at its ends.
 */
export function planOf(list: EditList, factsOf: FactsOf, head: Frames = 0, tail: Frames = 0): Plan {
  const reach = reaches(list, factsOf)
  const strips: Strip[] = []
  const length = list.reduce((sum, span) => sum + spanLength(span), 0)
  const ends: Ramp[] = []
  if (head > 0) ends.push({ at: 0, length: Math.min(head, length), rise: true, shape: 'gain' })
  if (tail > 0) ends.push({ at: Math.max(0, length - tail), length: Math.min(tail, length), rise: false, shape: 'gain' })
  let start = 0
  let channels: 1 | 2 = 1
  for (const [i, span] of list.entries()) {
    const before = reach[i]
    const after = reach[i + 1] ?? 0
    const end = start + spanLength(span)
    const ramps = ends.filter((ramp) => ramp.at < end + after && ramp.at + ramp.length > start - before)
    if (before) ramps.push({ at: start - before, length: 2 * before, rise: true, shape: span.join!.shape })
    if (after) ramps.push({ at: end - after, length: 2 * after, rise: false, shape: list[i + 1].join!.shape })
    const facts = factsOf(span.tape)
    if (channelsOf(facts) === 2) channels = 2
    strips.push(...spanStrips(span, start - before, span.from - before, end - start + before + after, ramps, facts))
    start = end
  }
  return { length, channels, strips }
}

/** Room tone of a tape for a while, as a plan: stands for copy that has no voice track yet. */
export const tonePlan = (facts: TapeFacts, length: Frames): Plan =>
  planOf([{ tape: facts.id, from: 0, to: length, sound: 'tone' }], () => facts, SHORTEST_FADE, SHORTEST_FADE)

/** A plan moved along the time line. */
export function shifted(strips: readonly Strip[], by: Frames): Strip[] {
  if (by === 0) return [...strips]
  return strips.map((strip) => ({
    ...strip,
    at: strip.at + by,
    ramps: strip.ramps.map((ramp) => ({ ...ramp, at: ramp.at + by })),
  }))
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

import type { LevelPoint } from '../sound/level'
import type { FadeShape } from '../sound/fade'
import { milliseconds, type Frames, type Stretch } from '../time'

/** Where two spans meet. It belongs to the span on its right. */
export interface Join {
  /** Length of the crossfade, centred on the cut. It reaches over what lies beyond, and adds no time. */
  fade: Frames
  shape: FadeShape
  /** Who made it: a hand, a split, or a paint over one of its sides while the tape runs on. */
  origin: 'hand' | 'split' | 'paint'
  /** Whether a person has played across it. */
  heard: boolean
  /** The finder on whose suggestion it was made. */
  finder?: string
  /** Where a person put its edges, in frames of the tapes, if they were then placed elsewhere, and the reasons for that. */
  asked?: { left: Frames; right: Frames; why: string }
  /** What was taken out here, with its levels, mutes, patches and joins, if that is more than a plain stretch of tape. */
  took?: Taken
}

/** What a passage was when it was taken out: its spans, and the join that followed them. */
export interface Taken {
  spans: Span[]
  after: Join | null
}

/** What a patch stands for: a stretch of a tape, and which frames of the patch's own tape were laid over it. */
export interface Patch extends Stretch {
  tape: string
  laid: Stretch
  /** It says words of its own, not those that it stands for. */
  own?: true
  /** It fills time that was held: what it stands for was room tone. */
  held?: true
  /** It fills room that was added: it stands for nothing. */
  room?: true
  /**
   * What it was laid over, where that was more than one plain stretch; `tape`, `from` and `to` then only tell its first
   * frame and its last.
   */
  under?: Span[]
}

/**
 * A stretch of one tape, all its sides in step. A span names a tape, never a rendition.
 * `tone`: the room's own tone stands for the same frames of the tape, time is held.
 * `room`: room tone that was added. It stands for nothing; its frames only tell where on the tape the room is taken from.
 */
export interface Span {
  tape: string
  from: Frames
  to: Frames
  sound: 'tape' | 'tone' | 'room'
  /** Level line, anchored to frames of the tape, so that it travels with them. */
  level?: LevelPoint[]
  /** Gain over all of it, room tone too, in dB; absent means 0. */
  gain?: number
  /** Set where the span is laid over other sound. */
  patch?: Patch
  /** Kept out of what is heard and sent, though it is shown: room tone takes its time. */
  mute?: true
  /** Its tape's sides that are muted here (true), or heard here though muted on the tape (false), in the order of the sides. */
  mutes?: readonly (boolean | null)[]
  /** How much later each of its tape's sides is heard here than it was said, in the order of the sides. */
  slip?: readonly Frames[]
  /** How much louder each of its tape's sides is heard here, in dB, in the order of the sides. */
  levels?: readonly number[]
  /** Below so many hertz it is cut, on all sides, held time too; absent means as recorded. */
  lowCut?: number
  join?: Join
}

/**
 * An edit list in normal form: no empty span; neighbours that run on without a join are one
 * span; neighbours that do not run on have a join; the first has none.
 */
export type EditList = readonly Span[]

export const DEFAULT_FADE = milliseconds(8)

export const plainJoin = (): Join => ({ fade: DEFAULT_FADE, shape: 'power', origin: 'hand', heard: false })

const PAINT_FADE = milliseconds(20)

/** The join at a place where the tape runs on and only a level or a mute changes. */
export const paintJoin = (): Join => ({ fade: PAINT_FADE, shape: 'gain', origin: 'paint', heard: false })

export const spanLength = (span: Span): Frames => span.to - span.from

/** Whether the room's own tone is heard in place of what a span names. */
export const isRoom = ({ sound, mute }: Pick<Span, 'sound' | 'mute'>): boolean => sound !== 'tape' || mute === true

/** Whether a span stands for a stretch of its tape; added room, and what fills it, does not. */
export const stands = ({ sound, patch }: Pick<Span, 'sound' | 'patch'>): boolean => sound !== 'room' && !patch?.room

/** The stretch of tape in whose place a span stands: its own, but for a patch. */
export function standsFor(span: Span): Stretch & { tape: string } {
  const { patch } = span
  if (!patch) return span
  const scale = (patch.to - patch.from) / (patch.laid.to - patch.laid.from)
  // one that was drawn out stands for more than it was laid over, but never for what lies before its tape
  const at = (frame: Frames) => Math.max(0, Math.round(patch.from + (frame - patch.laid.from) * scale))
  return { tape: patch.tape, from: at(span.from), to: at(span.to) }
}

/** The stretch of tape whose words a span says. */
export const saidBy = (span: Span): Stretch & { tape: string } => (span.patch?.own ? span : standsFor(span))

/** The tapes that a list sounds of, and those that its patches stand for. */
export const tapesOf = (list: EditList): string[] =>
  [...new Set(list.flatMap(({ tape, patch }) => (patch ? [tape, patch.tape] : [tape])))].sort()

export const listLength = (list: EditList): Frames => list.reduce((sum, span) => sum + spanLength(span), 0)

export function sameLine(a: LevelPoint[] | undefined, b: LevelPoint[] | undefined): boolean {
  if (a === b) return true
  if (!a || !b || a.length !== b.length) return false
  return a.every((point, i) => point.at === b[i].at && point.dB === b[i].dB)
}

function samePatch(a: Patch | undefined, b: Patch | undefined): boolean {
  if (a === b) return true
  if (!a || !b) return false
  return (
    a.tape === b.tape &&
    a.from === b.from &&
    a.to === b.to &&
    a.own === b.own &&
    a.held === b.held &&
    a.room === b.room &&
    a.under === b.under &&
    a.laid.from === b.laid.from &&
    a.laid.to === b.laid.to
  )
}

/** Whether two lists of values by side say the same; what is left out is `none`. */
function sameBySide<V>(a: readonly V[] = [], b: readonly V[] = [], none: V): boolean {
  for (let i = 0; i < Math.max(a.length, b.length); i++) if ((a[i] ?? none) !== (b[i] ?? none)) return false
  return true
}

/** Whether two spans of one tape are heard in the same way: level, mutes, patch, slip, low cut. */
export const sameTreatment = (left: Span, right: Span): boolean =>
  left.sound === right.sound &&
  left.mute === right.mute &&
  (left.gain ?? 0) === (right.gain ?? 0) &&
  sameLine(left.level, right.level) &&
  samePatch(left.patch, right.patch) &&
  sameBySide<boolean | null>(left.mutes, right.mutes, null) &&
  sameBySide(left.slip, right.slip, 0) &&
  sameBySide(left.levels, right.levels, 0) &&
  left.lowCut === right.lowCut

/** Whether the frames of the tape run on from one span into the other, whatever is done to either. */
export const sameFrames = (left: Span, right: Span): boolean => left.tape === right.tape && left.to === right.from

/** Whether the sound runs on from one span into the other, so that no cut can be heard. */
export const runsOn = (left: Span, right: Span): boolean => sameFrames(left, right) && sameTreatment(left, right)

export function withoutJoin({ join: _, ...span }: Span): Span {
  return span
}

const withJoin = (span: Span, join: Join | undefined): Span => (span.join === join ? span : join ? { ...span, join } : withoutJoin(span))

/**
 * Brings spans into normal form, behind those of a list that has it. Where the tape runs on, a join that only a paint made
 * goes with it.
 */
export function normal(spans: Iterable<Span>, behind: EditList = []): Span[] {
  const list = [...behind]
  for (const span of spans) {
    if (span.to <= span.from) continue
    const last = list[list.length - 1]
    if (!last) list.push(withJoin(span, undefined))
    else if (runsOn(last, span) && (!span.join || span.join.origin === 'paint')) list[list.length - 1] = { ...last, to: span.to }
    else list.push(span.join ? span : withJoin(span, sameFrames(last, span) ? paintJoin() : plainJoin()))
  }
  return list
}

/** Spans between two parts of a list. Most of a long list stays as it was: only where they meet is it brought into normal form. */
export function putBetween(before: EditList, spans: readonly Span[], rest: EditList): Span[] {
  const list = normal([...spans, ...rest.slice(0, 1)], before)
  for (const span of rest.slice(1)) list.push(span)
  return list
}

/** The span at a position and where it starts; a position at a cut belongs to the right. Null past the end. */
export function spanAt(list: EditList, position: Frames): { span: Span; index: number; start: Frames } | null {
  let start = 0
  for (const [index, span] of list.entries()) {
    const end = start + spanLength(span)
    if (position < end) return { span, index, start }
    start = end
  }
  return null
}

/** The join at a position, or null where none lies. */
export function joinAt(list: EditList, position: Frames): Join | null {
  const found = spanAt(list, position)
  return found && found.start === position ? (found.span.join ?? null) : null
}

/** Raw spans of `[from, to)`, each with the join at its own start; not yet in normal form. */
export function slice(list: EditList, from: Frames, to: Frames): Span[] {
  const out: Span[] = []
  let start = 0
  for (const span of list) {
    const end = start + spanLength(span)
    // what lies in it whole is the same span: most of a long list is not written again
    if (start >= from && end <= to) out.push(span)
    else if (end > from && start < to && to > from) {
      const cut: Span = {
        ...span,
        from: span.from + Math.max(0, from - start),
        to: span.to - Math.max(0, end - to),
      }
      out.push(start < from ? withJoin(cut, undefined) : cut)
    }
    if (start >= to) break
    start = end
  }
  return out
}

/**
 * The list with `[from, to)` replaced by `insert`, and with `after` as the join of what follows.
 * Joins are never lost: where sound does not run on and no join is given, a plain one is set.
 */
export function splice(list: EditList, from: Frames, to: Frames, insert: readonly Span[], after: Join | null): Span[] {
  const rest = slice(list, to, Infinity)
  if (rest.length) rest[0] = withJoin(rest[0], after ?? undefined)
  return putBetween(slice(list, 0, from), insert, rest)
}

/** What a patch, or the part of it that is left, was laid over, where that was more than one plain stretch; null where it was one. */
export function underneath(span: Span): Span[] | null {
  const { patch, from, to } = span
  if (!patch?.under) return null
  const scale = listLength(patch.under) / (patch.laid.to - patch.laid.from)
  return slice(patch.under, Math.round((from - patch.laid.from) * scale), Math.round((to - patch.laid.from) * scale))
}

/** Every cut of a list: where it lies, its join, and the spans that meet. */
export interface Cut {
  at: Frames
  index: number
  left: Span
  right: Span
  join: Join
}

/** Lists never change, so what was worked out for one is kept with it. */
const known = new WeakMap<EditList, Cut[]>()

export function cuts(list: EditList): readonly Cut[] {
  let found = known.get(list)
  if (found) return found
  found = []
  let at = 0
  for (let index = 1; index < list.length; index++) {
    at += spanLength(list[index - 1])
    found.push({ at, index, left: list[index - 1], right: list[index], join: list[index].join ?? plainJoin() })
  }
  known.set(list, found)
  return found
}

/** One edit: two spans that stand for tape, and the added room between them. A cut without room is an edit too. */
export interface Edit extends Cut {
  /** How much room was added between the two sides, in frames; 0 for none. */
  room: Frames
  /** Whether a person has played every join of it. */
  played: boolean
}

const knownEdits = new WeakMap<EditList, Edit[]>()

/** Whether at a cut nothing but a level, or what one side says, changes: nobody would call that an edit. */
const onlyPainted = ({ left, right, join }: Cut): boolean =>
  join.origin === 'paint' &&
  sameFrames(left, right) &&
  left.sound === right.sound &&
  left.mute === right.mute &&
  sameBySide(left.slip, right.slip, 0)

/** Every edit of a list, in order. Room at the ends of a list belongs to none. */
export function edits(list: EditList): readonly Edit[] {
  let found = knownEdits.get(list)
  if (found) return found
  found = []
  let open: Edit | null = null
  for (const cut of cuts(list)) {
    if (!open && onlyPainted(cut)) continue
    const { at, index, left, right, join } = cut
    open ??= { at, index, left, right, join, room: 0, played: true }
    open.index = index
    open.right = right
    open.played &&= join.heard
    if (!stands(cut.right)) {
      open.room += spanLength(cut.right)
      continue
    }
    if (stands(open.left)) found.push(open)
    open = null
  }
  knownEdits.set(list, found)
  return found
}

/** The frame of the tape that sounds at a position; at the very end, the frame after the last. */
export function toTape(list: EditList, position: Frames): { tape: string; frame: Frames } | null {
  const found = spanAt(list, position)
  if (found) return { tape: found.span.tape, frame: found.span.from + position - found.start }
  const last = list[list.length - 1]
  return last ? { tape: last.tape, frame: last.to } : null
}

/** Where a frame of a tape sounds in the list; the nearest kept place before or after it where it was taken out. */
export function fromTape(list: EditList, tape: string, frame: Frames): Frames | null {
  let start = 0
  let nearest: { distance: Frames; position: Frames } | null = null
  for (const span of list) {
    const length = spanLength(span)
    if (span.tape === tape && stands(span)) {
      if (frame >= span.from && frame < span.to) return start + frame - span.from
      const before = frame < span.from
      const distance = before ? span.from - frame : frame - span.to + 1
      if (!nearest || distance < nearest.distance) nearest = { distance, position: before ? start : start + length }
    }
    start += length
  }
  return nearest?.position ?? null
}

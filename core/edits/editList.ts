import type { LevelPoint } from '../sound/level'
import type { FadeShape } from '../sound/fade'
import { milliseconds, type Frames, type Stretch } from '../time'

/** Where two spans meet. It belongs to the span on its right. */
export interface Join {
  /** Length of the crossfade, centred on the cut. It reaches over what lies beyond, and adds no time. */
  fade: Frames
  shape: FadeShape
  /** Who made it. */
  origin: 'hand' | 'split'
  /** Whether a person has played across it. */
  heard: boolean
  /** Where a hand put its edges, in frames of the tapes, where they were then placed otherwise, and why there. */
  asked?: { left: Frames; right: Frames; why: string }
}

/** What a patch stands for: a stretch of a tape, and which frames of the patch's own tape were laid over it. */
export interface Patch extends Stretch {
  tape: string
  laid: Stretch
  /** It says words of its own, not those that it stands for. */
  own?: true
  /** It fills time that was held: what it stands for was room tone. */
  held?: true
}

/**
 * A stretch of one tape, all its sides in step. Where `sound` is `tone`, the room's own tone
 * stands in for the same frames of the tape: time is held. A span names a tape, never a rendition.
 */
export interface Span {
  tape: string
  from: Frames
  to: Frames
  sound: 'tape' | 'tone'
  /** Level line, anchored to frames of the tape, so that it travels with them. */
  level?: LevelPoint[]
  /** Set where the span is laid over other sound. */
  patch?: Patch
  /** Kept out of what is heard and sent, though it is shown: room tone takes its time. */
  mute?: true
  /** How much later each of its tape's sides is heard here than it was said, in the order of the sides. */
  slip?: readonly Frames[]
  join?: Join
}

/**
 * An edit list in normal form: no empty span; neighbours that run on without a join are one
 * span; neighbours that do not run on have a join; the first has none.
 */
export type EditList = readonly Span[]

export const DEFAULT_FADE = milliseconds(8)

export const plainJoin = (): Join => ({ fade: DEFAULT_FADE, shape: 'power', origin: 'hand', heard: false })

export const spanLength = (span: Span): Frames => span.to - span.from

/** Whether the room's own tone is heard in place of what a span names. */
export const isRoom = ({ sound, mute }: Pick<Span, 'sound' | 'mute'>): boolean => sound === 'tone' || mute === true

/** The stretch of tape in whose place a span stands: its own, but for a patch. */
export function standsFor(span: Span): Stretch & { tape: string } {
  const { patch } = span
  if (!patch) return span
  const scale = (patch.to - patch.from) / (patch.laid.to - patch.laid.from)
  const at = (frame: Frames) => Math.round(patch.from + (frame - patch.laid.from) * scale)
  return { tape: patch.tape, from: at(span.from), to: at(span.to) }
}

/** The stretch of tape whose words a span says. */
export const saidBy = (span: Span): Stretch & { tape: string } => (span.patch?.own ? span : standsFor(span))

/** The tapes that a list sounds of, and those that its patches stand for. */
export const tapesOf = (list: EditList): string[] => [...new Set(list.flatMap(({ tape, patch }) => (patch ? [tape, patch.tape] : [tape])))].sort()

export const listLength = (list: EditList): Frames => list.reduce((sum, span) => sum + spanLength(span), 0)

export function sameLine(a: LevelPoint[] | undefined, b: LevelPoint[] | undefined): boolean {
  if (a === b) return true
  if (!a || !b || a.length !== b.length) return false
  return a.every((point, i) => point.at === b[i].at && point.dB === b[i].dB)
}

function samePatch(a: Patch | undefined, b: Patch | undefined): boolean {
  if (a === b) return true
  if (!a || !b) return false
  return a.tape === b.tape && a.from === b.from && a.to === b.to && a.own === b.own && a.held === b.held && a.laid.from === b.laid.from && a.laid.to === b.laid.to
}

const sameSlip = (a: readonly Frames[] = [], b: readonly Frames[] = []): boolean => Array.from({ length: Math.max(a.length, b.length) }, (_, i) => i).every((i) => (a[i] ?? 0) === (b[i] ?? 0))

/** Whether the sound runs on from one span into the other, so that no cut can be heard. */
export const runsOn = (left: Span, right: Span): boolean =>
  left.tape === right.tape &&
  left.sound === right.sound &&
  left.to === right.from &&
  left.mute === right.mute &&
  sameLine(left.level, right.level) &&
  samePatch(left.patch, right.patch) &&
  sameSlip(left.slip, right.slip)

export function withoutJoin({ join: _, ...span }: Span): Span {
  return span
}

const withJoin = (span: Span, join: Join | undefined): Span => (span.join === join ? span : join ? { ...span, join } : withoutJoin(span))

/** Brings spans into normal form. */
export function normal(spans: Iterable<Span>): Span[] {
  const list: Span[] = []
  for (const span of spans) {
    if (span.to <= span.from) continue
    const last = list[list.length - 1]
    if (!last) list.push(withJoin(span, undefined))
    else if (runsOn(last, span) && !span.join) list[list.length - 1] = { ...last, to: span.to }
    else list.push(span.join ? span : withJoin(span, plainJoin()))
  }
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
    if (end > from && start < to && to > from) {
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
  const rest = slice(list, to, listLength(list))
  if (rest.length) rest[0] = withJoin(rest[0], after ?? undefined)
  return normal([...slice(list, 0, from), ...insert, ...rest])
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
    if (span.tape === tape) {
      if (frame >= span.from && frame < span.to) return start + frame - span.from
      const before = frame < span.from
      const distance = before ? span.from - frame : frame - span.to + 1
      if (!nearest || distance < nearest.distance) nearest = { distance, position: before ? start : start + length }
    }
    start += length
  }
  return nearest?.position ?? null
}

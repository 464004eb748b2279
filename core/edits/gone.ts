import type { Frames, Stretch } from '../time'
import { without } from '../tape/tape'
import type { Actuality } from './actuality'
import { edits, listLength, spanLength, stands, standsFor, underneath, type Edit, type EditList, type Span } from './editList'

/** What a piece no longer says of its tapes: what was taken out at its edits, held, muted, or cut off its ends. */

type Piece = Pick<Actuality, 'spans' | 'cutHead' | 'cutTail'>

/** A place where something was taken out. */
export interface Nick {
  how: 'closed' | 'held' | 'head' | 'tail'
  /** Where it stands in the piece, and how long the held time is (0 where it was closed up). */
  at: Frames
  held: Frames
  tape: string
  /** What went, on the tape, from its first frame to its last. */
  from: Frames
  to: Frames
  /** What of it is not kept elsewhere in the piece; it may lie on several tapes. */
  parts: readonly Place[]
}

export type Place = Stretch & { tape: string }

/** The stretches of tape that spans stand for. */
export const placesOf = (spans: EditList): Place[] =>
  spans.filter(stands).flatMap((span) => {
    const under = underneath(span)
    if (under) return placesOf(under)
    const { tape, from, to } = standsFor(span)
    return [{ tape, from, to }]
  })

/** Lists never change, so what was worked out for one is kept with it. */
const known = new WeakMap<EditList, readonly Place[]>()

/** What spans stand for, and what had been taken out within them before. */
export function allOf(spans: EditList): readonly Place[] {
  let all = known.get(spans)
  if (!all) {
    all = spans.length ? [...placesOf(spans), ...nicks({ spans }).flatMap(({ parts }) => parts)] : []
    known.set(spans, all)
  }
  return all
}

const lessAll = (place: Place, others: readonly Place[]): Place[] =>
  without(place, others.filter(({ tape }) => tape === place.tape)).map((part) => ({ tape: place.tape, ...part }))

/** Places in order of their tapes' time, none over another. */
function inOrder(places: readonly Place[]): Place[] {
  const out: Place[] = []
  for (const place of [...places].sort((a, b) => (a.tape === b.tape ? a.from - b.from : a.tape < b.tape ? -1 : 1))) {
    const last = out[out.length - 1]
    if (last && last.tape === place.tape && place.from <= last.to) last.to = Math.max(last.to, place.to)
    else out.push({ ...place })
  }
  return out
}

/** The stretch of tape between the two sides of an edit. Null where they do not lie in order on one tape. */
export function betweenSides({ left, right }: Pick<Edit, 'left' | 'right'>): Place | null {
  const [before, after] = [standsFor(left), standsFor(right)]
  return before.tape === after.tape && after.from > before.to ? { tape: before.tape, from: before.to, to: after.from } : null
}

/** All nicks of a piece, in order. What is kept elsewhere in the piece was moved, not taken out, and is none. */
export function nicks({ spans, cutHead, cutTail }: Piece): Nick[] {
  const told = placesOf(spans)
  /** What of some places is neither kept nor told at another nick. */
  const fresh = (places: readonly Place[]): Place[] => {
    const parts = inOrder(places).flatMap((one) => lessAll(one, told))
    told.push(...parts)
    return parts
  }
  const found: Nick[] = []
  const tell = (place: Pick<Nick, 'how' | 'at' | 'held'>, parts: readonly Place[]) => {
    if (parts.length) found.push({ ...place, ...hullOf(parts), parts })
  }
  tell({ how: 'head', at: 0, held: 0 }, fresh(allOf(cutHead?.spans ?? [])))
  tell({ how: 'tail', at: listLength(spans), held: 0 }, fresh(allOf(cutTail?.spans ?? [])))
  for (const [edit, parts] of wentAtEdits(spans, fresh, told)) tell({ how: 'closed', at: edit.at, held: 0 }, inOrder(parts))
  let at = 0
  for (const span of spans) {
    if (span.sound === 'tone') tell({ how: 'held', at, held: spanLength(span) }, [heldPlace(span)])
    at += spanLength(span)
  }
  return found.sort((one, other) => one.at - other.at)
}

/**
 * What went at each edit. What is remembered there, or lies against one of its sides, is its own; what lies
 * further off between them may be another edit's, and is told here only where it is no other's.
 */
function wentAtEdits(spans: EditList, fresh: (places: readonly Place[]) => Place[], told: readonly Place[]): Map<Edit, Place[]> {
  const went = new Map<Edit, Place[]>()
  const add = (edit: Edit, parts: readonly Place[]) => parts.length && went.set(edit, [...(went.get(edit) ?? []), ...parts])
  const all = edits(spans)
  for (const edit of all) add(edit, fresh(allOf(edit.join.took?.spans ?? [])))
  for (const near of [true, false])
    for (const edit of all) {
      const between = betweenSides(edit)
      if (!between) continue
      const parts = lessAll(between, told)
      add(edit, fresh(near ? parts.filter(({ from, to }) => from === between.from || to === between.to) : parts))
    }
  return went
}

/** From the first frame to the last of those places that lie on the tape of the first. */
function hullOf(parts: readonly Place[]): Place {
  const [{ tape }] = parts
  const own = parts.filter((part) => part.tape === tape)
  return { tape, from: Math.min(...own.map(({ from }) => from)), to: Math.max(...own.map(({ to }) => to)) }
}

const heldPlace = (span: Span): Place => {
  const { tape, from, to } = standsFor(span)
  return { tape, from, to }
}

import { overlaps, type Frames, type Stretch } from '../time'
import { without } from '../tape/tape'
import type { Actuality, EndCut } from './actuality'
import { edits, listLength, slice, spanLength, stands, standsFor, type Edit, type EditList, type Span } from './editList'

/** What a piece no longer says of its tapes: what was taken out at its edits, held, muted, or cut off its ends. */

type Piece = Pick<Actuality, 'spans' | 'cutHead' | 'cutTail'>

/** A place where something was taken out. */
export interface Nick {
  how: 'closed' | 'held' | 'head' | 'tail'
  /** Where it stands in the piece, and how long the held time is (0 where it was closed up). */
  at: Frames
  held: Frames
  tape: string
  /** What went, on the tape. */
  from: Frames
  to: Frames
}

type Place = Stretch & { tape: string }

const placesOf = (spans: EditList): Place[] => spans.filter(stands).map((span) => {
  const { tape, from, to } = standsFor(span)
  return { tape, from, to }
})

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

/** What went at an edit, in order, whether or not it is kept elsewhere in the piece. */
function wentAt(edit: Edit): Place[] {
  const between = betweenSides(edit)
  return inOrder([...(between ? [between] : []), ...placesOf(edit.join.took?.spans ?? [])])
}

/** All nicks of a piece, in order. What is kept elsewhere in the piece was moved, not taken out, and is none. */
export function nicks({ spans, cutHead, cutTail }: Piece): Nick[] {
  const kept = placesOf(spans)
  const told: Place[] = []
  const found: Nick[] = []
  const tell = (places: readonly Place[], place: Omit<Nick, 'tape' | 'from' | 'to'>) => {
    for (const part of places.flatMap((one) => lessAll(one, [...kept, ...told]))) {
      told.push(part)
      found.push({ ...place, ...part })
    }
  }
  const ofEnd = (cut: EndCut | undefined): Place[] => inOrder(placesOf(cut?.spans ?? []))
  tell(ofEnd(cutHead), { how: 'head', at: 0, held: 0 })
  const all = new Map(edits(spans).map((edit) => [edit.index, edit]))
  let at = 0
  for (const [index, span] of spans.entries()) {
    const edit = all.get(index)
    if (edit) tell(wentAt(edit), { how: 'closed', at: edit.at, held: 0 })
    if (span.sound === 'tone') found.push({ how: 'held', at, held: spanLength(span), ...heldPlace(span) })
    at += spanLength(span)
  }
  tell(ofEnd(cutTail), { how: 'tail', at: listLength(spans), held: 0 })
  return found.sort((a, b) => a.at - b.at)
}

const heldPlace = (span: Span): Place => {
  const { tape, from, to } = standsFor(span)
  return { tape, from, to }
}

/** The spans that were taken out at a place, as they were, in their order; where nothing is remembered of a part of it, none. */
export const remembered = (spans: EditList, part: Place): Span[] =>
  spans.filter((span) => {
    const place = standsFor(span)
    return stands(span) && place.tape === part.tape && overlaps(place, part)
  })

/** A span no longer than the part of its tape that is wanted. A patch is not cut: it is one thing. */
export function clipped(span: Span, { from, to }: Stretch): Span {
  if (span.patch) return span
  const length = spanLength(span)
  return slice([span], Math.max(0, from - span.from), Math.min(length, to - span.from))[0] ?? span
}

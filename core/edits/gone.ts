import type { Frames } from '../time'
import { Coverage } from '../tape/coverage'
import type { Actuality } from './actuality'
import { edits, listLength, spanLength, stands, standsFor, underneath, type Edit, type EditList, type Span } from './editList'
import type { TapeStretch } from '../stretches'

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
  parts: readonly TapeStretch[]
}

/** The stretches of tape that spans stand for. */
export const placesOf = (spans: EditList): TapeStretch[] =>
  spans.filter(stands).flatMap((span) => {
    const under = underneath(span)
    if (under) return placesOf(under)
    const { tape, from, to } = standsFor(span)
    return [{ tape, from, to }]
  })

/** Lists never change, so what was worked out for one is kept with it. */
const known = new WeakMap<EditList, readonly TapeStretch[]>()

/** What spans stand for, and what had been taken out within them before. */
export function allOf(spans: EditList): readonly TapeStretch[] {
  let all = known.get(spans)
  if (!all) {
    all = spans.length ? [...placesOf(spans), ...nicks({ spans }).flatMap(({ parts }) => parts)] : []
    known.set(spans, all)
  }
  return all
}

/** What was told already, by tape. */
class Told {
  private readonly byTape = new Map<string, Coverage>()

  constructor(places: readonly TapeStretch[]) {
    this.add(places)
  }

  add(places: readonly TapeStretch[]): void {
    for (const { tape, from, to } of places) {
      const covered = this.byTape.get(tape) ?? new Coverage()
      this.byTape.set(tape, covered)
      covered.add({ from, to })
    }
  }

  /** The parts of a place that nobody has told yet. */
  less({ tape, from, to }: TapeStretch): TapeStretch[] {
    const covered = this.byTape.get(tape)
    return covered ? covered.less({ from, to }).map((part) => ({ tape, ...part })) : [{ tape, from, to }]
  }
}

/** Places in order of their tapes' time, none over another. */
function inOrder(places: readonly TapeStretch[]): readonly TapeStretch[] {
  if (places.length < 2) return places
  const out: TapeStretch[] = []
  for (const place of [...places].sort((a, b) => (a.tape === b.tape ? a.from - b.from : a.tape < b.tape ? -1 : 1))) {
    const last = out[out.length - 1]
    if (last && last.tape === place.tape && place.from <= last.to) last.to = Math.max(last.to, place.to)
    else out.push({ ...place })
  }
  return out
}

/** The stretch of tape between the two sides of an edit. Null where they do not lie in order on one tape. */
export function betweenSides({ left, right }: Pick<Edit, 'left' | 'right'>): TapeStretch | null {
  const [before, after] = [standsFor(left), standsFor(right)]
  return before.tape === after.tape && after.from > before.to ? { tape: before.tape, from: before.to, to: after.from } : null
}

/** All nicks of a piece, in order. What is kept elsewhere in the piece was moved, not taken out, and is none. */
export function nicks({ spans, cutHead, cutTail }: Piece): Nick[] {
  const told = new Told(placesOf(spans))
  const all = edits(spans)
  const [head, tail] = [cutHead?.spans ?? [], cutTail?.spans ?? []]
  // each in its turn may tell what nothing before it told: what went is told where it is known best
  const gone = new Map<Edit | 'head' | 'tail', TapeStretch[]>()
  const tell = (where: Edit | 'head' | 'tail', places: readonly TapeStretch[]) => {
    if (!places.length) return
    const parts = inOrder(places).flatMap((one) => told.less(one))
    if (!parts.length) return
    told.add(parts)
    gone.set(where, [...(gone.get(where) ?? []), ...parts])
  }
  // what is remembered
  tell('head', placesOf(head))
  tell('tail', placesOf(tail))
  for (const edit of all) tell(edit, placesOf(edit.join.took?.spans ?? []))
  // what lies against a side of an edit
  const apart = all.flatMap((edit) => {
    const between = betweenSides(edit)
    return between ? [{ edit, between }] : []
  })
  for (const { edit, between } of apart)
    tell(
      edit,
      told.less(between).filter(({ from, to }) => from === between.from || to === between.to),
    )
  // what had gone before within what is remembered, or between that and the piece
  tell('head', [...allOf(head), ...betweenEnds(head, spans)])
  tell('tail', [...allOf(tail), ...betweenEnds(spans, tail)])
  for (const edit of all) tell(edit, allOf(edit.join.took?.spans ?? []))
  // what lies further off between the sides of an edit, and is no other's
  for (const { edit, between } of apart) tell(edit, [between])

  const found: Nick[] = []
  const add = (how: Nick['how'], at: Frames, held: Frames, parts: readonly TapeStretch[] | undefined) => {
    if (!parts) return
    const { tape, from, to } = hullOf(parts)
    found.push({ how, at, held, tape, from, to, parts: inOrder(parts) })
  }
  add('head', 0, 0, gone.get('head'))
  add('tail', listLength(spans), 0, gone.get('tail'))
  for (const edit of all) add('closed', edit.at, 0, gone.get(edit))
  let at = 0
  for (const span of spans) {
    if (span.sound === 'tone') add('held', at, spanLength(span), [heldPlace(span)])
    at += spanLength(span)
  }
  return found.sort((one, other) => one.at - other.at)
}

/** What lies between what was cut off an end and the piece: it had been taken out before the cut. */
function betweenEnds(before: EditList, after: EditList): TapeStretch[] {
  const [left, right] = [before.findLast(stands), after.find(stands)]
  const between = left && right && betweenSides({ left, right })
  return between ? [between] : []
}

/** From the first frame to the last of those places that lie on the tape of the first. */
function hullOf(parts: readonly TapeStretch[]): TapeStretch {
  const [{ tape }] = parts
  if (parts.length === 1) return parts[0]
  const own = parts.filter((part) => part.tape === tape)
  return { tape, from: Math.min(...own.map(({ from }) => from)), to: Math.max(...own.map(({ to }) => to)) }
}

const heldPlace = (span: Span): TapeStretch => {
  const { tape, from, to } = standsFor(span)
  return { tape, from, to }
}

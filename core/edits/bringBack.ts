import { clamp, type Stretch } from '../time'
import { clipLength, type Actuality, type ActualityStep } from './actuality'
import { beside, replacing } from './acts'
import {
  edits,
  joinAt,
  listLength,
  normal,
  plainJoin,
  runsOn,
  sameTreatment,
  slice,
  spanAt,
  stands,
  standsFor,
  withoutJoin,
  type Edit,
  type EditList,
  type Join,
  type Span,
} from './editList'
import { betweenSides, type Nick } from './gone'
import { overlaps, without } from '../stretches'

/** What was taken out comes back, with all that it had. Positions are frames of the piece, parts are frames of a tape. */

type Piece = Pick<Actuality, 'spans' | 'head' | 'tail' | 'cutHead' | 'cutTail'>
type Steps = ActualityStep[]

/** Brings back all that went at a nick, or the part of it that is given in frames of the tape, as it was. */
export function bringBack(piece: Piece, nick: Nick, wanted: Stretch = nick): Steps {
  const from = clamp(wanted.from, nick.from, nick.to)
  const part = { from, to: clamp(wanted.to, from, nick.to) }
  if (part.to <= part.from) return []
  if (nick.how === 'held') return heldBack(piece, nick, part)
  if (nick.how !== 'closed') return endBack(piece, nick, part)
  const edit = edits(piece.spans).find((one) => one.at === nick.at)
  return edit ? closedBack(piece, edit, nick, part) : []
}

const isWhole = (nick: Nick, part: Stretch): boolean => part.from === nick.from && part.to === nick.to

/** Steps by which held time sounds again; its spans have kept their level, mutes and patches. */
function heldBack(piece: Piece, nick: Nick, part: Stretch): Steps {
  const held = spanAt(piece.spans, nick.at)?.span
  if (!held) return []
  // a patch is one thing, and comes back whole
  const all = held.patch !== undefined || isWhole(nick, part)
  const stretch = all
    ? { from: nick.at, to: nick.at + nick.held }
    : { from: nick.at + part.from - nick.from, to: nick.at + part.to - nick.from }
  const back = slice(piece.spans, stretch.from, stretch.to).map((span): Span => ({ ...span, sound: 'tape' }))
  const { before, after } = beside(piece, stretch)
  if (before && runsOn(before, back[0])) back[0] = withoutJoin(back[0])
  const meets = !after || runsOn(back[back.length - 1], after)
  return replacing(piece, stretch, back, meets ? null : (joinAt(piece.spans, stretch.to) ?? plainJoin()))
}

/** Spans of a remembered passage that lie over a part of a tape, cut to it; a patch is not cut. */
const over = (spans: EditList, part: Stretch & { tape: string }): Span[] =>
  spans.flatMap((span) => {
    const place = standsFor(span)
    if (!stands(span) || place.tape !== part.tape || !overlaps(place, part)) return []
    return span.patch ? [span] : slice([span], Math.max(0, part.from - span.from), part.to - span.from)
  })

/** What is left of a remembered passage once some of it came back. */
const less = (spans: EditList, back: readonly Span[]): Span[] =>
  spans.flatMap((span) => {
    if (span.patch) return back.some(({ patch, from }) => patch && from === span.from) ? [] : [span]
    return without(
      span,
      back.filter(({ tape, patch }) => tape === span.tape && !patch),
    ).map((rest): Span => ({ ...span, ...rest }))
  })

function endBack(piece: Piece, nick: Nick, part: Stretch): Steps {
  const atHead = nick.how === 'head'
  const key = atHead ? 'cutHead' : 'cutTail'
  const cut = piece[key]
  if (!cut) return []
  const everything = isWhole(nick, part) && over(cut.spans, nick).length === cut.spans.length
  const back = normal(everything ? cut.spans : over(cut.spans, { tape: nick.tape, ...part }))
  if (!back.length) return []
  const rest = everything ? [] : less(cut.spans, back)
  const length = clipLength(piece)
  const place = atHead ? 0 : length
  const meets = atHead && runsOn(back[back.length - 1], piece.spans[0])
  const [handle, other] = atHead ? (['head', 'tail'] as const) : (['tail', 'head'] as const)
  const value = Math.min(cut.handle, length + listLength(back) - piece[other])
  return [
    { type: 'replace', from: place, to: place, insert: back, after: atHead && !meets ? plainJoin() : null },
    ...(piece[handle] === value ? [] : [{ type: 'set', key: handle, value } as const]),
    { type: 'set', key, value: rest.length ? { spans: rest, handle: cut.handle } : undefined },
  ]
}

/**
 * What comes back at an edit: what the join remembers, or, if it remembers nothing, the tape itself with the treatment of
 * the span beside it.
 */
function closedBack(piece: Piece, edit: Edit, nick: Nick, part: Stretch): Steps {
  const { took, ...join } = edit.join
  const fresh: Join = { ...join, heard: false }
  const all = isWhole(nick, part)
  const back = all
    ? took
      ? atEdges(took.spans, edit, nick)
      : nick.parts.flatMap((one) => bareTape(one, edit))
    : partBack(took?.spans ?? [], nick, part, edit)
  const rest = took && !all ? less(took.spans, back) : []
  if (!back.length) return []
  if (!back[0].join && !runsOn(edit.left, back[0])) back[0] = { ...back[0], join: fresh }
  for (let i = 1; i < back.length; i++) if (!back[i].join && !runsOn(back[i - 1], back[i])) back[i] = { ...back[i], join: fresh }
  const meets = runsOn(back[back.length - 1], edit.right)
  const closing: Join | null = all && took ? took.after : null
  const left = rest.length ? { took: { spans: rest, after: took?.after ?? null } } : {}
  const after = meets && !rest.length ? closing : { ...(closing ?? fresh), ...left }
  return replacing(piece, { from: edit.at, to: edit.at + edit.room }, back, after)
}

/** A span of the tape, with the treatment of both sides of an edit if they have the same. */
function bareTape({ tape, from, to }: Stretch & { tape: string }, { left, right }: Edit): Span[] {
  if (to <= from) return []
  const alike = sameTreatment(left, right) && !left.patch && left.sound === 'tape' && left.tape === tape
  const { level, levels, gain, mute, mutes, slip } = left
  const look = alike
    ? {
        ...(level ? { level } : {}),
        ...(levels ? { levels } : {}),
        ...(gain ? { gain } : {}),
        ...(mute ? { mute } : {}),
        ...(mutes ? { mutes } : {}),
        ...(slip ? { slip } : {}),
      }
    : {}
  return [{ tape, from, to, sound: 'tape', ...look }]
}

/** A remembered passage, met with the sides of its edit as they are now: they may have been moved since. */
function atEdges(spans: EditList, edit: Edit, nick: Nick): Span[] {
  const between = betweenSides(edit)
  const [first, last] = [spans[0], spans[spans.length - 1]]
  if (!between) return [...spans]
  const known = [...spans]
  const isOf = (span: Span) => stands(span) && !span.patch && span.tape === between.tape
  const before: Span[] = []
  const behind: Span[] = []
  if (isOf(first)) {
    if (first.from > between.from) before.push(...bareTape({ tape: nick.tape, from: between.from, to: first.from }, edit))
    else if (first.from < between.from && first.to > between.from) known[0] = { ...first, from: between.from }
  }
  const end = known[known.length - 1]
  if (isOf(last)) {
    if (end.to < between.to) behind.push(...bareTape({ tape: nick.tape, from: end.to, to: between.to }, edit))
    else if (end.to > between.to && end.from < between.to) known[known.length - 1] = { ...end, to: between.to }
  }
  return [...before, ...known, ...behind]
}

/** A part of what went: as it is remembered, else the tape itself. */
function partBack(spans: EditList, nick: Nick, part: Stretch, edit: Edit): Span[] {
  const known = over(spans, { tape: nick.tape, ...part })
  if (known.length) return known
  return nick.parts.flatMap((one) =>
    one.tape === nick.tape ? bareTape({ tape: one.tape, from: Math.max(one.from, part.from), to: Math.min(one.to, part.to) }, edit) : [],
  )
}

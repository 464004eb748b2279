import { holdTime, takeOut } from '../edits/acts'
import { actualityType } from '../edits/actuality'
import type { ActualityStep } from '../edits/actualitySteps'
import { plainJoin, spanLength, type EditList, type Join } from '../edits/editList'
import { linePart } from '../edits/levelLine'
import { mute } from '../edits/mute'
import { bringBack } from '../edits/bringBack'
import { nicks } from '../edits/gone'
import { keptOf, type Actuality } from '../edits/piece'
import { withoutRepair, withRepairs, type Repair } from '../mend/repair'
import type { LevelPoint } from '../sound/level'
import { applyAll } from '../steps/document'
import { overlaps } from '../stretches'
import type { Decision, Proposal, Suggestion } from '../tape/suggestion'
import { strikesOf, type TapeDocument, type TapeStep } from '../tape/tape'
import type { Stretch } from '../time'

/** Suggestions, decided on. What is applied is an act like any other, and in the same act the suggestion learns of it. */

/** Who decides, when, and as which act. */
export interface Deciding {
  by: string
  at: string
  act: string
  /** A person changed what was proposed. */
  changed?: boolean
}

/** The suggestions of a piece, the oldest first. */
export const suggestionsOf = (piece: Pick<Actuality, 'kept'>): Suggestion[] => keptOf(piece, 'suggestion')

/**
 * Where a suggestion lies in a piece now: the stretches in which its frames are heard, in order; several where something
 * was put in between, or where its passage stands twice. None where it was taken out.
 */
export function placesIn(list: EditList, { tape, from, to }: Pick<Suggestion, 'tape' | 'from' | 'to'>): Stretch[] {
  const places: Stretch[] = []
  let start = 0
  for (const span of list) {
    const [first, last] = [Math.max(from, span.from), Math.min(to, span.to)]
    if (span.tape === tape && span.sound === 'tape' && !span.patch && first < last)
      places.push({ from: start + first - span.from, to: start + last - span.from })
    start += spanLength(span)
  }
  // parts on either side of a join that was only marked
  return places.reduce<Stretch[]>((all, place) => {
    const before = all.at(-1)
    return before?.to === place.from ? [...all.slice(0, -1), { from: before.from, to: place.to }] : [...all, place]
  }, [])
}

const decided = (deciding: Deciding): Decision => ({
  is: deciding.changed ? 'changed' : 'applied',
  by: deciding.by,
  at: deciding.at,
  act: deciding.act,
})

const inPiece = (id: string, decision: Decision | null): ActualityStep => ({
  type: 'keep',
  step: { type: 'set', id, key: 'decision', value: decision },
})

/** Steps that do what a suggestion proposes, wherever it lies in a piece. Throws RangeError where nothing of it is left. */
export function applyIn(piece: Actuality, suggestion: Suggestion, deciding: Deciding): ActualityStep[] {
  const { tape, proposes } = suggestion
  const places = placesIn(piece.spans, 'goes' in proposes ? { tape, ...proposes.goes } : suggestion)
  if (!places.length) throw new RangeError('nothing of it is left in this piece')
  const steps: ActualityStep[] = []
  let now = piece
  // from the last on, so that those before it stay where they are
  for (const place of places.reverse()) {
    const next = proposed(now, suggestion, place)
    steps.push(...next)
    now = applyAll(actualityType, now, next)
  }
  return [...steps, inPiece(suggestion.id, decided(deciding))]
}

function proposed(piece: Actuality, { tape, finder, side, from, to, proposes }: Suggestion, place: Stretch): ActualityStep[] {
  const join: Join = { ...plainJoin(), finder }
  switch (proposes.do) {
    case 'takeOut':
      return takeOut(piece, place, join, proposes.room)
    case 'hold':
      return holdTime(piece, place, join)
    case 'mute':
      return side === null ? mute(piece, place, true) : [{ type: 'paint', parts: [{ what: 'side', side, ...place, value: true }] }]
    case 'level':
      return levelled(piece, place, proposes.points, proposes.points)
    case 'repair':
      return repairedSides(piece, tape, side, { from, to, how: proposes.how })
  }
}

/** The sides of a tape, as a piece has them, with a spot repaired. Throws RangeError where the piece has none of its own. */
function repairedSides(piece: Actuality, tape: string, side: number | null, repair: Repair): ActualityStep[] {
  const own = piece.sides?.[tape]
  if (!own) throw new RangeError('the piece has no sides of this tape of its own')
  const value = { ...piece.sides, [tape]: own.map((one, i) => (side === null || side === i ? withRepairs(one, [repair]) : one)) }
  return [{ type: 'set', key: 'sides', value }]
}

/** Level lines are painted over whole spans, and so make no join. What lay where the old points do gives way to the new ones. */
function levelled(piece: Actuality, place: Stretch, old: readonly LevelPoint[], points: readonly LevelPoint[]): ActualityStep[] {
  const over = { from: old[0].at, to: old[old.length - 1].at }
  let start = 0
  const parts = piece.spans.flatMap((span) => {
    const at = start
    start += spanLength(span)
    return at < place.to && start > place.from ? [linePart(span, at, over, points)] : []
  })
  return [{ type: 'paint', parts }]
}

/** Steps that take back what an applied suggestion did to a piece, as far as it still stands there, and open it again. */
export function takeBackIn(piece: Actuality, suggestion: Suggestion): ActualityStep[] {
  const gone: ActualityStep = { type: 'keep', step: { type: 'drop', id: suggestion.id } }
  return [...(suggestion.decision?.is === 'dismissed' ? [] : takenBack(piece, suggestion)), gone]
}

/** Steps that take back what an applied suggestion did to a piece, and do something else there instead. */
export function insteadIn(piece: Actuality, suggestion: Suggestion, proposes: Proposal, deciding: Deciding): ActualityStep[] {
  const open: Suggestion = { ...suggestion, proposes, decision: null }
  const steps: ActualityStep[] = [...takeBackIn(piece, suggestion), { type: 'keep', step: { type: 'put', record: open } }]
  return [...steps, ...applyIn(applyAll(actualityType, piece, steps), open, deciding)]
}

function takenBack(piece: Actuality, suggestion: Suggestion): ActualityStep[] {
  const { tape, side, from, to, proposes } = suggestion
  if ('goes' in proposes) {
    const { goes } = proposes
    const nick = nicks(piece).find((one) => one.tape === tape && overlaps(one, goes))
    return nick ? bringBack(piece, nick, goes) : []
  }
  if (proposes.do === 'repair') {
    const own = piece.sides?.[tape]
    if (!own) return []
    const left = own.map((one, i) => (side === null || side === i ? withoutRepair(one, { from, to, how: proposes.how }) : one))
    return [{ type: 'set', key: 'sides', value: { ...piece.sides, [tape]: left } }]
  }
  return placesIn(piece.spans, suggestion).flatMap((place): ActualityStep[] => {
    if (proposes.do === 'level') return levelled(piece, place, proposes.points, [])
    return side === null ? mute(piece, place, false) : [{ type: 'paint', parts: [{ what: 'side', side, ...place, value: null }] }]
  })
}

/** A suggestion of a piece left as it is, or opened again. */
export const dismissIn = ({ id }: Suggestion, { by, at }: Pick<Deciding, 'by' | 'at'>): ActualityStep =>
  inPiece(id, { is: 'dismissed', by, at })
export const reopenIn = ({ id }: Suggestion): ActualityStep => inPiece(id, null)

const onTape = (id: string, decision: Decision): TapeStep => ({ type: 'set', id, key: 'decision', value: decision })

/**
 * Steps that do what a suggestion proposes on its tape, for all that is pulled from then on. What is to go is struck; a level, a
 * mute and a repair are in force as long as the suggestion is applied (`tape/inForce.ts`). `id`: of a record that is new.
 */
export function applyOn(suggestion: Suggestion, deciding: Deciding, id: string): TapeStep[] {
  const { proposes } = suggestion
  const strike: TapeStep[] = 'goes' in proposes ? [{ type: 'put', record: { id, kind: 'strike', ...proposes.goes } }] : []
  return [...strike, onTape(suggestion.id, decided(deciding))]
}

/** Steps that take back what a suggestion did to its tape, and open it again: its strike, as far as it is still there, goes. */
export function takeBackOn(document: TapeDocument, { id, proposes }: Suggestion): TapeStep[] {
  const struck = 'goes' in proposes ? proposes.goes : null
  const strikes = strikesOf(document).filter(({ from, to }) => from === struck?.from && to === struck.to)
  return [...strikes.map((strike) => strike.id), id].map((one) => ({ type: 'drop', id: one }))
}

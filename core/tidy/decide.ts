import { holdTime, takeOut } from '../edits/acts'
import { actualityType } from '../edits/actuality'
import type { ActualityStep } from '../edits/actualitySteps'
import { plainJoin, spanLength, type EditList, type Join } from '../edits/editList'
import { appliedLine, linePart } from '../edits/levelLine'
import { mute } from '../edits/mute'
import { keptOf, type Actuality } from '../edits/piece'
import { applyAll } from '../steps/document'
import { united } from '../stretches'
import type { Decision, Suggestion } from '../tape/suggestion'
import { tapeHead, tapeLevel, type TapeDocument, type TapeStep } from '../tape/tape'
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

/** The suggestions of a tape, in the order of the tape. */
export const suggestionsOn = ({ records }: TapeDocument): Suggestion[] =>
  Object.values(records)
    .filter((record) => record.kind === 'suggestion')
    .sort((a, b) => a.from - b.from)

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

function proposed(piece: Actuality, { finder, side, from, to, proposes }: Suggestion, place: Stretch): ActualityStep[] {
  const join: Join = { ...plainJoin(), finder }
  switch (proposes.do) {
    case 'takeOut':
      return takeOut(piece, place, join, proposes.room)
    case 'hold':
      return holdTime(piece, place, join)
    case 'mute':
      return side === null ? mute(piece, place, true) : [{ type: 'paint', parts: [{ what: 'side', side, ...place, value: true }] }]
    case 'level':
      return levelled(piece, place, { from, to }, proposes.points)
  }
}

/** Level lines are painted over whole spans, and so make no join. */
function levelled(piece: Actuality, place: Stretch, over: Stretch, points: Parameters<typeof linePart>[3]): ActualityStep[] {
  let start = 0
  const parts = piece.spans.flatMap((span) => {
    const at = start
    start += spanLength(span)
    return at < place.to && start > place.from ? [linePart(span, at, over, points)] : []
  })
  return [{ type: 'paint', parts }]
}

/** A suggestion of a piece left as it is, or opened again. */
export const dismissIn = ({ id }: Suggestion, { by, at }: Pick<Deciding, 'by' | 'at'>): ActualityStep =>
  inPiece(id, { is: 'dismissed', by, at })
export const reopenIn = ({ id }: Suggestion): ActualityStep => inPiece(id, null)

const onTape = (id: string, decision: Decision): TapeStep => ({ type: 'set', id, key: 'decision', value: decision })

/**
 * Steps that do what a suggestion proposes on its tape, for all that is pulled from then on: what is to go is struck. `id`: of
 * a record that is new. Throws RangeError where a tape cannot carry it.
 */
export function applyOn(tape: TapeDocument, suggestion: Suggestion, deciding: Deciding, id: string): TapeStep[] {
  return [...onTapeProposed(tape, suggestion, id), onTape(suggestion.id, decided(deciding))]
}

function onTapeProposed(document: TapeDocument, { tape, from, to, side, proposes }: Suggestion, id: string): TapeStep[] {
  if ('goes' in proposes) return [{ type: 'put', record: { id, kind: 'strike', ...proposes.goes } }]
  if (proposes.do === 'level') {
    const line = tapeLevel(document)
    const points = appliedLine(line?.points ?? [], [{ tape, from, to, sound: 'tape', level: [...proposes.points] }])
    return line ? [{ type: 'set', id: line.id, key: 'points', value: points }] : [{ type: 'put', record: { id, kind: 'level', points } }]
  }
  if (side === null) throw new RangeError('only one side of a tape can be muted')
  const { sides } = tapeHead(document)
  const muted = sides.map((one, i) => (i === side ? { ...one, hush: united([...(one.hush ?? []), { from, to }]) } : one))
  return [{ type: 'set', id: 'tape', key: 'sides', value: muted }]
}

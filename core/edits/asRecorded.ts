import { applyAll } from '../steps/document'
import type { Stretch } from '../time'
import { actualityType, clipLength, type Actuality, type ActualityStep } from './actuality'
import { replacing } from './acts'
import { cuts, joinAt, slice, stands, standsFor, type Span } from './editList'
import { plainFades } from './fades'
import { patches, takeOffPatch } from './patch'
import { overSlipped, unmuteSides } from './voices'

/** What was done to sound, taken off again one kind at a time; for levels see `levelOff`. Stretches are of the piece. */

/** Patches, also those that fill time. */
export function patchesOff(piece: Actuality, stretch: Stretch): ActualityStep[] {
  const steps: ActualityStep[] = []
  let now = piece
  // the last first: what changes there moves none before it
  for (const { from } of patches(piece, stretch).reverse()) {
    const patch = patches(now).find((one) => one.from === from)
    if (!patch) continue
    const more = takeOffPatch(now, patch)
    now = applyAll(actualityType, now, more)
    steps.push(...more)
  }
  return steps
}

/** Crossfades, back to what a cut has by itself; with all of the piece its ends too. */
export const fadesOff = (piece: Actuality, { from, to }: Stretch, framesOf: (tape: string) => number): ActualityStep[] => [
  ...plainFades(
    cuts(piece.spans).filter(({ at }) => at >= from && at <= to),
    framesOf,
  ),
  ...(from <= 0 && piece.fadeIn ? [{ type: 'set', key: 'fadeIn', value: undefined } as const] : []),
  ...(to >= clipLength(piece) && piece.fadeOut ? [{ type: 'set', key: 'fadeOut', value: undefined } as const] : []),
]

/**
 * The tape's own sound over a stretch, from the frame of the tape at its one end to that at its
 * other: nothing taken out, laid over, muted, moved or changed in level. Empty if its ends do
 * not lie in order on one tape.
 */
export function asRecorded(piece: Actuality, chosen: Stretch): ActualityStep[] {
  const stretch = overSlipped(piece.spans, chosen)
  const part = slice(piece.spans, stretch.from, stretch.to).filter(stands)
  if (!part.length) return []
  const [first, last] = [standsFor(part[0]), standsFor(part[part.length - 1])]
  const { from } = first
  if (first.tape !== last.tape || last.to <= from) return []
  const before = slice(piece.spans, Math.max(0, stretch.from - 1), stretch.from)[0]
  const after = slice(piece.spans, stretch.to, stretch.to + 1)[0]
  const plain = (span: Span | undefined) =>
    span !== undefined &&
    span.sound === 'tape' &&
    !span.mute &&
    !span.mutes &&
    !span.patch &&
    !span.slip &&
    !span.level &&
    !span.levels &&
    !span.lowCut &&
    !span.gain &&
    span.tape === first.tape
  const meetsBefore = plain(before) && before.to === from
  const meetsAfter = plain(after) && after.from === last.to
  const join = joinAt(piece.spans, stretch.from)
  return [
    ...unmuteSides(piece, stretch),
    ...replacing(
      piece,
      stretch,
      [{ tape: first.tape, from, to: last.to, sound: 'tape', ...(meetsBefore || !join ? {} : { join }) }],
      meetsAfter ? null : joinAt(piece.spans, stretch.to),
    ),
  ]
}

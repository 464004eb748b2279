import type { Stretch } from '../time'
import type { Actuality, ActualityStep } from './actuality'
import { slice, spanLength } from './editList'

/** A low cut over a passage of a piece takes out what rumbles below the voice there: wind, an engine, a hand on the microphone. */

type Piece = Pick<Actuality, 'spans'>

/** What can be set, in hertz: below lies nothing that is heard, above it the voice goes. */
export const LOW_CUT = { least: 20, most: 500 }

/** Cuts a stretch below so many hertz; null: it is heard as recorded. */
export const setLowCut = ({ spans }: Piece, { from, to }: Stretch, hertz: number | null): ActualityStep[] =>
  slice(spans, from, to).length ? [{ type: 'paint', parts: [{ from, to, what: 'lowCut', value: hertz }] }] : []

/** Below how many hertz a stretch is cut: the first of those that are in it; null where it is as recorded. */
export const lowCutIn = ({ spans }: Piece, { from, to }: Stretch): number | null =>
  slice(spans, from, to).find(({ lowCut }) => lowCut !== undefined)?.lowCut ?? null

/** The stretches of a piece that are cut below, in order. */
export function lowCuts({ spans }: Piece): (Stretch & { hertz: number })[] {
  const found: (Stretch & { hertz: number })[] = []
  let at = 0
  for (const span of spans) {
    const [from, last] = [at, found.at(-1)]
    at += spanLength(span)
    if (span.lowCut === undefined) continue
    if (last?.to === from && last.hertz === span.lowCut) last.to = at
    else found.push({ from, to: at, hertz: span.lowCut })
  }
  return found
}

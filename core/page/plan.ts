import type { Actuality } from '../edits/actuality'
import { endFades } from '../edits/fades'
import { planOf, shifted, roomPlan, withSides, type FactsOf, type Plan, type Strip } from '../render/plan'
import type { Layout } from './timing'

export type PieceOf = (id: string) => Actuality | undefined

/** The plan of a piece by itself: the whole clip, its handles faded in and out. */
export const piecePlan = (piece: Actuality, factsOf: FactsOf): Plan =>
  planOf(piece.spans, withSides(factsOf, piece), endFades(piece).in, endFades(piece).out, piece.gain)

/**
 * The plan of a page as laid out. What is live is silent; the room of unrecorded copy comes
 * from the tape that sounds nearest to it.
 */
export function pagePlan(layout: Layout, pieceOf: PieceOf, factsOf: FactsOf): Plan {
  const strips: Strip[] = []
  let channels: 1 | 2 = 1
  const lay = (plan: Plan, at: number) => {
    if (plan.channels === 2) channels = 2
    strips.push(...shifted(plan.strips, at))
  }
  for (const [i, row] of layout.placed.entries()) {
    if (row.sound === 'piece') {
      const piece = pieceOf(row.block.piece!)
      if (piece) lay(piecePlan(piece, factsOf), row.from)
    } else if (row.sound === 'room') {
      const tape = nearestTape(layout, i, pieceOf)
      if (tape) lay(roomPlan(factsOf(tape), row.to - row.from, row.at - row.from), row.from)
    }
  }
  return { length: layout.length, channels, strips }
}

function nearestTape(layout: Layout, index: number, pieceOf: PieceOf): string | null {
  const rows = layout.placed
    .map((row, i) => ({ row, distance: Math.abs(i - index) }))
    .filter(({ row }) => row.sound === 'piece')
    // a reader's own track, elsewhere on the page, is the room that the line will be read in
    .sort((a, b) => Number(b.row.block.kind === 'copy') - Number(a.row.block.kind === 'copy') || a.distance - b.distance)
  return (rows[0] && pieceOf(rows[0].row.block.piece!)?.spans[0]?.tape) ?? null
}

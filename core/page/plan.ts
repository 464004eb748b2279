import type { Actuality } from '../edits/actuality'
import { endFades } from '../edits/fades'
import { panned } from '../render/pan'
import { part, planOf, roomPlan, SHORT_END, shifted, withEnds, withSides, type FactsOf, type Plan, type Strip } from '../render/plan'
import type { EndShape } from '../sound/fade'
import { factor } from '../sound/level'
import type { Frames } from '../time'
import { soundOfTape } from './hangerSound'
import type { PageLayout, PlacedHanger } from './lay'
import { USUAL_LOUDNESS, type Block, type Output } from './story'
import type { Layout, Placed } from './timing'

export type PieceOf = (id: string) => Actuality | undefined

/** The plan of a piece by itself: the whole clip, its handles faded in and out. */
export const piecePlan = (piece: Actuality, factsOf: FactsOf): Plan =>
  planOf(piece.spans, withSides(factsOf, piece), endFades(piece).in, endFades(piece).out, piece.gain)

/**
 * The plan of a page as laid out. What is live is silent; the room of unrecorded copy comes
 * from the tape that sounds nearest to it.
 */
export function pagePlan(layout: Layout & Partial<PageLayout>, pieceOf: PieceOf, factsOf: FactsOf): Plan {
  const strips: Strip[] = []
  let channels: 1 | 2 = 1
  const lay = (plan: Plan | null, at: number) => {
    if (!plan) return
    if (plan.channels === 2) channels = 2
    strips.push(...shifted(plan.strips, at))
  }
  for (const [i, row] of layout.placed.entries()) {
    if (row.sound === 'piece') {
      const piece = pieceOf(row.block.piece!)
      if (piece) lay(sunk(blockPlan(row.block, piece, factsOf), overlapAfter(layout.placed, i)), row.from)
    } else if (row.sound === 'room') {
      const tape = nearestTape(layout, i, pieceOf)
      if (tape) lay(roomPlan(factsOf(tape), row.to - row.from, row.at - row.from), row.from)
    }
  }
  for (const placed of layout.hangers ?? []) lay(hangerPlan(placed, pieceOf, factsOf), placed.from)
  return { length: layout.length, channels, strips }
}

/** Nothing that is sent goes higher, in dBTP (EBU R 128). */
export const HIGHEST = -1

/**
 * The safety compressor stands so far above the target, in dB: so far that the demo's mix, which is over its target, does not reach it.
 */
const SAFETY = { above: 12, ratio: 3 }

/** The plan of an output as it is sent: turned as a whole, what is far too loud turned down, and kept below the highest true peak. */
export function outputPlan(
  layout: Layout & Partial<PageLayout>,
  { gain, loudness }: Pick<Output, 'gain' | 'loudness'>,
  pieceOf: PieceOf,
  factsOf: FactsOf,
): Plan {
  const plan = turned(pagePlan(layout, pieceOf, factsOf), gain)
  const dB = (loudness ?? USUAL_LOUDNESS) + SAFETY.above
  return {
    ...plan,
    stages: [
      { kind: 'compressor', dB, ratio: SAFETY.ratio },
      { kind: 'ceiling', dB: HIGHEST, between: true },
    ],
  }
}

/** How long before the end of its sound the next block's words begin, where they begin before its own have ended; else 0. */
function overlapAfter(placed: readonly Placed[], i: number): Frames {
  const [row, next] = [placed[i], placed[i + 1]]
  return next && next.at < row.at + row.words ? row.to - next.at : 0
}

/** A plan that sinks over so long at its end, under what begins meanwhile. */
const sunk = (plan: Plan, over: Frames): Plan =>
  over ? withEnds(plan, NO_END, { length: Math.min(over, plan.length), shape: 'power' }) : plan
const NO_END = { length: 0, shape: 'gain' } as const

/** What a block of a page sounds like with its piece, from the beginning of the clip. */
const blockPlan = ({ gain, pan }: Block, piece: Actuality, factsOf: FactsOf): Plan =>
  panned(turned(piecePlan(piece, factsOf), gain), pan ? [{ at: 0, to: pan }] : undefined)

const turned = (plan: Plan, dB = 0): Plan =>
  dB ? { ...plan, strips: plan.strips.map((strip) => ({ ...strip, gain: strip.gain * factor(dB) })) } : plan

/** What a hanger sounds like where it lies, from its own beginning; null where nothing of it is heard. */
function hangerPlan({ hanger, lane, from, to, skip, dips }: PlacedHanger, pieceOf: PieceOf, factsOf: FactsOf): Plan | null {
  if (lane.muted || to <= from) return null
  const { plays, gain, level } = hanger
  let whole: Plan
  if ('piece' in plays) {
    const piece = pieceOf(plays.piece)
    if (!piece) return null
    whole = piecePlan(piece, factsOf)
  } else whole = planOf(soundOfTape(hanger, plays, skip + to - from), factsOf)
  const ends = [endOf(hanger.fadeIn, hanger.shapeIn), endOf(hanger.fadeOut, hanger.shapeOut)] as const
  const heard = panned(
    withEnds(part(whole, skip, skip + to - from), ...ends),
    hanger.pan?.map((stop) => ({ ...stop, at: stop.at - skip })),
  )
  const own = level?.length ? [{ clock: 'plan' as const, points: level.map(({ at, dB }) => ({ at: at - skip, dB })) }] : []
  const lines = dips.length ? [...own, { clock: 'plan' as const, points: dips }] : own
  const loud = factor(gain + lane.gain)
  return {
    ...heard,
    strips: heard.strips.map((strip) => ({ ...strip, gain: strip.gain * loud, lines: [...(strip.lines ?? []), ...lines] })),
  }
}

/** A fade that is set, or one that leaves no click. */
const endOf = (length: Frames | undefined, shape: EndShape = 'power') => (length ? { length, shape } : SHORT_END)

function nearestTape(layout: Layout, index: number, pieceOf: PieceOf): string | null {
  const rows = layout.placed
    .map((row, i) => ({ row, distance: Math.abs(i - index) }))
    .filter(({ row }) => row.sound === 'piece')
    // a reader's own track, elsewhere on the page, is the room that the line will be read in
    .sort((a, b) => Number(b.row.block.kind === 'copy') - Number(a.row.block.kind === 'copy') || a.distance - b.distance)
  return (rows[0] && pieceOf(rows[0].row.block.piece!)?.spans[0]?.tape) ?? null
}

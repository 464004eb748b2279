import { lineAt, type LevelPoint } from '../sound/level'
import type { Frames } from '../time'

/** A tape in a row of tapes: where it lies on the tape that is made of them, how long it is, and its level line. */
export interface InRow {
  at: Frames
  frames: Frames
  level: readonly LevelPoint[]
}

/**
 * The level line of a tape that is made of several, one after the other: each keeps its own, to its very ends. Empty where
 * none has any.
 */
export function levelInRow(row: readonly InRow[]): LevelPoint[] {
  if (!row.some(({ level }) => level.length)) return []
  return row.flatMap(({ at, frames, level }) => {
    const inside = level.filter((point) => point.at > 0 && point.at < frames - 1)
    const ends = [0, frames - 1].map((edge) => ({ at: edge, dB: lineAt(level, edge) }))
    return [ends[0], ...inside, ends[1]].map((point) => ({ at: at + point.at, dB: point.dB }))
  })
}

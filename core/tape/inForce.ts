import { withRepairs } from '../mend/repair'
import { lineAt, type LevelPoint } from '../sound/level'
import { united } from '../stretches'
import type { Suggestion } from './suggestion'
import { tapeHead, tapeLevel, type Side, type TapeDocument } from './tape'

/**
 * What applied suggestions do to a tape: levels, mutes and repairs stand in no record of their own, so that each is undone by
 * itself whatever was decided since. These are the sides and the level line that are heard, and that a piece takes along.
 */

/** The suggestions of a tape, in the order of the tape. */
export const suggestionsOn = ({ records }: TapeDocument): Suggestion[] =>
  Object.values(records)
    .filter((record) => record.kind === 'suggestion')
    .sort((a, b) => a.from - b.from)

const inForce = (document: TapeDocument): Suggestion[] =>
  suggestionsOn(document).filter(({ decision }) => decision && decision.is !== 'dismissed')

/** The sides of a tape, with what was muted and repaired on them. */
export function sidesInForce(document: TapeDocument): Side[] {
  const { sides } = tapeHead(document)
  const all = inForce(document).filter(({ proposes }) => proposes.do === 'mute' || proposes.do === 'repair')
  if (!all.length) return sides
  return sides.map((side, i) => {
    const own = all.filter((one) => one.side === null || one.side === i)
    const mutes = own.flatMap(({ from, to, proposes }) => (proposes.do === 'mute' ? [{ from, to }] : []))
    const repairs = own.flatMap(({ from, to, proposes }) => (proposes.do === 'repair' ? [{ from, to, how: proposes.how }] : []))
    return withRepairs(mutes.length ? { ...side, hush: united([...(side.hush ?? []), ...mutes]) } : side, repairs)
  })
}

/** The level line of a tape with what was turned up and down on it; undefined where nothing was. */
export function levelInForce(document: TapeDocument): LevelPoint[] | undefined {
  const line = tapeLevel(document)?.points
  const parts = inForce(document).flatMap(({ proposes }) => (proposes.do === 'level' ? [proposes.points] : []))
  return parts.reduce<LevelPoint[] | undefined>(added, line)
}

/** Two level lines as one. The second one ends where its points do, and lies at 0 dB there. */
function added(line: LevelPoint[] | undefined, part: readonly LevelPoint[]): LevelPoint[] {
  if (!line?.length) return [...part]
  const [from, to] = [part[0].at, part[part.length - 1].at]
  const before = line.filter(({ at }) => at < from)
  const after = line.filter(({ at }) => at > to)
  const places = [...new Set([...part.map(({ at }) => at), ...line.filter(({ at }) => at >= from && at <= to).map(({ at }) => at)])]
  const within = places.sort((a, b) => a - b).map((at) => ({ at, dB: lineAt(line, at) + lineAt(part, at) }))
  return [...before, ...within, ...after]
}

import { useCallback, useMemo } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import { normal } from '../../core/edits/editList'
import { unstruck, wholeTape } from '../../core/edits/ofTape'
import { planOf, withSides, type FactsOf, type HeardSide } from '../../core/render/plan'
import type { LevelPoint } from '../../core/sound/level'
import { without } from '../../core/stretches'
import { frameOf, keptBefore } from '../../core/tape/skipping'
import type { Strike } from '../../core/tape/tape'
import type { Frames } from '../../core/time'
import { nearZero } from '../sound/samples'
import { Wave } from '../sound/wave'

/** What a tape sounds like as it is set: its plan, with what is struck or without it, and the waves that are drawn of it. */
export function useTapeSound(
  { id, frames }: TapeInfo,
  sides: HeardSide[],
  strikes: readonly Strike[],
  level: LevelPoint[] | undefined,
  known: FactsOf,
  skip: boolean,
) {
  // what is set here is heard at once, before the server has it
  const factsOf = useMemo(() => withSides(known, { sides: { [id]: sides } }), [known, id, sides])
  const whole = useMemo(() => planOf(wholeTape(id, frames, level), factsOf), [id, frames, level, factsOf])
  const parts = useMemo(() => without({ from: 0, to: frames }, strikes), [frames, strikes])
  const plan = useMemo(
    () => (skip ? planOf(normal(unstruck(id, { from: 0, to: frames }, strikes, level)), factsOf) : whole),
    [skip, id, frames, strikes, level, factsOf, whole],
  )
  const toPlan = useCallback((frame: Frames) => (skip ? keptBefore(parts, frame) : frame), [skip, parts])
  const fromPlan = useCallback((position: Frames) => (skip ? frameOf(parts, position) : position), [skip, parts])
  const zero = useCallback((frame: Frames) => nearZero(factsOf(id), frame), [factsOf, id])
  const wave = useMemo(() => new Wave(whole), [whole])
  const second = useMemo(() => {
    const [, ...others] = sides
    if (!others.length || others.some((side) => side.channels.length > 1)) return undefined
    return {
      wave: new Wave(planOf(wholeTape(id, frames, level), withSides(factsOf, { sides: { [id]: others } }))),
      speakers: new Set(others.map((side) => side.name)),
    }
  }, [sides, id, frames, level, factsOf])
  return { factsOf, whole, plan, toPlan, fromPlan, zero, wave, second }
}

import type { TapeInfo } from '../../contract/tapes'
import { afterSteps, type MendStep } from '../../core/mend/chain'
import { thirdsOf } from '../../core/mend/curve'
import { heldAt } from '../../core/mend/evened'
import { learnNoise, LEAST_TO_LEARN } from '../../core/mend/noise'
import { BEFORE_END, BEHIND_END, resonancesOf, type Dip } from '../../core/mend/resonances'
import type { Side } from '../../core/tape/tape'
import { RATE, type Frames, type Stretch } from '../../core/time'
import { getBytes } from '../api/client'
import '../sound/network'

/** What steps learn from the tape itself: noise from a stretch without speech, tone from a passage. */

/** More is not needed, and would take long. */
const MOST: Frames = 10 * RATE

async function heard(tape: TapeInfo, side: Side, { from, to }: Stretch, before: readonly MendStep[]): Promise<Float64Array> {
  const end = Math.min(to, from + MOST, tape.frames)
  const samples = new Float32Array(await getBytes(`/tapes/${tape.id}/sound/sound/${side.channels[0]}?from=${from}&to=${end}`))
  return afterSteps(samples, from, before)
}

/** The noise of a stretch as it comes out of the steps before. Throws an Error that says what is wrong with the stretch. */
export async function learntFrom(tape: TapeInfo, side: Side, stretch: Stretch, before: readonly MendStep[]): Promise<number[]> {
  if (stretch.to - stretch.from < LEAST_TO_LEARN)
    throw new Error('Select at least 0.2 s in which nobody speaks: noise can’t be learnt from less.')
  try {
    return learnNoise(await heard(tape, side, stretch, before))
  } catch (error) {
    throw error instanceof RangeError ? new Error('That stretch is silent: there is no noise in it to learn.') : error
  }
}

/** So many stretches of so many frames tell how loud a voice is. */
const [LOOKS, LOOK]: [number, Frames] = [24, 2 * RATE]

/** The level at which a voice stays as loud as it is, from stretches all over what somebody says; as it was set where nobody does. */
export async function heldAsLoud(
  tape: TapeInfo,
  side: Side,
  speech: readonly Stretch[],
  step: Extract<MendStep, { kind: 'level' }>,
  before: readonly MendStep[],
): Promise<MendStep> {
  const count = Math.min(LOOKS, speech.length)
  const spread = Array.from({ length: count }, (_, i) => speech[Math.floor((i * speech.length) / count)])
  const sounds = await Promise.all(spread.map(({ from, to }) => heard(tape, side, { from, to: Math.min(to, from + LOOK) }, before)))
  const average = heldAt(sounds, step)
  return Number.isFinite(average) ? { ...step, average: Math.round(average * 10) / 10 } : step
}

/** The tone of a passage, and what makes another one sound like it. Throws an Error where nobody speaks. */
export async function toneOf(tape: TapeInfo, side: Side, stretch: Stretch, before: readonly MendStep[] = []): Promise<number[]> {
  try {
    return thirdsOf(await heard(tape, side, stretch, before))
  } catch (error) {
    throw error instanceof RangeError ? new Error('Nobody speaks there: select a passage with speech.') : error
  }
}

/** So many endings tell how a room rings. */
const ENDINGS = 40

/** Dips where the room rings, told by how the ends of what is said die away. Throws an Error where that cannot be told. */
export async function roomTones(tape: TapeInfo, side: Side, speech: readonly Stretch[]): Promise<Dip[]> {
  const ends = speech
    .filter(({ from, to }, i) => to - from >= BEFORE_END && (speech[i + 1]?.from ?? tape.frames) - to >= BEHIND_END)
    .map(({ to }) => to)
  const some = ends.filter((_, i) => Math.floor((i * ENDINGS) / ends.length) !== Math.floor(((i - 1) * ENDINGS) / ends.length))
  const sounds = await Promise.all(some.map((end) => heard(tape, side, { from: end - BEFORE_END, to: end + BEHIND_END }, [])))
  try {
    return resonancesOf(sounds)
  } catch (error) {
    throw error instanceof RangeError ? new Error('There are too few pauses on this tape to tell how its room rings.') : error
  }
}

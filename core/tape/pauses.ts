import { toFrames, type Frames, type Stretch } from '../time'

/** A pause shorter than this is part of the talk. */
const SHORTEST = toFrames(0.6)
/** What before and after it is left alone, so that no breath or last sound is hurried. */
const SHOULDER = toFrames(0.15)

/** Where nobody speaks: between the stretches of speech, in order, and before and after them all. */
export function pausesAround(speech: readonly Stretch[], length: Frames): Stretch[] {
  const out: Stretch[] = []
  let from = 0
  for (const { from: next, to } of [...speech, { from: length, to: length }]) {
    if (next - from >= SHORTEST) out.push({ from: from && from + SHOULDER, to: next === length ? length : next - SHOULDER })
    from = Math.max(from, to)
  }
  return out
}

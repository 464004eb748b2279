import { factor } from '../sound/level'
import { milliseconds, type Frames, type Stretch } from '../time'
import { bridge } from './bridge'
import { fitPredictor } from './leastError'

/**
 * Clicks and crackle: frames that a linear predictor of the sound around them expects neither from what comes before nor from what
 * comes behind (Vaseghi and Rayner 1990; by both directions, so that the predictor's own ringing does not count). They are made anew
 * from both sides (`bridge.ts`).
 */
export interface Clicks {
  kind: 'clicks'
  /** How far a frame must lie outside of what is expected, in dB over what is usual around it: the lower, the more is found. */
  over: number
}

const ORDER = 24
/** A predictor is fitted for so many frames, from so many more on either side. */
const BLOCK: Frames = 2048
const AROUND: Frames = 512
/** What lies so far under the threshold still belongs to a click that is found beside it: 12 dB. */
const BELONGS = 0.25
/** Two spots with fewer expected frames between them are one click. */
const GAP: Frames = 10
/** A click begins a little before it is seen, and ends a little behind. */
const EDGE: Frames = 3
/** What is longer is another sound. */
const LONGEST: Frames = milliseconds(12)
/** No sound is so smooth that less than this were out of the ordinary. */
const LEAST_USUAL = 1e-7

/** Repairs clicks of a run in place; gives where they were. */
export function withoutClicks({ over }: Clicks, samples: Float64Array): Stretch[] {
  const found = clicksIn(samples, factor(over))
  const sound = Float32Array.from(samples)
  for (const { from, to } of found) {
    bridge(sound, from, to)
    for (let i = from; i < to; i++) samples[i] = sound[i]
  }
  return found
}

function clicksIn(samples: Float64Array, threshold: number): Stretch[] {
  const strange = new Float64Array(samples.length)
  const own = new Float64Array(ORDER + 1)
  for (let from = 0; from < samples.length; from += BLOCK) {
    const to = Math.min(samples.length, from + BLOCK)
    fitPredictor(samples.subarray(Math.max(0, from - AROUND), Math.min(samples.length, to + AROUND)), own)
    errors(samples, own, from, to, strange)
    const usual = Math.max(LEAST_USUAL, medianOf(strange.subarray(from, to)))
    const belongs = usual * threshold * BELONGS
    for (let i = from; i < to; i++) {
      // most frames are expected from before: only the others are looked at from behind
      if (strange[i] > belongs) strange[i] = Math.min(strange[i], errorFromBehind(samples, own, i))
      strange[i] /= usual
    }
  }
  return stretchesOf(strange, threshold)
}

/** How far each frame lies from what those before it let expect. */
function errors(samples: Float64Array, own: Float64Array, from: Frames, to: Frames, out: Float64Array): void {
  let i = Math.max(ORDER, from)
  // four at a time: one sum does not wait for the other, and each frame is read once and handed on
  for (; i + 3 < to; i += 4) {
    let a = 0
    let b = 0
    let c = 0
    let d = 0
    let one = samples[i + 1]
    let two = samples[i + 2]
    let three = samples[i + 3]
    for (let k = 0; k <= ORDER; k++) {
      const by = own[k]
      const frame = samples[i - k]
      a += by * frame
      b += by * one
      c += by * two
      d += by * three
      three = two
      two = one
      one = frame
    }
    out[i] = Math.abs(a)
    out[i + 1] = Math.abs(b)
    out[i + 2] = Math.abs(c)
    out[i + 3] = Math.abs(d)
  }
  for (; i < to; i++) {
    let sum = 0
    for (let k = 0; k <= ORDER; k++) sum += own[k] * samples[i - k]
    out[i] = Math.abs(sum)
  }
}

function errorFromBehind(samples: Float64Array, own: Float64Array, at: Frames): number {
  let sum = 0
  if (at + ORDER < samples.length) for (let k = 0; k <= ORDER; k++) sum += own[k] * samples[at + k]
  return Math.abs(sum)
}

function stretchesOf(strange: Float64Array, threshold: number): Stretch[] {
  const found: Stretch[] = []
  /** The last frame on the way that still belongs, across small gaps. */
  const reach = (from: number, way: 1 | -1): number => {
    let last = from
    for (let i = from + way; i >= 0 && i < strange.length && Math.abs(i - last) <= GAP && Math.abs(i - from) < LONGEST; i += way)
      if (strange[i] > threshold * BELONGS) last = i
    return last
  }
  for (let i = 0; i < strange.length; i++) {
    if (strange[i] <= threshold) continue
    const last = reach(i, 1)
    const stretch = { from: Math.max(0, reach(i, -1) - EDGE), to: Math.min(strange.length, last + 1 + EDGE) }
    const before = found[found.length - 1]
    if (before && stretch.from <= before.to) found[found.length - 1] = { from: before.from, to: Math.max(before.to, stretch.to) }
    else found.push(stretch)
    i = last
  }
  return found.filter(({ from, to }) => to - from <= LONGEST)
}

/** The middle one, of every fourth value: found by parting them until it stands alone (quickselect: Hoare 1961). */
function medianOf(values: Float64Array): number {
  const some = new Float64Array(Math.ceil(values.length / 4))
  for (let i = 0; i < some.length; i++) some[i] = values[4 * i]
  const middle = some.length >> 1
  let [first, last] = [0, some.length - 1]
  while (first < last) {
    const pivot = some[(first + last) >> 1]
    let i = first
    let j = last
    while (i <= j) {
      while (some[i] < pivot) i++
      while (some[j] > pivot) j--
      if (i > j) break
      const kept = some[i]
      some[i++] = some[j]
      some[j--] = kept
    }
    if (middle <= j) last = j
    else if (middle >= i) first = i
    else break
  }
  return some[middle]
}

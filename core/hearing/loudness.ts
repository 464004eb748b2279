/**
 * Loudness by ITU-R BS.1770-5 and EBU R 128 (Tech 3341: momentary over 0.4 s, short-term over 3 s;
 * Tech 3342: loudness range), from K-weighted powers a tenth of a second, summed over what sounds.
 * All in LUFS or LU; -Infinity where there is nothing above the gate.
 */
export interface Loudness {
  integrated: number
  /** The loudest three seconds, and the loudest 0.4 s. */
  shortTerm: number
  momentary: number
  range: number
}

const MOMENTARY = 4
const SHORT = 30
const GATE = -70
const BELOW_MEAN = -10
const BELOW_MEAN_RANGE = -20

export const lufs = (power: number): number => (power > 0 ? -0.691 + 10 * Math.log10(power) : -Infinity)

/** Powers of several channels that sound together, each with a factor on its power (1 where none is given). */
export function together(channels: readonly ArrayLike<number>[], factors?: readonly number[]): Float64Array {
  const sum = new Float64Array(Math.min(...channels.map((powers) => powers.length)))
  channels.forEach((powers, c) => {
    const factor = factors?.[c] ?? 1
    for (let i = 0; i < sum.length; i++) sum[i] += powers[i] * factor
  })
  return sum
}

/**
 * Factors for the channels of sides, in their order, as these are heard: a channel alone comes out of two loudspeakers
 * (3 LU more than out of one), a left and a right one out of one each.
 */
export const asHeard = (sides: readonly { channels: readonly number[] }[]): number[] =>
  sides.flatMap(({ channels }) => channels.map(() => (channels.length === 1 ? 2 : 1)))

/** Mean power of `width` steps that end with each step, from the first that is whole. */
export function sliding(powers: ArrayLike<number>, width: number): Float64Array {
  const out = new Float64Array(Math.max(0, powers.length - width + 1))
  for (let i = 0; i < out.length; i++) {
    // summed anew now and then, so that rounding does not add up over hours
    if (i % 512 === 0) {
      let sum = 0
      for (let j = i; j < i + width; j++) sum += powers[j]
      out[i] = sum / width
    } else out[i] = Math.max(0, out[i - 1] + (powers[i + width - 1] - powers[i - 1]) / width)
  }
  return out
}

export const momentaryOf = (powers: ArrayLike<number>): Float64Array => sliding(powers, MOMENTARY)
export const shortTermOf = (powers: ArrayLike<number>): Float64Array => sliding(powers, SHORT)

const mean = (values: Float64Array): number => (values.length ? values.reduce((sum, value) => sum + value, 0) / values.length : 0)
const largest = (values: Float64Array): number => values.reduce((most, value) => Math.max(most, value), 0)

export function loudnessOf(powers: ArrayLike<number>): Loudness {
  const momentary = momentaryOf(powers)
  const short = shortTermOf(powers)
  const audible = momentary.filter((power) => lufs(power) > GATE)
  const gate = lufs(mean(audible)) + BELOW_MEAN
  return {
    integrated: lufs(mean(audible.filter((power) => lufs(power) > gate))),
    shortTerm: lufs(largest(short)),
    momentary: lufs(largest(momentary)),
    range: rangeOf(short),
  }
}

function rangeOf(short: Float64Array): number {
  const audible = short.filter((power) => lufs(power) >= GATE)
  const gate = lufs(mean(audible)) + BELOW_MEAN_RANGE
  const levels = audible
    .map(lufs)
    .filter((level) => level >= gate)
    .sort()
  if (!levels.length) return 0
  const at = (share: number) => levels[Math.round((levels.length - 1) * share)]
  return at(0.95) - at(0.1)
}

/**
 * The quietest zero crossing near the middle of a run of samples: an index at which the wave has
 * just crossed zero, by least sound around it and least distance from `middle`. Where the wave
 * crosses nowhere, `middle`.
 */
export function quietZero(samples: Float32Array, middle: number): number {
  const NEAR = 48
  let best = middle
  let least = Infinity
  for (let i = 1; i < samples.length; i++) {
    const crosses = (samples[i - 1] < 0 && samples[i] >= 0) || (samples[i - 1] > 0 && samples[i] <= 0) || samples[i] === 0
    if (!crosses) continue
    let energy = 0
    for (let k = Math.max(0, i - NEAR); k < Math.min(samples.length, i + NEAR); k++) energy += samples[k] * samples[k]
    const distance = Math.abs(i - middle) / samples.length
    const cost = Math.sqrt(energy / (2 * NEAR)) * (1 + 4 * distance) + distance * 1e-4
    if (cost < least) {
      least = cost
      best = i
    }
  }
  return best
}

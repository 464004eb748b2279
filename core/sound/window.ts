/** A Hann window of `size` values. `at`: where in its step each value is taken, 0 for its start, 0.5 for its middle. */
export const hann = (size: number, at = 0): Float64Array =>
  Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + at)) / size))

/**
 * Exponential, logarithm and sine of additions and multiplications alone: engines need not agree on the last bit of those of `Math`,
 * and what is heard must be the same bits everywhere.
 */

const LN2 = 0.6931471805599453

/** 2 to a power. Relative error below 1e-12. */
export function exp2(power: number): number {
  const whole = Math.floor(power)
  const x = (power - whole) * LN2
  // e^x as its Taylor series, 0 <= x < ln 2
  let term = 1
  let sum = 1
  for (let n = 1; n < 16; n++) {
    term = (term * x) / n
    sum += term
  }
  for (let n = 0; n < whole; n++) sum *= 2
  for (let n = 0; n > whole; n--) sum *= 0.5
  return sum
}

/** The logarithm to base 2 of a value above 0. Error below 1e-13. */
export function log2(value: number): number {
  let whole = 0
  let rest = value
  for (; rest > Math.SQRT2; rest *= 0.5) whole++
  for (; rest < Math.SQRT1_2; rest *= 2) whole--
  // ln x = 2 artanh((x - 1) / (x + 1)), within 0.172 of 0
  const s = (rest - 1) / (rest + 1)
  const square = s * s
  let term = s
  let sum = s
  for (let n = 3; n < 20; n += 2) {
    term *= square
    sum += term / n
  }
  return whole + (2 * sum) / LN2
}

/** The sine of a quarter turn times `t` (0 to 1), by its Taylor series to the ninth power: within 4e-6. */
export function quarterSine(t: number): number {
  const x = t * 1.5707963267948966
  const y = x * x
  return x * (1 - (y / 6) * (1 - (y / 20) * (1 - (y / 42) * (1 - y / 72))))
}

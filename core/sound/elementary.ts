/**
 * Exponential, logarithm and sine of additions and multiplications alone: engines need not agree on the last bit of those of `Math`,
 * and what is heard must be the same bits everywhere.
 */

const LN2 = 0.6931471805599453

/** 1 / n! of e^x: what is left out is below 1e-16 of it, up to half of ln 2. */
const EXP_TERMS = Float64Array.from({ length: 13 }, (_, n) => {
  let product = 1
  for (let k = 2; k <= n; k++) product *= k
  return 1 / product
})

/** 2 to a power. Relative error below 1e-12. */
export function exp2(power: number): number {
  const whole = Math.floor(power + 0.5)
  const x = (power - whole) * LN2
  let sum = EXP_TERMS[12]
  for (let n = 11; n >= 0; n--) sum = sum * x + EXP_TERMS[n]
  for (let n = 0; n < whole; n++) sum *= 2
  for (let n = 0; n > whole; n--) sum *= 0.5
  return sum
}

/** 2 / ((2n + 1) ln 2). */
const LOG_TERMS = Float64Array.from({ length: 9 }, (_, n) => 2 / ((2 * n + 1) * LN2))

/** The logarithm to base 2 of a value above 0. Error below 1e-13. */
export function log2(value: number): number {
  let whole = 0
  let rest = value
  for (; rest > Math.SQRT2; rest *= 0.5) whole++
  for (; rest < Math.SQRT1_2; rest *= 2) whole--
  // ln x = 2 artanh((x - 1) / (x + 1)), within 0.172 of 0
  const s = (rest - 1) / (rest + 1)
  const square = s * s
  let sum = LOG_TERMS[8]
  for (let n = 7; n >= 0; n--) sum = sum * square + LOG_TERMS[n]
  return whole + s * sum
}

/** The sine of a quarter turn times `t` (0 to 1), by its Taylor series to the ninth power: within 4e-6. */
export function quarterSine(t: number): number {
  const x = t * 1.5707963267948966
  const y = x * x
  return x * (1 - (y / 6) * (1 - (y / 20) * (1 - (y / 42) * (1 - y / 72))))
}

const HALF_PI = 1.5707963267948966

/** The sine of an angle between 0 and a quarter turn, in radians. Error below 1e-13. */
function sineWithin(x: number): number {
  const square = x * x
  let term = x
  let sum = x
  for (let n = 2; n < 22; n += 2) {
    term *= -square / (n * (n + 1))
    sum += term
  }
  return sum
}

/** The sine of an angle between 0 and a half turn, in radians. */
export const sine = (x: number): number => sineWithin(x <= HALF_PI ? x : 2 * HALF_PI - x)

/** The cosine of such an angle; exact to the last bits also where it is close to 1. */
export function cosine(x: number): number {
  const half = sineWithin(x / 2)
  return 1 - 2 * half * half
}

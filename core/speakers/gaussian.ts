import { COEFFICIENTS } from './features'

/** How often looks of one voice take which values: a normal distribution of all coefficients together. */
export interface Gaussian {
  count: number
  sum: Float64Array
  /** Sums of products, the lower triangle row by row. */
  products: Float64Array
}

const SIZE = (COEFFICIENTS * (COEFFICIENTS + 1)) / 2

export const emptyGaussian = (): Gaussian => ({ count: 0, sum: new Float64Array(COEFFICIENTS), products: new Float64Array(SIZE) })

export function addLook({ sum, products, ...rest }: Gaussian, values: Float32Array, look: number): Gaussian {
  const start = look * COEFFICIENTS
  for (let i = 0, k = 0; i < COEFFICIENTS; i++) {
    const value = values[start + i]
    sum[i] += value
    for (let j = 0; j <= i; j++) products[k++] += value * values[start + j]
  }
  return { sum, products, count: rest.count + 1 }
}

export const merged = (a: Gaussian, b: Gaussian): Gaussian => ({
  count: a.count + b.count,
  sum: a.sum.map((value, i) => value + b.sum[i]),
  products: a.products.map((value, i) => value + b.products[i]),
})

/** A variance that is never less than this: a few looks that happen to be alike say little. */
const LEAST = 0.002

/** Lower triangular root of the covariance (Cholesky), and the logarithm of its determinant. */
function rooted({ count, sum, products }: Gaussian): { root: Float64Array; logDeterminant: number } {
  const root = new Float64Array(SIZE)
  const at = (i: number, j: number) => (i * (i + 1)) / 2 + j
  let logDeterminant = 0
  for (let i = 0; i < COEFFICIENTS; i++)
    for (let j = 0; j <= i; j++) {
      let value = products[at(i, j)] / count - (sum[i] / count) * (sum[j] / count) + (i === j ? LEAST : 0)
      for (let k = 0; k < j; k++) value -= root[at(i, k)] * root[at(j, k)]
      if (i === j) {
        root[at(i, i)] = Math.sqrt(Math.max(value, 1e-6))
        logDeterminant += 2 * Math.log(root[at(i, i)])
      } else root[at(i, j)] = value / root[at(j, j)]
    }
  return { root, logDeterminant }
}

export const logDeterminant = (gaussian: Gaussian): number => rooted(gaussian).logDeterminant

/** Gives how likely a look is, as a logarithm without what is the same for all. */
export function likelihood(gaussian: Gaussian): (values: Float32Array, look: number) => number {
  const { root, logDeterminant: log } = rooted(gaussian)
  const mean = gaussian.sum.map((value) => value / gaussian.count)
  const solved = new Float64Array(COEFFICIENTS)
  return (values, look) => {
    let distance = 0
    for (let i = 0, k = 0; i < COEFFICIENTS; i++) {
      let value = values[look * COEFFICIENTS + i] - mean[i]
      for (let j = 0; j < i; j++) value -= root[k++] * solved[j]
      solved[i] = value / root[k++]
      distance += solved[i] * solved[i]
    }
    return -0.5 * (log + distance)
  }
}

/**
 * How much better two voices than one explain what both hold, less what two cost: the Bayesian
 * information criterion (Chen and Gopalakrishnan 1998). Above nothing they are two.
 */
export function apart(a: Gaussian, b: Gaussian, logA: number, logB: number, weight: number): number {
  const both = merged(a, b)
  const parameters = COEFFICIENTS + SIZE
  return 0.5 * (both.count * logDeterminant(both) - a.count * logA - b.count * logB) - 0.5 * weight * parameters * Math.log(both.count)
}

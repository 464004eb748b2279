/** One run of looks laid on another, the second sooner or later by up to twice the pace: dynamic time warping (Sakoe and Chiba, 1978). */

export interface Warp {
  /** Mean cost of a look. */
  cost: number
  /** For each look of the first, the look of the second. */
  path: Int32Array
}

const NONE = -1

/**
 * The best way to lay `rows` looks on some of `columns`. It may begin anywhere up to `early` and
 * end anywhere from `late` on. `weight` says how much a row counts.
 */
export function warp(
  rows: number,
  columns: number,
  cost: (row: number, column: number) => number,
  weight: (row: number) => number,
  early: number,
  late: number,
): Warp | null {
  const total = new Float64Array(rows * columns).fill(Infinity)
  const from = new Int8Array(rows * columns).fill(NONE)
  for (let row = 0; row < rows; row++) {
    const w = weight(row)
    for (let column = 0; column < columns; column++) {
      const at = row * columns + column
      if (row === 0) {
        if (column <= early) total[at] = w * cost(row, column)
        continue
      }
      // one column on is as fast; none is slower, and two are faster
      let best = Infinity
      for (let step = 0; step <= 2; step++) {
        if (column < step) continue
        const before = (row - 1) * columns + column - step
        // it does not stand still for two rows in a row
        const paid = total[before] + (step === 0 ? (from[before] === 0 ? Infinity : 0.4) : step === 2 ? 0.4 : 0)
        if (paid < best) {
          best = paid
          from[at] = step
        }
      }
      if (best < Infinity) total[at] = best + w * cost(row, column)
    }
  }
  let end = -1
  for (let column = late; column < columns; column++)
    if (end < 0 || total[(rows - 1) * columns + column] < total[(rows - 1) * columns + end]) end = column
  if (end < 0 || total[(rows - 1) * columns + end] === Infinity) return null
  let weights = 0
  for (let row = 0; row < rows; row++) weights += weight(row)
  const path = new Int32Array(rows)
  for (let row = rows - 1, column = end; row >= 0; row--) {
    path[row] = column
    column -= Math.max(0, from[row * columns + column])
  }
  return { cost: total[(rows - 1) * columns + end] / weights, path }
}

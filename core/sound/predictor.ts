/**
 * The linear predictor of a wave, from how alike it is to itself (its autocorrelation at 0, 1, 2 … frames), by Levinson and
 * Durbin's recursion. Puts its coefficients into `own`, of which the first is 1: the error at a frame is the sum of
 * `own[k]` times the frame k before it. `before` is as long, and only worked with.
 */
export function predict(lags: Float64Array, own: Float64Array, before: Float64Array): void {
  own.fill(0)
  own[0] = 1
  let error = lags[0]
  for (let m = 1; m < own.length; m++) {
    let sum = lags[m]
    for (let k = 1; k < m; k++) sum += own[k] * lags[m - k]
    const reflection = -sum / error
    before.set(own)
    for (let k = 1; k < m; k++) own[k] = before[k] + reflection * before[m - k]
    own[m] = reflection
    error *= 1 - reflection * reflection
  }
}

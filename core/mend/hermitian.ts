/** A square complex matrix, or a column of as many rows: real and imaginary parts, row by row. */
export interface Complex {
  re: Float64Array
  im: Float64Array
}

/** Solves A x = b for a Hermitian A of which the lower half is given, by Cholesky's decomposition. Both are overwritten, b by x. */
export function solveHermitian(a: Complex, b: Complex, size: number): void {
  decompose(a, size)
  for (let i = 0; i < size; i++) {
    for (let k = 0; k < i; k++) subtract(b, i, k, a.re[i * size + k], a.im[i * size + k])
    b.re[i] /= a.re[i * size + i]
    b.im[i] /= a.re[i * size + i]
  }
  for (let i = size - 1; i >= 0; i--) {
    for (let k = i + 1; k < size; k++) subtract(b, i, k, a.re[k * size + i], -a.im[k * size + i])
    b.re[i] /= a.re[i * size + i]
    b.im[i] /= a.re[i * size + i]
  }
}

/** Row `i` less a complex factor times row `k`. */
function subtract({ re, im }: Complex, i: number, k: number, factorRe: number, factorIm: number): void {
  re[i] -= factorRe * re[k] - factorIm * im[k]
  im[i] -= factorRe * im[k] + factorIm * re[k]
}

function decompose({ re, im }: Complex, size: number): void {
  for (let i = 0; i < size; i++)
    for (let j = 0; j <= i; j++) {
      const at = i * size + j
      let sumRe = re[at]
      let sumIm = im[at]
      for (let k = 0; k < j; k++) {
        const a = i * size + k
        const b = j * size + k
        sumRe -= re[a] * re[b] + im[a] * im[b]
        sumIm -= im[a] * re[b] - re[a] * im[b]
      }
      if (i === j) {
        re[at] = Math.sqrt(Math.max(sumRe, 1e-30))
        im[at] = 0
      } else {
        re[at] = sumRe / re[j * size + j]
        im[at] = sumIm / re[j * size + j]
      }
    }
}

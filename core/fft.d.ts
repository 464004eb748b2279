declare module 'fft.js' {
  /** Radix-4 FFT; complex values interleaved. Its forward transforms are not scaled, its inverse divides by the size. */
  export default class FFT {
    constructor(size: number)
    createComplexArray(): number[]
    realTransform(out: number[], input: ArrayLike<number>): void
    completeSpectrum(spectrum: number[]): void
    inverseTransform(out: number[], spectrum: number[]): void
  }
}

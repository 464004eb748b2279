declare module 'fft.js' {
  /** Radix-4 FFT; complex values interleaved. Its forward transforms are not scaled, its inverse divides by the size. */
  export default class FFT {
    constructor(size: number)
    /** Cosines and negative sines of a turn, in as many steps as the size, by turns. */
    readonly table: number[]
    createComplexArray(): number[]
    transform(out: number[], input: ArrayLike<number>): void
    realTransform(out: number[], input: ArrayLike<number>): void
    completeSpectrum(spectrum: number[]): void
    inverseTransform(out: number[], spectrum: number[]): void
  }
}

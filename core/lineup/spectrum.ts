import type FFT from 'fft.js'

/** The lower half of the spectrum of a sound, padded with silence to the transform's size. */
export function spectrumOf(fft: FFT, size: number, sound: Float32Array): Float64Array {
  const out = new Float64Array(2 * size)
  const padded = new Float64Array(size)
  padded.set(sound)
  fft.realTransform(out as unknown as number[], padded)
  return out
}

import FFT from 'fft.js'
import { cosine, sine } from './elementary'

const PI = 3.141592653589793

/** An FFT whose sines are our own: where it makes what is heard, every engine comes to the same bits. */
export function fourier(size: number): FFT {
  const fft = new FFT(size)
  // cosines and negative sines of a turn, in as many steps
  for (let i = 0; i < size; i++) {
    const angle = (2 * PI * i) / size
    const within = angle <= PI ? angle : 2 * PI - angle
    fft.table[2 * i] = cosine(within)
    fft.table[2 * i + 1] = angle <= PI ? -sine(within) : sine(within)
  }
  return fft
}

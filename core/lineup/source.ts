import { RATE, type Frames } from '../time'

/** One channel of a recording as it is read: frames `[from, to)` at 48 kHz, silence outside of it. */
export interface Source {
  frames: Frames
  read(from: Frames, to: Frames): Float32Array
}

/** Where similar sound are looked for: what a telephone carries is in it, rumble and hiss are not. */
export const NARROW_RATE = 8000
/** Frames at 48 kHz to one of the narrow. */
export const NARROW = RATE / NARROW_RATE

const REACH = 24
/** Low-pass at 3.3 kHz: a windowed sinc (Hann), 49 taps, of unity gain. */
const TAPS = (() => {
  const taps = Float64Array.from({ length: 2 * REACH + 1 }, (_, i) => {
    const x = i - REACH
    const cut = (2 * 3300) / RATE
    const sinc = x ? Math.sin(Math.PI * cut * x) / (Math.PI * x) : cut
    return sinc * (0.5 + 0.5 * Math.cos((Math.PI * x) / (REACH + 1)))
  })
  const sum = taps.reduce((all, tap) => all + tap, 0)
  return taps.map((tap) => tap / sum)
})()

/** A source at 8 kHz: its narrow frames `[from, to)`. */
export function narrowed(source: Source, from: number, to: number): Float32Array {
  const wide = source.read(from * NARROW - REACH, (to - 1) * NARROW + REACH + 1)
  const out = new Float32Array(to - from)
  filter(Float64Array.from(wide), out)
  return out
}

function filter(wide: Float64Array, out: Float32Array): void {
  const taps = TAPS
  for (let i = 0; i < out.length; i++) {
    const at = i * NARROW
    const back = at + 2 * REACH
    let one = taps[REACH] * wide[at + REACH]
    let other = 0
    for (let k = 0; k < REACH; k += 2) {
      one += taps[k] * (wide[at + k] + wide[back - k])
      other += taps[k + 1] * (wide[at + k + 1] + wide[back - k - 1])
    }
    out[i] = one + other
  }
}

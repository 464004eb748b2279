/**
 * The low end of a thump, taken out at its spot with soft shoulders. What is low is what three moving averages of 3.3 ms in a
 * row leave, sharpened by running them again (Kaiser and Hamming 1977): at 60 Hz nearly all of it, at 100 Hz a half, at 150 Hz
 * next to nothing. All are means of whole numbers of frames, so it lies where it came from.
 */

const AVERAGE = 159
const TIMES = 3
const REACH = (TIMES * (AVERAGE - 1)) / 2
/** Of the stretch so much is shoulder, at each end. */
const SHOULDER = 0.15

/** Takes the low end out of `[from, to)` in place. Beyond 711 frames on either side nothing is looked at. */
export function withoutLowEnd(sound: Float32Array, from: number, to: number): void {
  const low = lowOf(sound, from, to)
  const shoulder = Math.max(1, Math.round(SHOULDER * (to - from)))
  for (let i = 0; i < to - from; i++) {
    const t = Math.min(1, (i + 1) / shoulder, (to - from - i) / shoulder)
    sound[from + i] -= t * t * (3 - 2 * t) * low[i]
  }
}

/** What is low in `[from, to)`: 3H² - 2H³ of the bell shape H. */
function lowOf(sound: Float32Array, from: number, to: number): Float64Array {
  const wide = Float64Array.from({ length: to - from + 6 * REACH }, (_, i) => sound[from - 3 * REACH + i] ?? 0)
  const twice = bell(bell(wide))
  const thrice = bell(twice)
  return thrice.map((value, i) => 3 * twice[i + REACH] - 2 * value)
}

function bell(values: Float64Array): Float64Array {
  let out = values
  for (let k = 0; k < TIMES; k++) out = averaged(out)
  return out
}

/** Means of `AVERAGE` values in a row: as many fewer come out. */
function averaged(values: Float64Array): Float64Array {
  const out = new Float64Array(values.length - AVERAGE + 1)
  let sum = 0
  for (let i = 0; i < AVERAGE; i++) sum += values[i]
  for (let i = 0; i < out.length; i++) {
    out[i] = sum / AVERAGE
    sum += (values[i + AVERAGE] ?? 0) - values[i]
  }
  return out
}

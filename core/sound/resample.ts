/** Source frames to either side that each frame is made of: flat to 20 kHz. */
const REACH = 20
const TAPS = 2 * REACH
const PHASES = 1024
/** Kaiser's window: side lobes 96 dB down. */
const BETA = 9.6

/** Sinc times window at 1024 places between two frames, each row of unity gain (Smith and Gossett 1984). */
const KERNEL = (() => {
  const rows = new Float64Array((PHASES + 1) * TAPS)
  const bessel = (x: number) => {
    let [sum, term] = [1, 1]
    for (let k = 1; term > 1e-12 * sum; k++) sum += term *= (x / (2 * k)) ** 2
    return sum
  }
  for (let phase = 0; phase <= PHASES; phase++) {
    const row = Array.from({ length: TAPS }, (_, i) => {
      const x = i - REACH + 1 - phase / PHASES
      const sinc = Math.abs(x) < 1e-9 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)
      return Math.abs(x) >= REACH ? 0 : (sinc * bessel(BETA * Math.sqrt(1 - (x / REACH) ** 2))) / bessel(BETA)
    })
    const sum = row.reduce((all, tap) => all + tap, 0)
    rows.set(
      row.map((tap) => tap / sum),
      phase * TAPS,
    )
  }
  return rows
})()

/**
 * A sound at another pace: out[i] is the sound at frame `from + i * step`, between frames as a band
 * limited wave runs there. For paces close to 1 (clocks that differ): what lies above half the rate
 * is not taken out. `read` gives frames `[from, to)`, silence outside of the sound.
 */
export function resampled(read: (from: number, to: number) => Float32Array, from: number, step: number, count: number): Float32Array {
  const first = Math.floor(from) - REACH + 1
  const last = Math.floor(from + (count - 1) * step) + REACH + 1
  const out = new Float32Array(count)
  interpolate(Float64Array.from(read(first, last)), out, from - first, step)
  return out
}

/**
 * Four frames at a time where they lie between the same two rows of the kernel, as they do nearly always
 * at a pace close to 1: they share what is read of it, which halves the time.
 */
function interpolate(source: Float64Array, out: Float32Array, start: number, step: number): void {
  const count = out.length
  const shift = (step - 1) * PHASES
  for (let i = 0; i < count;) {
    const at = start + i * step
    const whole = Math.floor(at)
    const place = (at - whole) * PHASES
    const phase = Math.floor(place)
    const more = place - phase
    const together = i + 3 < count && more + 3 * shift >= 0 && more + 3 * shift < 1
    if (together) four(source, whole - REACH + 1, phase * TAPS, more, shift, out, i)
    else out[i] = one(source, whole - REACH + 1, phase * TAPS, more)
    i += together ? 4 : 1
  }
}

/** The frame made of the source from `base` on, `more` of the way from one row of the kernel to the next. */
function one(source: Float64Array, base: number, row: number, more: number): number {
  const kernel = KERNEL
  let here = 0
  let beside = 0
  for (let k = 0; k < TAPS; k++) {
    const sample = source[base + k]
    here += kernel[row + k] * sample
    beside += kernel[row + TAPS + k] * sample
  }
  return here + more * (beside - here)
}

/** The same for four frames in a row, each `shift` further between the rows than the one before. */
function four(source: Float64Array, base: number, row: number, more: number, shift: number, out: Float32Array, at: number): void {
  const kernel = KERNEL
  let [here0, here1, here2, here3] = [0, 0, 0, 0]
  let [beside0, beside1, beside2, beside3] = [0, 0, 0, 0]
  let [first, second, third] = [source[base], source[base + 1], source[base + 2]]
  for (let k = 0; k < TAPS; k++) {
    const fourth = source[base + k + 3]
    const tap = kernel[row + k]
    const next = kernel[row + TAPS + k]
    here0 += tap * first
    beside0 += next * first
    here1 += tap * second
    beside1 += next * second
    here2 += tap * third
    beside2 += next * third
    here3 += tap * fourth
    beside3 += next * fourth
    first = second
    second = third
    third = fourth
  }
  out[at] = here0 + more * (beside0 - here0)
  out[at + 1] = here1 + (more + shift) * (beside1 - here1)
  out[at + 2] = here2 + (more + 2 * shift) * (beside2 - here2)
  out[at + 3] = here3 + (more + 3 * shift) * (beside3 - here3)
}

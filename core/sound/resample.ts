/** Source frames to either side that each frame is made of. */
const REACH = 32
const PHASES = 1024
/** Kaiser's window: side lobes 96 dB down. */
const BETA = 9.6

/** Sinc times window at 1024 places between two frames, each row of unity gain (Smith and Gossett 1984). */
const KERNEL = (() => {
  const rows = new Float32Array((PHASES + 1) * 2 * REACH)
  const bessel = (x: number) => {
    let [sum, term] = [1, 1]
    for (let k = 1; term > 1e-12 * sum; k++) sum += term *= (x / (2 * k)) ** 2
    return sum
  }
  for (let phase = 0; phase <= PHASES; phase++) {
    const row = Array.from({ length: 2 * REACH }, (_, i) => {
      const x = i - REACH + 1 - phase / PHASES
      const sinc = Math.abs(x) < 1e-9 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)
      return Math.abs(x) >= REACH ? 0 : (sinc * bessel(BETA * Math.sqrt(1 - (x / REACH) ** 2))) / bessel(BETA)
    })
    const sum = row.reduce((all, tap) => all + tap, 0)
    rows.set(row.map((tap) => tap / sum), phase * 2 * REACH)
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
  interpolate(read(first, last), out, from - first, step)
  return out
}

function interpolate(source: Float32Array, out: Float32Array, start: number, step: number): void {
  const kernel = KERNEL
  for (let i = 0; i < out.length; i++) {
    const at = start + i * step
    const whole = Math.floor(at)
    const place = (at - whole) * PHASES
    const phase = Math.floor(place)
    const more = place - phase
    const row = phase * 2 * REACH
    const next = row + 2 * REACH
    const base = whole - REACH + 1
    let here = 0
    let beside = 0
    for (let k = 0; k < 2 * REACH; k++) {
      const sample = source[base + k]
      here += kernel[row + k] * sample
      beside += kernel[next + k] * sample
    }
    out[i] = here + more * (beside - here)
  }
}

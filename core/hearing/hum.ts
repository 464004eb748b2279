import { RATE } from '../time'
import { hann } from '../sound/window'

export interface Hum {
  /** Of the mains, in Hz. */
  frequency: 50 | 60
  /** Of the hum and its overtones together, in dBFS. */
  level: number
}

const MAINS = [50, 60] as const
const OVERTONES = 8
/** Windows of half a second resolve 50 and 60 Hz, and their neighbours. */
export const LINE_WINDOW = RATE / 2
const STANDS_OUT = 9
const LEAST_LINES = 2
const SOFTEST = -84

/** Mean square of one frequency in a Hann window of `LINE_WINDOW` samples, of full scale, by Goertzel's recurrence. */
export function linePower(samples: Float32Array, from: number, frequency: number): number {
  const w = (2 * Math.PI * frequency) / RATE
  const turn = 2 * Math.cos(w)
  let s1 = 0
  let s2 = 0
  for (let i = 0; i < LINE_WINDOW; i++) {
    const s = samples[from + i] * window[i] + turn * s1 - s2
    s2 = s1
    s1 = s
  }
  const power = s1 * s1 + s2 * s2 - turn * s1 * s2
  return (2 * power) / (LINE_WINDOW / 2) ** 2
}
const window = hann(LINE_WINDOW)

/** Mains hum in a stretch of room tone: lines at 50 or 60 Hz and above that stand out from what lies beside them. */
export function humOf(room: Float32Array): Hum | null {
  const windows = Math.floor(room.length / LINE_WINDOW)
  if (!windows) return null
  const mean = (frequency: number) => {
    let sum = 0
    for (let w = 0; w < windows; w++) sum += linePower(room, w * LINE_WINDOW, frequency)
    return sum / windows
  }
  const found = MAINS.map((frequency) => {
    let lines = 0
    let power = 0
    for (let k = 1; k <= OVERTONES; k++) {
      const line = mean(frequency * k)
      const beside = [-15, -9, 9, 15].map((by) => mean(frequency * k + by)).sort((a, b) => a - b)
      if (line <= beside[2] * 10 ** (STANDS_OUT / 10)) continue
      // 300 Hz is an overtone of both
      if ((frequency * k) % 300 !== 0) lines++
      power += line
    }
    return { frequency, lines, level: 10 * Math.log10(power + 1e-20) }
  }).sort((a, b) => b.lines - a.lines || b.level - a.level)[0]
  return found.lines >= LEAST_LINES && found.level > SOFTEST ? { frequency: found.frequency, level: found.level } : null
}

import { decibels } from '../sound/level'
import { SILENCE } from './ear'

/** The level of each of so many equal parts of a run: the root of its mean square, in dBFS; `SILENCE` where there is none. */
export function levelsIn(samples: Float32Array, parts: number): number[] {
  return Array.from({ length: parts }, (_, part) => {
    const [from, to] = [0, 1].map((k) => Math.round(((part + k) * samples.length) / parts))
    let sum = 0
    for (let i = from; i < to; i++) sum += samples[i] * samples[i]
    return to > from ? Math.max(SILENCE, decibels(Math.sqrt(sum / (to - from)))) : SILENCE
  })
}

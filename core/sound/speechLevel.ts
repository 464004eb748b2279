import { milliseconds } from '../time'
import { decibels } from './level'

/** Looks at the sound in blocks of this many frames. */
const BLOCK = milliseconds(10)
/** What is softer than the loudest block by more than this, in dB, is a pause. */
const PAUSE = 22

/** The level of what is said in some sound, in dBFS of its mean square: pauses do not count. −Infinity for silence. */
export function speechLevel(sound: Float32Array): number {
  const powers: number[] = []
  for (let at = 0; at + BLOCK <= sound.length; at += BLOCK) {
    let sum = 0
    for (let i = at; i < at + BLOCK; i++) sum += sound[i] * sound[i]
    powers.push(sum / BLOCK)
  }
  const least = Math.max(0, ...powers) / 10 ** (PAUSE / 10)
  const said = powers.filter((power) => power > 0 && power >= least)
  return said.length ? decibels(Math.sqrt(said.reduce((sum, power) => sum + power, 0) / said.length)) : -Infinity
}

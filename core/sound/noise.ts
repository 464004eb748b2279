import { random } from './random'

/** White noise for tests, the same each time: frames from -level to level. */
export function noise(length: number, level: number): Float32Array {
  const next = random(7)
  return Float32Array.from({ length }, () => (next() * 2 - 1) * level)
}

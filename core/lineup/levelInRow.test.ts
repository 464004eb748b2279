import { expect, it } from 'vitest'
import { lineAt } from '../sound/level'
import { levelInRow } from './levelInRow'

it('keeps the level of each tape at each of its frames', () => {
  const level = [
    { at: 100, dB: -6 },
    { at: 500, dB: 3 },
  ]
  const row = [
    { at: 0, frames: 1000, level },
    { at: 1000, frames: 800, level: [] },
    { at: 1800, frames: 1000, level },
  ]
  const line = levelInRow(row)
  for (const { at, frames, level: own } of row)
    for (const frame of [0, 50, 100, 300, 499, 500, 700, frames - 1])
      if (frame < frames) expect(lineAt(line, at + frame)).toBeCloseTo(lineAt(own, frame), 9)
  for (const [i, { at }] of line.entries()) if (i) expect(at).toBeGreaterThan(line[i - 1].at)
  expect(levelInRow([{ at: 0, frames: 10, level: [] }])).toEqual([])
})

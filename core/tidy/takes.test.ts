import { expect, it } from 'vitest'
import type { HeardSide } from './listen/side'
import { levelOf } from './takes'

const side = (...phrases: HeardSide['phrases']) => ({ phrases }) as HeardSide

it('a take is as loud as its phrases are by their power, on the side on which it is loudest', () => {
  const heard = [side({ from: 0, to: 100, level: -20 }, { from: 100, to: 200, level: -30 }), side({ from: 0, to: 200, level: -50 })]
  expect(levelOf({ heard }, { from: 0, to: 100 })).toBeCloseTo(-20)
  expect(levelOf({ heard }, { from: 50, to: 150 })).toBeCloseTo(10 * Math.log10((0.01 + 0.001) / 2))
  expect(levelOf({ heard: [heard[1]] }, { from: 0, to: 100 })).toBeCloseTo(-50)
})

it('is not known where nobody listened, or nothing is heard', () => {
  expect(levelOf({ heard: null }, { from: 0, to: 100 })).toBe(null)
  expect(levelOf({ heard: [side({ from: 0, to: 10, level: -Infinity })] }, { from: 0, to: 100 })).toBe(null)
  expect(levelOf({ heard: [side({ from: 200, to: 300, level: -20 })] }, { from: 0, to: 100 })).toBe(null)
})

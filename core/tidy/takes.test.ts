import { expect, it } from 'vitest'
import type { HeardSide } from './listen/side'
import { levelOf, toOneLevel } from './takes'

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

it('takes are turned to the level that they have on average, and one alone is left as it is', () => {
  const heard = [side({ from: 0, to: 100, level: -20 }, { from: 200, to: 300, level: -26 })]
  const takes = [
    { from: 0, to: 100 },
    { from: 200, to: 300 },
    { from: 400, to: 500 },
  ]
  expect(takes.map((take) => toOneLevel({ heard }, takes, take))).toEqual([-3, 3, 0].map((dB) => expect.closeTo(dB)))
  expect(toOneLevel({ heard }, [takes[0], takes[2]], takes[0])).toBe(0)
})

import { expect, it } from 'vitest'
import { placeAt, withSegment, type Segment } from './segments'

const run = (counter: number, position: number, speed: number): Segment => ({ counter, position, speed })

it('tells the place of a frame that is heard, at the speed of its run', () => {
  const runs = [run(1000, 0, 1), run(2000, 1000, 2.5), run(3000, 3500, -1)]
  expect([500, 1000, 1500, 2400, 3100].map((counter) => placeAt(runs, counter))).toEqual([0, 0, 500, 2000, 3400])
})

it('lets what was written anew hold from where it begins, past what was to come', () => {
  const runs = withSegment([run(0, 0, 1), run(5000, 5000, 2)], run(3000, 3000, 1), 2500)
  expect(placeAt(runs, 2600)).toBe(2600)
  expect(placeAt(runs, 6000)).toBe(6000)
})

it('forgets what was heard, also where the counter begins again', () => {
  const last = 2 ** 31 - 10
  expect(withSegment([run(last - 500, 0, 1), run(last, 500, 2)], run(-(2 ** 31) + 90, 700, 1), last + 5)).toHaveLength(2)
  expect(placeAt([run(last, 500, 2)], -(2 ** 31))).toBe(520)
})

import { expect, it } from 'vitest'
import { RATE } from '../../core/time'
import { zoomStep } from './zoom'

it.each([12, 60, 600, 7200])('goes in a few steps from the whole of %i seconds to a second a line, and back', (seconds) => {
  const whole = Math.round((seconds * RATE) / 7)
  const way: number[] = [whole]
  while (way[way.length - 1] > RATE && way.length < 20) way.push(zoomStep(way[way.length - 1], 'in', whole))
  expect(way[way.length - 1]).toBe(RATE)
  expect(way.length).toBeLessThanOrEqual(9)
  let now = way[way.length - 1]
  for (let i = 0; i < way.length; i++) now = zoomStep(now, 'out', whole)
  expect(now).toBe(whole)
  // and neither goes further
  expect(zoomStep(RATE, 'in', whole)).toBe(RATE)
})

it('leaves a look of one’s own for the step beside it', () => {
  expect(zoomStep(4 * RATE, 'in', 100 * RATE)).toBe(3.5 * RATE)
  expect(zoomStep(4 * RATE, 'out', 100 * RATE)).toBe(5.5 * RATE)
})

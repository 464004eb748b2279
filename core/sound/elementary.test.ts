import fc from 'fast-check'
import { expect, it } from 'vitest'
import { cosine, exp2, log2, quarterSine, sine } from './elementary'

it('agrees with the functions of the engine', () => {
  fc.assert(
    fc.property(fc.double({ min: -60, max: 20, noNaN: true }), (power) => {
      expect(Math.abs(exp2(power) / 2 ** power - 1)).toBeLessThan(1e-12)
      expect(Math.abs(log2(2 ** power) - power)).toBeLessThan(1e-12)
    }),
  )
  for (let t = 0; t <= 1; t += 0.01) expect(Math.abs(quarterSine(t) - Math.sin((t * Math.PI) / 2))).toBeLessThan(4e-6)
  for (let x = 0; x <= Math.PI; x += 0.001) {
    expect(Math.abs(sine(x) - Math.sin(x))).toBeLessThan(1e-13)
    expect(Math.abs(cosine(x) - Math.cos(x))).toBeLessThan(1e-13)
  }
  expect([exp2(3), log2(8), log2(1)]).toEqual([8, 3, 0])
})

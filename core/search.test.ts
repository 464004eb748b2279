import fc from 'fast-check'
import { expect, it } from 'vitest'
import { firstWhere } from './search'

it('finds what a look from the start would find', () =>
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 50 })), fc.integer({ min: -1, max: 51 }), (numbers, wanted) => {
      const sorted = numbers.sort((a, b) => a - b)
      const slow = sorted.findIndex((number) => number >= wanted)
      expect(firstWhere(sorted.length, (i) => sorted[i] >= wanted)).toBe(slow < 0 ? sorted.length : slow)
    }),
  ))

import fc from 'fast-check'
import { expect, it } from 'vitest'
import { Coverage } from './coverage'
import { without } from '../stretches'

const stretch = fc
  .tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 20 }))
  .map(([from, length]) => ({ from, to: from + length }))

it('covers what was added, in whatever order, and leaves the rest', () =>
  fc.assert(
    fc.property(fc.array(stretch, { maxLength: 12 }), stretch, (added, asked) => {
      const covered = new Coverage()
      added.forEach((one) => covered.add(one))
      expect(covered.less(asked)).toEqual(
        asked.to > asked.from
          ? without(
              asked,
              added.filter(({ from, to }) => to > from),
            )
          : [],
      )
    }),
  ))

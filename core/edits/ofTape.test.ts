import { expect, it } from 'vitest'
import { normal } from './editList'
import { unstruck } from './ofTape'

it('what is struck comes out of a stretch of tape', () => {
  expect(
    normal(unstruck('t', { from: 10, to: 50 }, [{ from: 20, to: 30 }])).map((span) => [span.from, span.to, Boolean(span.join)]),
  ).toEqual([
    [10, 20, false],
    [30, 50, true],
  ])
})

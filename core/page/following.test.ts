import { expect, it } from 'vitest'
import { moved, shareOf } from './following'
import { paceOf } from './reading'
import type { Block } from './story'
import { onAir } from './timing'

const text = (words: number) => Array(words).fill('word').join(' ')
/** Of as many seconds as words. */
const block = (id: string, words: number): Block => ({
  id,
  kind: 'copy',
  order: id,
  aside: false,
  text: text(words),
  reader: '',
  pace: paceOf(text(words), words * 48_000),
  piece: null,
})
const none = () => undefined
const before = onAir([block('a', 2), block('b', 3), block('c', 1)], none)

it('says how much of a block has passed', () => {
  expect(shareOf(before, 'b', 48_000 * 3.8)).toBe(0.5)
  expect(shareOf(before, 'b', 48_000 * 5.3)).toBeNull()
  expect(shareOf(before, 'x', 0)).toBeNull()
})

it('goes on in the same block wherever it went, and in what took the place of one that is gone', () => {
  const after = onAir([block('c', 1), block('a', 2)], none)
  const runs = moved(before, after)
  expect(runs.map((run) => [run.from / 48_000, run.length / 48_000, run.to / 48_000])).toEqual([
    [0, 2.6, 1],
    [2, 3.6, 0],
    [5, 1.6, 0],
  ])
})

import { expect, it } from 'vitest'
import type { Mark } from '../tape/tape'
import { normal, plainJoin } from './editList'
import { pieceMarks } from './pieceMarks'

const mark = (at: number): Mark => ({ id: `mark ${at}`, kind: 'mark', at, text: '' })
const marksOf = (tape: string) => (tape === 'a' ? [mark(100), mark(600), mark(1500)] : [])

it('marks show where their place is kept, twice where it stands twice, and nowhere in room that was added', () => {
  const list = normal([
    { tape: 'a', from: 500, to: 1000, sound: 'tape' },
    { tape: 'a', from: 600, to: 700, sound: 'room', join: plainJoin() },
    { tape: 'b', from: 0, to: 400, sound: 'tape', join: plainJoin() },
    { tape: 'a', from: 550, to: 650, sound: 'tape', join: plainJoin() },
    { tape: 'a', from: 1400, to: 1600, sound: 'tone', join: plainJoin() },
  ])
  expect(pieceMarks(list, marksOf).map(({ mark: { id }, at }) => [id, at])).toEqual([
    ['mark 600', 100],
    ['mark 600', 1050],
    ['mark 1500', 1200],
  ])
})

import { expect, it } from 'vitest'
import { saidAlready } from './saidAlready'

const tape = 'Well I have been a deckhand on the night ferry for eleven years and nobody told us'.split(' ').map((text) => ({ text }))
const found = (copy: string) =>
  saidAlready(copy, tape).map(({ from, to }) =>
    tape
      .slice(from, to)
      .map(({ text }) => text)
      .join(' '),
  )

it('finds what a line says already, in other forms too', () => {
  expect(found('Piet Aldous has worked the night ferries as a deckhand for eleven years.')).toEqual([
    'deckhand on the night ferry for eleven years',
  ])
  expect(found('Eleven people signed. The ferry stays.')).toEqual(['ferry for eleven'])
  expect(found('They were told nothing.')).toEqual([])
})

it('small words alone are no matter', () => {
  expect(found('And on the other hand we have been for it.')).toEqual([])
  expect(saidAlready('', tape)).toEqual([])
})

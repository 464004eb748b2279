import { expect, it } from 'vitest'
import { findQuote, quoteAt, plainWords } from './anchors'

const line = plainWords('The last boat to Brackle left at midnight, and the boat is still there.')
const boat = quoteAt(line, 2)
const now = (text: string) => {
  const words = plainWords(text)
  const { index, stands } = findQuote(boat, words)
  return [words[index] ?? 'end', index, stands]
}

it('finds a word again wherever what is around it goes', () => {
  expect(now('The last boat to Brackle left at midnight.')).toEqual(['boat', 2, true])
  expect(now('The boat is still there. For forty years the last boat to Brackle left at midnight.')).toEqual(['boat', 10, true])
  expect(now('“Last boat,” they say, to Brackle.')).toEqual(['boat', 1, true])
})

it('goes to the place that is left where the word is gone, and never to a like word elsewhere', () => {
  expect(now('The last to Brackle left at midnight, and the boat is still there.')).toEqual(['to', 2, false])
  expect(now('The last ferry to Brackle left at midnight, and the boat is still there.')).toEqual(['ferry', 2, false])
  expect(now('And nobody knows.')).toEqual(['knows', 2, false])
  expect(now('Nobody')).toEqual(['end', 1, false])
})

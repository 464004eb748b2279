import { expect, it } from 'vitest'
import { masked, OFF_THE_RECORD } from './masked'

const words = 'we will close it in June but you did not hear that from me'
  .split(' ')
  .map((text, i) => ({ text, from: i * 100, to: i * 100 + 90 }))

it('says of what is off the record that it is, and no word of it, nor a half one', () => {
  const shown = masked(words, [
    { from: 250, to: 480 },
    { from: 1100, to: 1101 },
  ])
  expect(shown.map(({ text }) => text)).toEqual([
    'we',
    'will',
    OFF_THE_RECORD,
    'June',
    'but',
    'you',
    'did',
    'not',
    'hear',
    OFF_THE_RECORD,
    'from',
    'me',
  ])
  expect(shown[2]).toEqual({ text: OFF_THE_RECORD, from: 200, to: 490 })
  expect(masked(words, [])).toEqual(words)
})

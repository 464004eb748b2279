import { expect, it } from 'vitest'
import { toFrames } from '../time'
import { laidOn } from './laidOn'

const at = (seconds: number) => ({ from: toFrames(seconds), to: toFrames(seconds + 0.3) })

it('keeps what was found, says what was not, and what is said besides', () => {
  const read = 'we will (cough) go never ever today'.split(' ').map((text) => ({ text, speaker: 'Maren' }))
  const places = [at(1), at(1.4), at(2), at(2.5), null, null, at(3)]
  const guide = [
    ...['we', 'will', 'go'].map((text, i) => ({ text, ...at(1 + i * 0.7), sure: 0.9 })),
    ...['and', 'then', 'some', 'more'].map((text, i) => ({ text, ...at(5 + i * 0.4), sure: 0.8 })),
    { text: 'hum', ...at(9), sure: 0.9 },
  ]
  const { words, missing, extra } = laidOn(read, places, guide)
  expect(words.map(({ text }) => text).join(' ')).toBe('we will (cough) go today and then some more')
  expect(words[2]).toMatchObject({ what: 'noise', speaker: 'Maren' })
  expect(words.at(-1)).toMatchObject({ sure: 0.8 })
  expect(missing).toEqual([{ at: toFrames(2.8), text: 'never ever' }])
  expect(extra).toEqual([{ at: toFrames(5), text: 'and then some more' }])
})

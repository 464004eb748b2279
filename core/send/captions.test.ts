import { expect, it } from 'vitest'
import { RATE } from '../time'
import { captionsOf, plainText, srt, webVtt, type Timed } from './captions'

/** Words of 0.3 s each, one after the other, from `at` seconds on. */
const said = (text: string, at: number, speaker = 'Piet Aldous'): Timed[] =>
  text.split(' ').map((word, i) => ({ text: word, from: (at + 0.3 * i) * RATE, to: (at + 0.3 * (i + 1)) * RATE, speaker }))

it('a caption ends at a pause, at another speaker, and at a sentence that fills it', () => {
  const words = [
    ...said('Nobody told us.', 0),
    ...said('We just sat there.', 2.5),
    ...said('The company says otherwise.', 3.7, 'Tamsin Roe'),
    ...said('Eleven passengers a night do not pay for fuel. And so it goes.', 4.9, 'Tamsin Roe'),
  ]
  expect(captionsOf(words).map(({ lines }) => lines.join(' / '))).toEqual([
    'Nobody told us.',
    'We just sat there.',
    'The company says otherwise.',
    'Eleven passengers a night / do not pay for fuel.',
    'And so it goes.',
  ])
})

it('no line is longer than 37 letters, no caption has more than two, none lies over the next, and all words are there', () => {
  const text = 'The last boat to Brackle left at midnight and nobody on the quay had been told that it would be the very last one this year'
  const captions = captionsOf(said(`${text} ${text}`, 1))
  expect(captions.every(({ lines }) => lines.length <= 2 && lines.every((line) => line.length <= 37))).toBe(true)
  expect(captions.every(({ from, to }, i) => to > from && (i === 0 || captions[i - 1].to <= from))).toBe(true)
  expect(captions.flatMap(({ lines }) => lines).join(' ')).toBe(`${text} ${text}`)
})

it('a single short word stands for a second, where the next one leaves it the time', () => {
  expect(captionsOf(said('No.', 1)).map(({ from, to }) => (to - from) / RATE)).toEqual([1])
  expect(captionsOf([...said('No.', 1), ...said('Why?', 1.4, 'Tamsin Roe')])[0].to).toBe(Math.round(1.4 * RATE))
})

it('is written as SubRip, WebVTT and text', () => {
  const words = [...said('Fish & chips,', 3661.5), ...said('<never> again.', 3664, 'Tamsin Roe')]
  const captions = captionsOf(words)
  expect(srt(captions)).toBe('1\n01:01:01,500 --> 01:01:02,800\nFish & chips,\n\n2\n01:01:04,000 --> 01:01:05,000\n<never> again.\n')
  const [first, second] = webVtt(captions).split('\n\n').slice(1)
  expect(webVtt(captions)).toMatch(/^WEBVTT\n\n/)
  expect(first).toBe('01:01:01.500 --> 01:01:02.800\n<v Piet Aldous>Fish &amp; chips,')
  expect(second).toBe('01:01:04.000 --> 01:01:05.000\n<v Tamsin Roe>&lt;never&gt; again.\n')
  expect(plainText(words)).toBe('Piet Aldous: Fish & chips,\n\nTamsin Roe: <never> again.\n')
})

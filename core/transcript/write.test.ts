import { describe, expect, it } from 'vitest'
import type { Word } from '../tape/words'
import { RATE } from '../time'
import { cuesOf, paragraphsOf } from './cues'
import { asJson, asLog, asSubRip, asText, asWebVtt } from './write'

const said = (speaker: string, from: number, text: string): Word[] =>
  text.split(' ').map((word, i) => ({
    text: word,
    from: Math.round((from + i * 0.4) * RATE),
    to: Math.round((from + i * 0.4 + 0.35) * RATE),
    ...(speaker ? { speaker } : {}),
  }))
const words: Word[] = [
  ...said('Tamsin Roe', 1, 'Nobody told you?'),
  ...said('Piet Aldous', 3, 'Nobody told us. Nobody told anybody on the boat, <none> of us & that is that'),
]
words[3] = { ...words[3], what: 'filler' }

describe('words written out', () => {
  it('as text are paragraphs with who speaks', () => {
    expect(asText(words)).toBe(
      'Tamsin Roe: Nobody told you?\n\nPiet Aldous: Nobody told us. Nobody told anybody on the boat, <none> of us & that is that\n',
    )
  })

  it('as SubRip are numbered, with times in thousandths and a name where the speaker changes', () => {
    const [first, second, third] = asSubRip(words, RATE).split('\n\n')
    expect(first).toBe('1\n00:00:00,000 --> 00:00:01,150\nTamsin Roe: Nobody told you?')
    expect(second).toBe('2\n00:00:02,000 --> 00:00:03,150\nPiet Aldous: Nobody told us.')
    expect(third).toMatch(/^3\n00:00:03,200 --> .*\nNobody told anybody/)
  })

  it('as WebVTT name voices and escape what has a meaning there', () => {
    const vtt = asWebVtt(words)
    expect(vtt.startsWith('WEBVTT\n\n00:00:01.000 --> 00:00:02.150\n<v Tamsin Roe>Nobody told you?\n')).toBe(true)
    expect(vtt).toContain('&lt;none&gt; of us &amp; that')
  })

  it('as JSON are each word with its times in seconds', () => {
    const list = JSON.parse(asJson(words)) as { start: number; end: number; text: string; what?: string }[]
    expect(list).toHaveLength(words.length)
    expect(list[3]).toEqual({ start: 3, end: 3.35, text: 'Nobody', speaker: 'Piet Aldous', what: 'filler' })
  })

  it('as a log hold marks where they were dropped', () => {
    const lines = asLog(words, [{ at: 2.5 * RATE, text: 'good\tbit' }]).split('\n')
    expect(lines.slice(0, 4)).toEqual([
      'time\twho\twhat',
      '0:01.0\tTamsin Roe\tNobody told you?',
      '0:02.5\t*\tgood bit',
      expect.stringMatching(/^0:03\.0\tPiet Aldous\tNobody/) as string,
    ])
  })

  it('break where a reader can follow, and never mix two speakers', () => {
    const long = said('A', 0, Array.from({ length: 60 }, (_, i) => `word${i}`).join(' '))
    for (const cue of cuesOf([...long, ...said('B', 30, 'yes')])) {
      expect(cue.text.length).toBeLessThanOrEqual(84)
      expect(cue.to - cue.from).toBeLessThanOrEqual(6 * RATE)
    }
    expect(paragraphsOf([...said('', 0, 'one two'), ...said('', 5, 'three')]).map(({ text }) => text)).toEqual(['one two', 'three'])
    expect([asText([]), asSubRip([]), asWebVtt([]), asJson([])]).toEqual(['', '', 'WEBVTT\n', '[]\n'])
  })
})

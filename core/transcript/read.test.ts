import { describe, expect, it } from 'vitest'
import { toFrames } from '../time'
import { readTranscript, Unreadable, type ReadWord } from './read'
import { asJson, asSubRip, asText, asWebVtt } from './write'

const said = (words: readonly ReadWord[]) => words.map(({ text, speaker }) => (speaker ? `${speaker}/${text}` : text)).join(' ')
const words = ['Nobody', 'told', 'us.', 'Why', '<not>', '&', 'when?'].map((text, i) => ({
  text,
  from: toFrames(1 + i * 0.4),
  to: toFrames(1.35 + i * 0.4),
  speaker: i < 3 ? 'Piet Aldous' : 'Tamsin',
}))
const EXPECTED = 'Piet Aldous/Nobody Piet Aldous/told Piet Aldous/us. Tamsin/Why Tamsin/<not> Tamsin/& Tamsin/when?'

describe('words brought in', () => {
  it('are what was written out, in every format', () => {
    expect(said(readTranscript('a.txt', asText(words)))).toBe(EXPECTED)
    expect(said(readTranscript('a.vtt', asWebVtt(words)))).toBe(EXPECTED)
    expect(said(readTranscript('a.json', asJson(words)))).toBe(EXPECTED)
    const plain = words.map((word) => ({ ...word, text: word.text.replace('<not>', 'not') }))
    expect(said(readTranscript('a.srt', asSubRip(plain)))).toBe(EXPECTED.replace('<not>', 'not'))
  })

  it('have the times that their file gives: a cue’s, or their own', () => {
    const [first] = readTranscript('x.srt', '1\r\n00:01:02,500 --> 01:00:00,000\r\n<i>Hello</i> there\r\nyou\r\n\r\n')
    expect(first).toEqual({ text: 'Hello', within: { from: toFrames(62.5), to: toFrames(3600) } })
    expect(readTranscript('x', 'WEBVTT\n\n02.5 --> 3\n\n00:02.500 --> 00:03.000 line:1\n<v.loud Maren>Yes&nbsp;indeed\n')).toHaveLength(2)
    expect(readTranscript('w.json', '{"words":[{"start":1,"end":1.5,"word":"boat"},{"start":2,"end":3,"text":"two words"}]}')).toEqual([
      { text: 'boat', within: { from: 48_000, to: 72_000 }, exact: true },
      { text: 'two', within: { from: 96_000, to: 144_000 } },
      { text: 'words', within: { from: 96_000, to: 144_000 } },
    ])
  })

  it('know a speaker’s name from a time or a sentence with a colon', () => {
    expect(said(readTranscript('t.txt', 'MAREN FERRIS: At 17:52, yes.\nAnd one thing: no.\nwhat he said: nothing'))).toBe(
      'At 17:52, yes. And one thing: no. what he said: nothing'
        .split(' ')
        .map((text) => `MAREN FERRIS/${text}`)
        .join(' '),
    )
  })

  it('are refused in plain words where there are none', () => {
    expect(() => readTranscript('a.txt', ' \n ')).toThrow(Unreadable)
    expect(() => readTranscript('a.json', '{"a":1}')).toThrow(/no list/)
    expect(() => readTranscript('a.json', '[{')).toThrow(/JSON file is damaged/)
  })
})

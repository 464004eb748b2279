import { expect, it } from 'vitest'
import { applyAll } from '../steps/document'
import { inserted } from './inserted'
import { transcriptType, type SaidWord, type Transcript } from './transcript'

const word = (text: string, from: number, voice?: string): SaidWord => ({ text, from, to: from + 90, ...(voice ? { voice } : {}) })
const after = (transcript: Transcript, words: SaidWord[]) =>
  applyAll(transcriptType, transcript, inserted(transcript, words))
    .words.map(({ text }) => text)
    .join(' ')
const present: Transcript = {
  kind: 'transcript',
  voices: {},
  words: [word('so', 100, 's1'), word('mm', 130, 's2'), word('back', 400, 's1')],
}

it('words go in where they sound, between those that are there', () => {
  expect(after(present, [word('well', 0, 's1'), word('take', 200, 's1'), word('me', 300, 's1'), word('then', 500, 's1')])).toBe(
    'well so mm take me back then',
  )
})

it('where the same voice says something already, that stays', () => {
  expect(after(present, [word('sew', 110, 's1'), word('yes', 410, 's2')])).toBe('so mm back yes')
  expect(after(present, [word('sew', 110), word('take', 250)])).toBe('so mm take back')
})

import { expect, it } from 'vitest'
import { answered, askWhatItIs, isText, useTexts } from './texts'

const file = (name: string) => new File(['The boat.'], name)

it('tells text from sound by its name', () => {
  const texts = ['script.txt', 'Interview.DOCX', 'quay.srt', 'words.vtt', 'words.json', 'letter.rtf']
  const others = ['quay.wav', 'tape-043.mp3', 'txt', 'notes.txt.flac', 'call']
  expect([...texts, ...others].filter((name) => isText(file(name)))).toEqual(texts)
})

it('asks of one after the other, and of none again that was answered', () => {
  const [one, other] = [file('one.txt'), file('one.txt')]
  askWhatItIs(one)
  askWhatItIs(other)
  expect(useTexts.getState().waiting).toEqual([one, other])
  answered(one)
  expect(useTexts.getState().waiting).toEqual([other])
  answered(other)
  expect(useTexts.getState().waiting).toEqual([])
})

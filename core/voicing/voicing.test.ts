import { describe, expect, it } from 'vitest'
import type { Word } from '../tape/words'
import { toFrames } from '../time'
import type { Transcript } from '../transcript/transcript'
import { asSaid, nearness, otherwise } from './asWritten'
import { readOut } from './readOut'
import { chosenOf, versionsOf, type Version } from './versions'

const LINES = [
  { id: 'quay', text: 'It is twenty to twelve on the quay, and the night ferry is late again.' },
  { id: 'winter', text: 'Nobody on the island can remember a winter without it.' },
  { id: 'plant', text: 'But the fish plant, which starts its first shift at 5, is not so sure.' },
]
/** Words half a second apart. */
const heard = (text: string): Word[] => text.split(' ').map((word, i) => ({ text: word, from: toFrames(i / 2), to: toFrames(i / 2 + 0.4) }))
const found = (text: string) => versionsOf(LINES, heard(text), () => [])
/** What a version says, by the words of the recording within its parts. */
const says = ({ parts }: Version, text: string) =>
  heard(text)
    .filter((word) => parts.some((part) => word.from >= part.from && word.to <= part.to))
    .map((word) => word.text)
    .join(' ')

describe('lines that are read in a recording', () => {
  it('are found in any order, among other things, and with words that were heard wrongly', () => {
    const text =
      'right here we go nobody on the ireland can remember a winter with doubt it and then ' +
      'it is twenty to twelve on the key and the night ferry is late again'
    const all = found(text)
    expect(all.map(({ line }) => line)).toEqual(['winter', 'quay'])
    expect(says(all[0], text)).toMatch(/^nobody on the .* it$/)
    expect(all.every(({ said }) => said > 0.8)).toBe(true)
  })

  it('count as they were read last and whole; a start that was broken off is told apart', () => {
    const text =
      'nobody on the island can remember nobody on the island can remember a winter without it sorry once more ' +
      'nobody on the island can remember a winter without it but the fish plant'
    const all = found(text)
    expect(all.map(({ line, said }) => [line, said > 0.8])).toEqual([
      ['winter', false],
      ['winter', true],
      ['winter', true],
      ['plant', false],
    ])
    const counts = chosenOf(all)
    expect(counts.get('winter')).toBe(all[2])
    expect(counts.get('plant')).toBe(all[3])
  })

  it('go on from what was read before where they are taken up again within, without what was said twice', () => {
    const text = 'but the fish plant which starts its first shift its first shift at five is not so sure'
    const all = found(text)
    expect(all).toHaveLength(1)
    expect(says(all[0], text)).toBe('but the fish plant which starts its first shift at five is not so sure')
    expect(all[0].parts).toHaveLength(2)
    expect(all[0].parts[1].from).toBe(toFrames(9 / 2))
    expect(all[0].parts.map(({ first, last }) => [first, last])).toEqual([
      [0, 6],
      [6, 15],
    ])
  })

  it('are none where nothing of them is said', () => {
    expect(found('we talked about the weather for a long time')).toEqual([])
    expect(versionsOf(LINES, [], () => [])).toEqual([])
  })
})

describe('what is said otherwise than written', () => {
  it('is told place by place', () => {
    expect(otherwise('At 5 the boat leaves the quay.', 'at five the old boat left the'.split(' '))).toEqual([
      { at: 3, written: '', said: 'old' },
      { at: 4, written: 'leaves', said: 'left' },
      { at: 6, written: 'quay.', said: '' },
    ])
    expect(otherwise('[softly] Nobody told us.', ['Nobody', 'told', 'us'])).toEqual([])
  })

  it('can be written instead', () => {
    const copy = 'At 5, the boat leaves the quay.'
    const said = 'at five the old boat left the harbour'
    expect(asSaid(copy, otherwise(copy, said.split(' ')))).toBe('At 5, the old boat left the harbour.')
    expect(asSaid('Nobody told us.', otherwise('Nobody told us.', ['Nobody', 'told', 'them', 'or', 'us']))).toBe('Nobody told them or us.')
  })

  it('makes one take nearer to its copy than another', () => {
    const copy = 'The boat leaves at midnight'
    expect(nearness(copy, copy.split(' '))).toBe(1)
    expect(nearness(copy, ['The', 'boat', 'goes', 'at', 'midnight'])).toBeCloseTo(0.8, 5)
    expect(nearness(copy, [])).toBe(0)
  })
})

describe('words that were read out', () => {
  const transcript: Transcript = {
    kind: 'transcript',
    voices: { v1: 'Tamsin Roe' },
    words: [
      { text: 'so', from: 0, to: 100, voice: 'v1' },
      { text: 'bracken', from: 200, to: 300, voice: 'v1' },
      { text: 'quay', from: 300, to: 400, voice: 'v1', checked: true },
    ],
  }

  it('take the place of what was heard there; what was checked, and what was said besides, stays', () => {
    const [step] = readOut(transcript, [
      { text: 'Brackle', from: 190, to: 295 },
      { text: 'key', from: 305, to: 400 },
    ])
    expect(step).toMatchObject({ type: 'words', in: [{ text: 'so' }, { text: 'Brackle', voice: 'v1' }, { text: 'quay', checked: true }] })
    expect(readOut(transcript, [])).toEqual([])
  })
})

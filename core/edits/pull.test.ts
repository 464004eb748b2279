import { describe, expect, it } from 'vitest'
import { toFrames } from '../time'
import { clipLength, wordsLength } from './actuality'
import { pull } from './pull'

const s = toFrames(1)
const words = [
  [1, 1.5, 'before'],
  [2, 2.4, 'Nobody'],
  [2.5, 2.9, 'told'],
  [3, 3.2, 'us'],
  [3.3, 4, 'after'],
].map(([from, to, text]) => ({ from: toFrames(from as number), to: toFrames(to as number), text: text as string, speaker: 'Piet' }))
const setup = {
  tape: 't',
  tapeLength: 10 * s,
  stretch: { from: 2 * s, to: toFrames(3.2) },
  struck: [],
  words,
  story: null,
  sides: [{ name: '', channels: [0] as [number] }],
  speaker: '',
  role: 'deckhand',
}

describe('pulling', () => {
  it('takes handles from the pauses around, never from another word: room is added for what they lack', () => {
    const piece = pull(setup)!
    expect([piece.head, piece.tail]).toEqual([toFrames(0.3), toFrames(0.3)])
    expect(piece.spans.map(({ from, to, sound }) => [from / s, to / s, sound])).toEqual([
      [1.7, 3.3, 'tape'],
      [3.3, 3.5, 'room'],
    ])
    expect(wordsLength(piece)).toBe(toFrames(1.2))
    expect([piece.slug, piece.speaker]).toEqual(['Nobody told us', 'Piet'])
  })
  it('takes the level line of the tape along, as far as it matters', () => {
    const level = [
      { at: 0, dB: 0 },
      { at: toFrames(2.2), dB: -6 },
      { at: toFrames(2.6), dB: -6 },
      { at: 9 * s, dB: 0 },
      { at: toFrames(9.5), dB: -20 },
    ]
    expect(pull({ ...setup, level })!.spans[0].level).toEqual(level.slice(0, 4))
    expect(
      pull({
        ...setup,
        level: [
          { at: 5 * s, dB: 0 },
          { at: 6 * s, dB: -3 },
        ],
      })!.spans[0].level,
    ).toBeUndefined()
  })
  it('counts a pause that was chosen as the room before the words', () => {
    expect(pull({ ...setup, stretch: { from: toFrames(1.5), to: toFrames(3.2) } })).toMatchObject({
      head: toFrames(0.5),
      spans: [{ from: toFrames(1.5) }, { sound: 'room' }],
    })
  })
  it('adds room inside a word, and remembers what is left of it; none is taken where there are no words', () => {
    const piece = pull({ ...setup, stretch: { from: toFrames(2.2), to: toFrames(3.1) } })!
    expect(piece).toMatchObject({ head: toFrames(0.3), tail: toFrames(0.3) })
    expect(piece.cutHead?.spans).toMatchObject([{ from: toFrames(2), to: toFrames(2.2) }])
    expect(piece.cutTail?.spans).toMatchObject([{ from: toFrames(3.1), to: toFrames(3.2) }])
    expect(pull({ ...setup, words: [] })!).toMatchObject({ head: 0, tail: 0, slug: 'Untitled' })
  })
  it('takes nothing that was said off the record, and no handle reaches into it', () => {
    expect(pull({ ...setup, off: [{ from: toFrames(2.9), to: toFrames(2.95) }] })).toBeNull()
    expect(
      pull({
        ...setup,
        off: [
          { from: 0, to: toFrames(1.9) },
          { from: toFrames(3.25), to: 9 * s },
        ],
      }),
    ).toMatchObject({ head: toFrames(0.3), spans: [{ sound: 'room' }, { from: toFrames(1.9), to: toFrames(3.25) }, { sound: 'room' }] })
  })
  it('leaves out what is struck, and all of it where all is', () => {
    const struck = [{ from: toFrames(2.4), to: toFrames(2.95) }]
    const piece = pull({ ...setup, struck })!
    expect(piece.spans.map(({ sound }) => sound)).toEqual(['tape', 'tape', 'room'])
    expect(clipLength(piece)).toBe(clipLength(pull(setup)!) - toFrames(0.55))
    expect(pull({ ...setup, struck: [{ from: 0, to: 9 * s }] })).toBeNull()
    expect(pull({ ...setup, struck: [{ from: 0, to: toFrames(2.45) }] })!.spans[0]).toMatchObject({ sound: 'room' })
  })
})

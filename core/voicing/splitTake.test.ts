import { describe, expect, it } from 'vitest'
import { clipLength, type Actuality } from '../edits/actuality'
import { pieceWords } from '../edits/pieceWords'
import type { Word } from '../tape/words'
import { RATE, toFrames } from '../time'
import { splitTake } from './splitTake'

const COPY = 'The boat has gone. [pause] Nobody on the quay was told.'
/** Half a second a word, a tenth between two, and a pause of 0.8 s after the first sentence. */
function read(text: string): Word[] {
  let at = toFrames(10)
  return text.split(' ').map((word) => {
    const from = at
    const to = from + toFrames(0.5)
    at = to + toFrames(word.endsWith('.') ? 0.8 : 0.1)
    return { text: word, from, to, speaker: 'Tamsin Roe' }
  })
}
function take(words: Word[], more: Partial<Actuality> = {}): Actuality {
  const [from, to] = [words[0].from - toFrames(0.3), words[words.length - 1].to + toFrames(0.4)]
  return {
    kind: 'actuality',
    slug: 'The boat has gone.',
    speaker: 'Tamsin Roe',
    role: '',
    story: null,
    spans: [{ tape: 'a', from, to, sound: 'tape' }],
    head: toFrames(0.3),
    tail: toFrames(0.4),
    ...more,
  }
}
const split = (said: string, caret: number, more: Partial<Actuality> = {}) => {
  const words = read(said)
  const piece = take(words, more)
  const found = splitTake(
    piece,
    pieceWords(piece.spans, () => words),
    COPY,
    caret,
  )
  const saidBy = ({ spans }: Actuality) =>
    pieceWords(spans, () => words)
      .map(({ text }) => text)
      .join(' ')
  return { piece, found, said: found && [saidBy(found.first), saidBy(found.second)] }
}
const AT = COPY.indexOf('[pause]')

describe('a take that is parted with its line', () => {
  it('goes on as it was: no frame is lost, and the pause between is the same', () => {
    const { piece, found, said } = split('The boat has gone. Nobody on the quay was told.', AT)
    expect(said).toEqual(['The boat has gone.', 'Nobody on the quay was told.'])
    const { first, second, gap } = found!
    expect(clipLength(first) + clipLength(second)).toBe(clipLength(piece))
    expect(first.spans.at(-1)!.to).toBe(second.spans[0].from)
    expect(gap / RATE).toBeCloseTo(0.8, 6)
    expect(first.tail + second.head).toBe(gap)
    expect([first.head, second.tail]).toEqual([piece.head, piece.tail])
  })
  it('goes by what is like where something else was said than is written', () => {
    expect(split('The boat it has gone. And nobody on that quay was told.', AT).said).toEqual([
      'The boat it has gone.',
      'And nobody on that quay was told.',
    ])
    expect(split('Boat has gone. Nobody on the quay was told.', AT).said).toEqual(['Boat has gone.', 'Nobody on the quay was told.'])
  })
  it('is left alone where nothing was said on one side, or nobody knows what was said', () => {
    expect(split('The boat has gone.', AT).found).toBeNull()
    expect(split('The boat has gone. Nobody on the quay was told.', 0).found).toBeNull()
    const words = read('The boat has gone.')
    expect(splitTake(take(words), [], COPY, AT)).toBeNull()
  })
  it('keeps what was done at each of its ends', () => {
    const fade = { length: toFrames(0.2), shape: 'power' as const }
    const { found } = split('The boat has gone. Nobody on the quay was told.', AT, { fadeIn: fade, fadeOut: fade, gain: 2 })
    expect([found!.first.fadeIn, found!.first.fadeOut, found!.second.fadeIn, found!.second.fadeOut]).toEqual([
      fade,
      undefined,
      undefined,
      fade,
    ])
    expect([found!.first.gain, found!.second.gain]).toEqual([2, 2])
  })
})

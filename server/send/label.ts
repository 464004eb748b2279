import type { SendOrder } from '../../contract/sends'
import type { Actuality } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import { pieceWords } from '../../core/edits/pieceWords'
import { withoutNotes } from '../../core/page/notes'
import { BLOCK_KINDS } from '../../core/page/story'
import type { Layout } from '../../core/page/timing'
import type { Label } from '../../core/sound/broadcastWave'
import { RATE, type Frames } from '../../core/time'
import type { Services } from '../services'
import { wordsOfTapes } from '../words'

/** What a file says of what it holds; lengths in frames at 48 kHz. When and by which order it was made is added as it is. */
export type About = Omit<Label, 'reference' | 'date' | 'time'>

/** So many words are an out cue. */
const CUE = 6
const cueOf = (words: readonly string[]): string => words.slice(-CUE).join(' ')

/** The last words of a piece, by its transcript. */
export async function outCueOf({ database }: Services, piece: Actuality): Promise<string> {
  const words = pieceWords(piece.spans, await wordsOfTapes(database, tapesOf(piece.spans)), piece.sides)
  return cueOf(words.filter(({ what }) => what !== 'noise').map(({ text }) => text))
}

/** The last words of a page: those of its last line, or of its last piece. */
export async function lastWords(services: Services, { placed }: Layout, pieceOf: (id: string) => Actuality | undefined): Promise<string> {
  const last = placed.findLast(({ sound }) => sound === 'piece')?.block
  if (!last) return ''
  const piece = last.piece ? pieceOf(last.piece) : undefined
  if (BLOCK_KINDS[last.kind].written && last.text.trim()) return cueOf(withoutNotes(last.text).trim().split(/\s+/))
  return piece ? outCueOf(services, piece) : ''
}

/** Where the words of a page end: what is behind is room and what fades out. */
export const wordsEnd = ({ placed, length }: Layout): Frames => Math.min(length, Math.max(0, ...placed.map(({ at, words }) => at + words)))

/** The label of the file of an order that was placed then; in frames of its rate. */
export function labelOf(about: About, { rate }: Pick<SendOrder, 'rate'>, { id, at }: { id: string; at: Date }): Label {
  const inFile = (frames: Frames) => Math.round((frames * rate) / RATE)
  const two = (value: number) => String(value).padStart(2, '0')
  return {
    ...about,
    segue: inFile(about.segue),
    timeReference: inFile(about.timeReference),
    reference: id.replaceAll('-', ''),
    date: `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`,
    time: `${two(at.getHours())}:${two(at.getMinutes())}:${two(at.getSeconds())}`,
  }
}

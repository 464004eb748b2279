import type { SendTarget } from '../../contract/sends'
import type { Actuality } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import { pieceWords } from '../../core/edits/pieceWords'
import { BLOCK_KINDS, type Unrecorded } from '../../core/page/story'
import type { Timed } from '../../core/send/captions'
import type { Word } from '../../core/tape/words'
import type { Frames } from '../../core/time'
import { readPiece } from '../documents/pieces'
import { DocumentEntity } from '../entities'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { tapeWords } from '../words'
import { laidStory } from './laid'

/** What is said in the file of a story or a piece, each word where it sounds there. Refuses where nothing is known to be said. */
export async function wordsInFile(services: Services, { kind, id, output }: SendTarget, unrecorded?: Unrecorded): Promise<Timed[]> {
  const { manager } = services.database
  const row = await manager.findOneBy(DocumentEntity, { id, kind })
  if (!row || (row.body.kind !== 'story' && row.body.kind !== 'actuality')) throw notFound('What was to be sent')
  const known = new Map<string, readonly Word[]>()
  const said = async (piece: Actuality, at: Frames, reader = ''): Promise<Timed[]> => {
    for (const tape of tapesOf(piece.spans)) if (!known.has(tape)) known.set(tape, await tapeWords(services.database, tape))
    return pieceWords(piece.spans, (tape) => known.get(tape) ?? [], piece.sides)
      .filter(({ what }) => what !== 'noise')
      .map((word) => ({ text: word.text, from: at + word.at, to: at + word.end, speaker: reader || word.speaker || piece.speaker }))
  }
  const words: Timed[] = []
  if (row.body.kind === 'story') {
    const { pieces, layout } = await laidStory(services, row.body, { output, unrecorded })
    const { file } = layout
    for (const { block, from, sound } of file.placed) {
      const piece = sound === 'piece' && block.piece ? pieces.get(block.piece) : undefined
      if (piece) words.push(...(await said(piece, from, BLOCK_KINDS[block.kind].written ? block.reader : '')))
    }
  } else words.push(...(await said((await readPiece(manager, id))!.piece, 0)))
  if (!words.length) throw new Refusal(422, 'No words', 'Nothing in it has a transcript yet. Transcribe its tapes, then try again.')
  return words.sort((a, b) => a.from - b.from)
}

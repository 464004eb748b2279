import type { SendTarget } from '../../contract/sends'
import type { Actuality } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import { pieceWords } from '../../core/edits/pieceWords'
import { BLOCK_KINDS, type Unrecorded } from '../../core/page/story'
import type { Timed } from '../../core/send/captions'
import type { Frames } from '../../core/time'
import { readPiece } from '../documents/pieces'
import { DocumentEntity, TapeEntity } from '../entities'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { wordsOfTapes } from '../words'
import { tapeHead, type TapeDocument } from '../../core/tape/tape'
import { laidStory } from './laid'
import { spansOfTape } from './order'

/** What is said in the file of a story or a piece, each word where it sounds there. Refuses where nothing is known to be said. */
export async function wordsInFile(services: Services, what: SendTarget, unrecorded?: Unrecorded): Promise<Timed[]> {
  const { kind, id, output } = what
  const { manager } = services.database
  const row = await manager.findOneBy(DocumentEntity, { id, kind })
  if (!row) throw notFound('What was to be sent')
  const pieces: { piece: Pick<Actuality, 'spans' | 'sides' | 'speaker'>; at: Frames; reader: string }[] = []
  if (row.body.kind === 'story') {
    const { pieces: known, layout } = await laidStory(services, row.body, { output, unrecorded })
    for (const { block, from, sound } of layout.file.placed) {
      const piece = sound === 'piece' && block.piece ? known.get(block.piece) : undefined
      if (piece) pieces.push({ piece, at: from, reader: BLOCK_KINDS[block.kind].written ? block.reader : '' })
    }
  } else if (row.body.kind === 'tape') {
    const { speaker } = tapeHead(row.body as TapeDocument)
    const { frames } = await manager.findOneByOrFail(TapeEntity, { id })
    const stretch = { from: what.from ?? 0, to: Math.min(frames, what.to ?? frames) }
    pieces.push({ piece: { spans: spansOfTape(id, row.body as TapeDocument, stretch), speaker }, at: 0, reader: '' })
  } else pieces.push({ piece: (await readPiece(manager, id))!.piece, at: 0, reader: '' })
  const wordsOf = await wordsOfTapes(
    manager,
    pieces.flatMap(({ piece }) => tapesOf(piece.spans)),
  )
  const words = pieces.flatMap(({ piece, at, reader }) =>
    pieceWords(piece.spans, wordsOf, piece.sides)
      .filter(({ what }) => what !== 'noise')
      .map((word): Timed => ({ text: word.text, from: at + word.at, to: at + word.end, speaker: reader || word.speaker || piece.speaker })),
  )
  if (!words.length) throw new Refusal(422, 'No words', 'Nothing in it has a transcript yet. Transcribe its tapes, then try again.')
  return words.sort((a, b) => a.from - b.from)
}

import type { SendTarget } from '../../contract/sends'
import { clipLength } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import type { WordsOf } from '../../core/edits/pieceWords'
import { airTimeAsSet, cueSheetOf, scriptOf, type ScriptSheet } from '../../core/page/scriptSheet'
import { storyHead } from '../../core/page/story'
import { tapeHead, type TapeDocument } from '../../core/tape/tape'
import type { Word } from '../../core/tape/words'
import { readPiece } from '../documents/pieces'
import { DocumentEntity } from '../entities'
import { notFound } from '../problem'
import type { Services } from '../services'
import { publicWords } from '../transcripts'
import { laidStory } from './laid'
import { wordFile } from './wordFile'

/** What is said beside the file: the script of a story's output, the cue sheet of a piece; a tape has none. */
async function sheetOf(services: Services, { kind, id, output }: SendTarget): Promise<ScriptSheet | null> {
  if (kind === 'tape') return null
  const { manager } = services.database
  const row = await manager.findOneBy(DocumentEntity, { id, kind })
  if (row?.body.kind === 'story') {
    const { pieces, layout } = await laidStory(services, row.body, { output })
    const wordsOf = await wordsFor(
      services,
      [...pieces.values()].flatMap(({ spans }) => tapesOf(spans)),
    )
    const { slug } = storyHead(row.body)
    const title = [slug, layout.output.name].filter(Boolean).join(' ')
    return scriptOf(title, layout, airTimeAsSet(layout.output.airs), (piece) => pieces.get(piece), wordsOf)
  }
  const stored = row && (await readPiece(manager, id))
  if (!stored) throw notFound('What was to be sent')
  const { piece } = stored
  const tapes = tapesOf(piece.spans)
  const named = await Promise.all(tapes.map((tape) => manager.findOneBy(DocumentEntity, { id: tape, kind: 'tape' })))
  const names = named.map((tape) => (tape ? tapeHead(tape.body as TapeDocument).name : 'a tape that is gone'))
  return cueSheetOf(piece, names, clipLength(piece), await wordsFor(services, tapes))
}

/** Words as they may get out. */
async function wordsFor(services: Services, tapes: readonly string[]): Promise<WordsOf> {
  const known = new Map<string, Word[]>()
  for (const tape of new Set(tapes)) known.set(tape, await publicWords(services, tape))
  return (tape) => known.get(tape) ?? []
}

/** The script or the cue sheet as a Word file, and what it is called; null where there is none. */
export async function scriptFile(services: Services, what: SendTarget): Promise<{ title: string; file: Buffer } | null> {
  const sheet = await sheetOf(services, what)
  return sheet && { title: sheet.title, file: await wordFile(sheet) }
}

import { pieceWords } from '../../core/edits/pieceWords'
import { readScript, quotedIn } from '../../core/page/script'
import { blocksOf, isRecorded, type StoryDocument, type StoryStep } from '../../core/page/story'
import { tapesOf } from '../../core/edits/editList'
import type { PieceRow } from '../../contract/desk'
import type { Transcript } from '../../core/transcript/transcript'
import { wordsOf } from '../../core/transcript/transcript'
import type { StoredDocument } from '../../contract/documents'
import type { Word } from '../../core/tape/words'
import { get } from '../api/client'
import { blocksAfter } from '../story/putOnPage'

/** The text of a file that is a script, plain or from a word processor; its paragraphs between empty lines. */
export async function textOf(file: File): Promise<string> {
  if (!/\.docx$/i.test(file.name)) return file.text()
  const { default: mammoth } = await import('mammoth')
  return (await mammoth.extractRawText({ arrayBuffer: await file.arrayBuffer() })).value
}

/** The steps that put a script at the end of a page, how many blocks it is, and to how many the piece was found that says them. */
export async function scriptSteps(body: StoryDocument, story: string, text: string) {
  const reader = blocksOf(body).find((block) => isRecorded(block) && block.reader)?.reader ?? ''
  const lines = readScript(text, reader)
  const pieces = lines.some(({ kind }) => kind === 'actuality') ? await saidInPieces(story) : []
  let found = 0
  const blocks = lines.map(({ kind, text: said, speaker }) => {
    if (kind !== 'actuality') return { kind, text: said, reader: isRecorded({ kind }) ? speaker || reader : '' }
    const piece = quotedIn(said, pieces, (one) => one.words)
    if (piece) found++
    // what nobody has pulled yet stands as it is quoted, to be looked for
    return piece ? { kind, piece: piece.id } : { kind: 'copy' as const, text: `[${speaker || 'on tape'}] “${said}”`, reader }
  })
  const steps: StoryStep[] = blocksAfter(body, blocks).steps
  return { steps, count: blocks.length, found }
}

async function saidInPieces(story: string): Promise<{ id: string; words: string[] }[]> {
  const rows = (await get<PieceRow[]>(`/pieces?story=${story}`)).filter(({ aside }) => !aside)
  const tapes = [...new Set(rows.flatMap(({ body }) => tapesOf(body.spans)))]
  const words = new Map<string, readonly Word[]>(
    await Promise.all(
      tapes.map(async (tape) => {
        const { body } = await get<StoredDocument & { body: Transcript }>(`/tapes/${tape}/words`)
        return [tape, wordsOf(body)] as const
      }),
    ),
  )
  return rows.map(({ id, body }) => ({
    id,
    words: pieceWords(body.spans, (tape) => words.get(tape) ?? [], body.sides).map(({ text }) => text),
  }))
}

import { Document, HeadingLevel, Packer, Paragraph, TextRun } from 'docx'
import type { TranscriptFormat } from '../contract/transcripts'
import { tapesOf } from '../core/edits/editList'
import { pieceWords } from '../core/edits/pieceWords'
import { paragraphsOf } from '../core/transcript/cues'
import { asJson, asLog, asSubRip, asText, asWebVtt } from '../core/transcript/write'
import { masked } from '../core/transcript/masked'
import { marksOf, offRecord, tapeHead, type Mark, type TapeDocument } from '../core/tape/tape'
import { wordsIn, type Word } from '../core/tape/words'
import { clock, type Frames } from '../core/time'
import { readPiece } from './documents/pieces'
import { DocumentEntity } from './entities'
import { notFound, Refusal } from './problem'
import type { Services } from './services'
import { tapeWords } from './words'

/** What is written out: words with their times from the start of what they belong to. */
interface Written {
  name: string
  words: Word[]
  marks: Mark[]
  zero: Frames
}

/** The words of a tape, of a stretch of it, or of a piece. */
async function gather(services: Services, id: string, from: Frames, to: Frames): Promise<Written> {
  const row = await services.database.manager.findOneBy(DocumentEntity, { id })
  if (row?.kind === 'tape') {
    const body = row.body as TapeDocument
    const within = ({ at }: Mark) => at >= from && at < to
    return {
      name: tapeHead(body).name,
      words: masked(wordsIn(await tapeWords(services.database, id), from, to), offRecord(body)),
      marks: marksOf(body).filter(within),
      zero: from,
    }
  }
  const stored = await readPiece(services.database.manager, id)
  if (!stored) throw notFound('That')
  const { slug, spans, sides } = stored.piece
  const tapes = new Map<string, Word[]>()
  for (const tape of tapesOf(spans)) tapes.set(tape, await publicWords(services, tape))
  const words = pieceWords(spans, (tape) => tapes.get(tape) ?? [], sides).map(({ text, speaker, what, at, end }): Word => ({
    text,
    from: at,
    to: end,
    ...(speaker ? { speaker } : {}),
    ...(what ? { what } : {}),
  }))
  return { name: slug || 'Untitled', words, marks: [], zero: 0 }
}

/** A tape's words as they may get out. */
export async function publicWords({ database }: Pick<Services, 'database'>, tape: string): Promise<Word[]> {
  const row = await database.manager.findOneBy(DocumentEntity, { id: tape, kind: 'tape' })
  return masked(await tapeWords(database, tape), row ? offRecord(row.body as TapeDocument) : [])
}

/** The words of a tape or piece as a file, with its ending. */
export async function transcript(
  services: Services,
  id: string,
  format: TranscriptFormat,
  from: Frames,
  to: Frames,
): Promise<{ name: string; content: string | Buffer }> {
  const written = await gather(services, id, from, to)
  const { name, words, marks, zero } = written
  if (!words.length && !(format === 'log' && marks.length))
    throw new Refusal(409, 'No words', 'There are no words here yet, so there is nothing to write out.')
  switch (format) {
    case 'txt':
      return { name, content: asText(words) }
    case 'srt':
      return { name, content: asSubRip(words, zero) }
    case 'vtt':
      return { name, content: asWebVtt(words, zero) }
    case 'json':
      return { name, content: asJson(words, zero) }
    case 'log':
      return { name, content: asLog(words, marks, zero) }
    case 'docx':
      return { name, content: await asWord(written) }
  }
}

/** A Word document: a paragraph a turn, with its time and who speaks. */
function asWord({ name, words, zero }: Written): Promise<Buffer> {
  const turns = paragraphsOf(words).map(
    ({ from, speaker, text }) =>
      new Paragraph({
        spacing: { after: 160 },
        children: [
          new TextRun({ text: `${clock(from - zero)}  `, color: '7a7468' }),
          ...(speaker ? [new TextRun({ text: `${speaker}: `, bold: true })] : []),
          new TextRun(text),
        ],
      }),
  )
  return Packer.toBuffer(
    new Document({
      creator: 'Plain Cut',
      title: name,
      sections: [{ children: [new Paragraph({ text: name, heading: HeadingLevel.HEADING_1 }), ...turns] }],
    }),
  )
}

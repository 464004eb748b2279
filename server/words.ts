import type { DataSource, EntityManager } from 'typeorm'
import type { WordsOf } from '../core/edits/pieceWords'
import type { Word } from '../core/tape/words'
import { NO_TRANSCRIPT, wordsOf, type Transcript } from '../core/transcript/transcript'

/** A tape's transcript, as it is now; an empty one where there is no such tape. */
export async function transcriptIn(database: DataSource | EntityManager, tape: string): Promise<Transcript> {
  const [row] = (await database.query('select body from document where tape = $1', [tape])) as { body: Transcript }[]
  return row?.body ?? NO_TRANSCRIPT
}

/** A tape's words, each with the name of who says it. */
export const tapeWords = async (database: DataSource | EntityManager, tape: string): Promise<Word[]> =>
  wordsOf(await transcriptIn(database, tape))

/** The words of several tapes at once; none of a tape that is not among them. */
export async function wordsOfTapes(database: DataSource | EntityManager, tapes: Iterable<string>): Promise<WordsOf> {
  const all = await Promise.all([...new Set(tapes)].map(async (tape) => [tape, await tapeWords(database, tape)] as const))
  const known = new Map<string, readonly Word[]>(all)
  return (tape) => known.get(tape) ?? []
}

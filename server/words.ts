import type { DataSource, EntityManager } from 'typeorm'
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

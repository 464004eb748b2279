import type { EntityManager } from 'typeorm'
import { bare } from '../../core/find/bare'
import { phrasesOf, type Phrase } from '../../core/find/phrases'
import { wordsOf, type Transcript } from '../../core/transcript/transcript'

/** A word of a phrase as the index keeps it: text, begin and end in frames, 1 where it is checked. */
export type FiledWord = [string, number, number, (0 | 1)?]

interface Row {
  at: number
  until: number
  speaker: string
  /** The phrase's own words, then `ahead` of the next one. */
  words: FiledWord[]
  own: number
}

const toRow = ({ from, to, speaker, words, ahead }: Phrase): Row => ({
  at: from,
  until: to,
  speaker,
  words: [...words, ...ahead].map(({ text, from, to, checked }): FiledWord => (checked ? [text, from, to, 1] : [text, from, to])),
  own: words.length,
})

const lexeme = (word: string): string => `'${word.replaceAll('\\', '').replaceAll("'", "''")}'`

const keyOf = ({ speaker, words, own }: Row): string => JSON.stringify([speaker, own, words])

/** Brings the index of phrases up to what a tape's transcript says now; what did not change stays. */
export async function filePhrases(manager: EntityManager, tape: string, transcript: Transcript): Promise<void> {
  const rows = new Map(phrasesOf(wordsOf(transcript)).map((phrase) => [keyOf(toRow(phrase)), toRow(phrase)]))
  const present = (await manager.query('select id, speaker, words, own from phrase where tape = $1', [tape])) as (Row & { id: string })[]
  const gone: string[] = []
  for (const row of present) if (!rows.delete(keyOf(row))) gone.push(row.id)
  if (gone.length) await manager.query('delete from phrase where id = any($1)', [gone])
  const fresh = [...rows.values()]
  if (!fresh.length) return
  await manager.query(
    `insert into phrase (tape, at, until, speaker, words, own, spoken)
     select $1, at, until, speaker, words, own, spoken::tsvector
       from jsonb_to_recordset($2) as row (at bigint, until bigint, speaker text, words jsonb, own int, spoken text)`,
    [
      tape,
      JSON.stringify(fresh.map((row) => ({ ...row, spoken: row.words.map(([text], i) => `${lexeme(bare(text))}:${i + 1}`).join(' ') }))),
    ],
  )
  const spellings = [...new Set(fresh.flatMap(({ words }) => words.map(([text]) => bare(text))))].sort()
  await manager.query('insert into spelling (word) select unnest($1::text[]) on conflict do nothing', [spellings])
}

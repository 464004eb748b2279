import { random } from '../core/sound/random'
import type { Word } from '../core/tape/words'
import { milliseconds } from '../core/time'
import { transcriptOf } from '../core/transcript/transcript'
import { dictionaryWords } from '../server/recognise/dictionary'
import { find } from '../server/find/find'
import { filePhrases } from '../server/find/phrases'
import { beginTape } from '../server/intake/intake'
import { closeServices } from '../server/services'
import { median, percentile, report } from './figure'
import { openNewsroom, servicesOf } from './newsroom'

/** How long it takes to find what was said among 200 hours of words, made up of 30,000 different ones as often as words occur (Zipf). */

const HOURS = 200
const WORDS_AN_HOUR = 9000
const measure = 'find'
const newsroom = await openNewsroom()
const services = await servicesOf(newsroom)
const next = random(8)
const vocabulary = dictionaryWords()
  .filter((word) => /^[a-z']{2,}$/.test(word))
  .map((word) => ({ word, order: next() }))
  .sort((a, b) => a.order - b.order)
  .slice(0, 30_000)
  .map(({ word }) => word)
/** The rank of a word is as likely as one over it. */
const drawn = () => vocabulary[Math.min(vocabulary.length - 1, Math.floor(vocabulary.length ** next()) - 1)]

const samples: string[] = []
for (let hour = 0; hour < HOURS; hour++) {
  const id = crypto.randomUUID()
  await beginTape(services, id, `hour ${hour}.wav`, 0)
  let at = 0
  const words = Array.from({ length: WORDS_AN_HOUR }, (_, i): Word => {
    const from = at
    at += milliseconds(400)
    return { text: drawn() + (i % 11 === 10 ? '.' : ''), from, to: from + milliseconds(350) }
  })
  samples.push(
    words
      .slice(500, 502)
      .map(({ text }) => text)
      .join(' '),
  )
  await services.database.transaction((manager) => filePhrases(manager, id, transcriptOf(words)))
  await services.database.query(`update tape set state = 'ready' where id = $1`, [id])
}
await services.database.query('analyze')
const [{ phrases, words }] = await services.database.query<{ phrases: number; words: number }[]>(
  'select count(*)::int as phrases, sum(own)::int as words from phrase',
)
report({ measure, name: 'find.words', value: words, unit: `words in ${phrases} phrases` })

/** Half of a word's letters swapped about, as hands do. */
const misspelt = (word: string) => word.slice(0, 2) + (word[3] ?? '') + (word[2] ?? '') + word.slice(4)
const queries = Array.from({ length: 200 }, (_, i) => {
  const word = drawn()
  switch (i % 4) {
    case 0:
      return word
    case 1:
      return samples[i % samples.length]
    case 2:
      return misspelt(word)
    default:
      return vocabulary[(i * 7) % 40] // the commonest of all
  }
})
for (const text of queries.slice(0, 8)) await find(services.database, { text })
const took: number[] = []
for (const text of queries) {
  const began = performance.now()
  await find(services.database, { text })
  took.push(performance.now() - began)
}
report({ measure, name: 'find.median', value: median(took), unit: 'ms' })
report({ measure, name: 'find.p95', value: percentile(took, 0.95), unit: 'ms' })
await closeServices(services)
await newsroom.close()

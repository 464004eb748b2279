import type { AnyStep } from '../contract/documents'
import type { Actuality, ActualityStep } from '../core/edits/actuality'
import { holdTime, takeOut } from '../core/edits/acts'
import { listLength, normal, plainJoin, type Span } from '../core/edits/editList'
import { shapeLevel } from '../core/edits/levelLine'
import { toggleMute } from '../core/edits/mute'
import { movePassage } from '../core/edits/order'
import { keepVersion } from '../core/edits/versions'
import { blocksOf, newStory, type Block, type StoryDocument } from '../core/page/story'
import { random } from '../core/sound/random'
import { applyAll } from '../core/steps/document'
import { actualityType } from '../core/edits/actuality'
import { toFrames, type Stretch } from '../core/time'
import { closeServices } from '../server/services'
import { canonical, Copies } from './copies'
import { report } from './figure'
import { makeTape, openNewsroom, servicesOf } from './newsroom'
import { words } from './speechlike'
import { SharedDocument, Writer } from './writer'

/**
 * How fast acts go in: twenty people work on one story, its copy and its pieces, each as fast as the server answers; what
 * was accepted must be in the logs, and all copies the same. And what an act on a long piece writes to the database.
 */

const [WRITERS, PIECES, SECONDS] = [20, 5, 20]
const [SPANS, VERSIONS, ACTS] = [1000, 20, 1000]
const newsroom = await openNewsroom()
const length = toFrames(1800)
const tape = await makeTape(newsroom, length, words(toFrames(300), 700))
const server = await newsroom.start()
const editor = new Copies(newsroom.address)
const percentile = (values: number[], share: number): number => values.sort((a, b) => a - b)[Math.floor(share * values.length)]

const story = crypto.randomUUID()
const piece = (spans: Span[], slug: string): Actuality => ({
  kind: 'actuality',
  slug,
  speaker: '',
  role: '',
  story,
  head: 0,
  tail: 0,
  spans,
})
await editor.put(story, newStory({ slug: 'The night ferry' }, { id: crypto.randomUUID(), slot: toFrames(210) }))
const TEXT = 'The last boat to Brackle left at midnight for forty years. Since Monday it does not leave at all.'
const blocks = Array.from({ length: 30 }, (_, i): Block => ({
  id: crypto.randomUUID(),
  kind: 'copy',
  order: `a${String.fromCharCode(48 + Math.floor(i / 10))}${i % 10}1`,
  aside: false,
  text: TEXT,
  reader: 'Tamsin Roe',
  pace: 170,
  piece: null,
}))
await editor.act(
  story,
  blocks.map((record): AnyStep => ({ type: 'put', record })),
)
const pieces = Array.from({ length: PIECES }, () => crypto.randomUUID())
for (const id of pieces) await editor.put(id, piece([{ tape, from: 0, to: toFrames(300), sound: 'tape' }], 'Cut by twenty'))

const passage = (next: () => number, { spans }: Actuality): Stretch => {
  const from = Math.floor(next() * (listLength(spans) - toFrames(1)))
  return { from, to: from + toFrames(0.05 + next() * 0.4) }
}
const onPiece = (next: () => number, now: Actuality): ActualityStep[] => {
  const acts = [
    () => takeOut(now, passage(next, now)),
    () => holdTime(now, passage(next, now)),
    () => shapeLevel(now, passage(next, now), () => -6 + Math.floor(next() * 12)),
    () => toggleMute(now, passage(next, now)),
    () => movePassage(now, passage(next, now), Math.floor(next() * listLength(now.spans))),
  ]
  return acts[Math.floor(next() * acts.length)]()
}
/** A few letters more in some line of copy. */
const inCopy = (next: () => number, page: StoryDocument): AnyStep[] => {
  const all = blocksOf(page)
  const { id, text } = all[Math.floor(next() * all.length)]
  const at = Math.floor(next() * text.length)
  return [
    { type: 'write', id, key: 'text', change: [...(at ? [at] : []), { put: 'boat ' }, ...(text.length - at ? [text.length - at] : [])] },
  ]
}

const documents = new Map<string, SharedDocument>()
for (const id of [story, ...pieces]) {
  const { kind, body, revision } = await editor.stored(id)
  documents.set(id, new SharedDocument(id, kind, { body, revision }))
}

const accepted = new Map<string, string>()
const times: number[] = []
let refused = 0
async function write(seed: number, until: number): Promise<Writer> {
  const next = random(seed)
  const writer = new Writer(editor)
  while (Date.now() < until) {
    const onPage = next() < 0.5
    const document = documents.get(onPage ? story : pieces[Math.floor(next() * PIECES)])!
    const body = writer.body(document)
    const steps = onPage ? inCopy(next, body as StoryDocument) : onPiece(next, body as Actuality)
    if (!steps.length) continue
    const began = performance.now()
    const act = await writer.act(document, steps)
    times.push(performance.now() - began)
    if (act) accepted.set(act, document.id)
    else refused++
  }
  return writer
}

await write(1, Date.now() + 3000)
accepted.clear()
times.length = 0
refused = 0
const all = await Promise.all(Array.from({ length: WRITERS }, (_, i) => write(100 + i, Date.now() + SECONDS * 1000)))

let [lost, diverged] = [0, 0]
for (const document of documents.values()) {
  const { body } = await editor.stored(document.id)
  const logged = new Set((await editor.since(document.id, 0)).map((entry) => entry.id))
  for (const [act, id] of accepted) if (id === document.id && !logged.has(act)) lost++
  for (const writer of all) {
    const copy = await writer.copyOf(document)
    if (copy && canonical(copy) !== canonical(body)) diverged++
  }
}
report({
  measure: 'acts',
  name: 'acts.rate',
  value: accepted.size / SECONDS,
  unit: `accepted a second, ${WRITERS} writers on one story and ${PIECES} pieces of it; ${refused} refused`,
})
report({ measure: 'acts', name: 'acts.p95', value: percentile(times, 0.95), unit: 'ms from sending an act to its answer' })
report({ measure: 'acts', name: 'acts.lost', value: lost, unit: 'accepted acts that are in no log' })
report({ measure: 'acts', name: 'acts.diverged', value: diverged, unit: 'copies that differ from the server’s' })

// a long piece with many versions
const next = random(7)
let at = 0
const spans = Array.from({ length: SPANS }, (): Span => {
  const from = at + toFrames(0.1 + next() * 0.3)
  at = from + toFrames(0.8 + next() * 0.6)
  return { tape, from, to: at, sound: 'tape', join: { ...plainJoin(), heard: next() < 0.5 } }
})
const long = crypto.randomUUID()
let body = piece(normal(spans), 'A long one')
for (let i = 0; i < VERSIONS; i++)
  body = applyAll(actualityType, body, keepVersion(body, { id: crypto.randomUUID(), name: `version ${i}`, at: new Date(i).toISOString() }))
await editor.put(long, body)
const services = await servicesOf(newsroom)
const written = async (): Promise<number> => {
  const [row] = await services.database.query<{ bytes: string }[]>(`select pg_current_wal_lsn() - '0/0' as bytes`)
  return Number(row.bytes)
}
const before = await written()
const answers: number[] = []
for (let i = 0; i < ACTS;) {
  const steps = onPiece(next, (await editor.body(long)) as Actuality)
  if (!steps.length) continue
  const began = performance.now()
  await editor.act(long, steps)
  answers.push(performance.now() - began)
  i++
}
report({
  measure: 'acts',
  name: 'acts.bytes',
  value: Math.round(((await written()) - before) / ACTS),
  unit: `bytes of write-ahead log an act, of ${ACTS} on ${SPANS} spans with ${VERSIONS} versions`,
})
report({ measure: 'acts', name: 'acts.answer', value: percentile(answers, 0.95), unit: 'ms, p95, from sending such an act to its answer' })
await closeServices(services)
await server.stop()
await newsroom.close()

import { launch } from '../e2e/browser'
import type { Desk } from '../contract/desk'
import type { LibraryPage, PageOrder } from '../contract/library'
import type { Actuality } from '../core/edits/actuality'
import type { Span } from '../core/edits/editList'
import { newStory, type Block } from '../core/page/story'
import { random } from '../core/sound/random'
import { toFrames } from '../core/time'
import { insertPiece } from '../server/documents/pieces'
import { beginTape } from '../server/intake/intake'
import { closeServices } from '../server/services'
import { report, median } from './figure'
import { openNewsroom, servicesOf } from './newsroom'

/**
 * A house that has grown: 5,000 tapes, 5,000 pieces, 500 stories. The library's pages, one tape and the Desk as the server
 * gives them, and Tapes in the browser.
 */

const [TAPES, PIECES, STORIES] = [5000, 5000, 500]
const RUNS = 25
const next = random(21)
const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]
const newsroom = await openNewsroom()
const services = await servicesOf(newsroom)
const { database } = services

const tapes = Array.from({ length: TAPES }, () => crypto.randomUUID())
const begin = (id: string, i: number) =>
  beginTape(services, id, `tape-${i}.wav`, 0, {
    name: `${pick(['Quay', 'Harbour', 'Council', 'Ferry', 'Fish hall'])} ${i}`,
    speaker: pick(['Piet Aldous', 'Maren Ferris', 'Tamsin Roe', '']),
    day: `2026-${String(1 + (i % 11)).padStart(2, '0')}-${String(1 + (i % 28)).padStart(2, '0')}`,
    tags: [pick(['quay', 'crew', 'council']), pick(['night', 'day'])],
  })
// many at once, so that the disk is waited for once for all of them
const AT_ONCE = 50
for (let i = 0; i < TAPES; i += AT_ONCE) await Promise.all(tapes.slice(i, i + AT_ONCE).map((id, n) => begin(id, i + n)))
await database.query(`update tape set state = 'ready', progress = 1, complete = true, channels = 1, frames = 48000 * 600, disk = 1000000`)

const put = (rows: { id: string; kind: string; body: object }[]) =>
  database.query(
    `insert into document (id, kind, revision, aside, body) select (row ->> 'id')::uuid, row ->> 'kind', 0, false, row ->
      'body' from jsonb_array_elements($1::jsonb) as row`,
    [JSON.stringify(rows)],
  )
const stories = Array.from({ length: STORIES }, () => crypto.randomUUID())
const pieces = Array.from({ length: PIECES }, (_, i) => {
  const tape = pick(tapes)
  let at = toFrames(5 + Math.floor(next() * 300))
  const spans = Array.from({ length: 1 + Math.floor(next() * 9) }, () => {
    const from = at
    at += toFrames(2 + Math.floor(next() * 6))
    return {
      tape,
      from,
      to: at - toFrames(1),
      sound: 'tape',
      join: { fade: 384, shape: 'power', origin: 'hand', heard: true },
    } satisfies Span
  })
  return {
    id: crypto.randomUUID(),
    body: {
      kind: 'actuality',
      slug: `Piece ${i}`,
      speaker: 'Piet Aldous',
      role: '',
      story: stories[i % STORIES],
      spans,
      head: 9600,
      tail: 9600,
    } satisfies Actuality,
  }
})
for (let i = 0; i < PIECES; i += AT_ONCE)
  await Promise.all(pieces.slice(i, i + AT_ONCE).map(({ id, body }) => database.transaction((manager) => insertPiece(manager, id, body))))
await put(
  stories.map((id, i) => {
    const block = (fields: Partial<Block>, order: number): Block => ({
      id: crypto.randomUUID(),
      kind: 'copy',
      order: `a${order}`,
      aside: false,
      text: '',
      reader: 'Tamsin Roe',
      pace: 170,
      piece: null,
      ...fields,
    })
    const blocks = pieces
      .filter((_, p) => p % STORIES === i)
      .flatMap(({ id: piece }, n) => [
        block({ text: 'The last boat to Brackle left at midnight for forty years. Since Monday it does not leave at all.' }, 2 * n),
        block({ kind: 'actuality', piece }, 2 * n + 1),
      ])
    return {
      id,
      kind: 'story',
      body: newStory({ slug: `Story ${i}` }, { id: crypto.randomUUID(), slot: toFrames(210) }, blocks),
    }
  }),
)
await database.query('analyze')
await closeServices(services)

const server = await newsroom.start()
/** The slowest but one of many, so that one hiccup of the machine does not count. */
async function timed(ask: (i: number) => Promise<unknown>): Promise<number> {
  await ask(0)
  const times: number[] = []
  for (let i = 0; i < RUNS; i++) {
    const began = performance.now()
    await ask(i)
    times.push(performance.now() - began)
  }
  return times.sort((a, b) => a - b)[RUNS - 2]
}
const get = async <T>(path: string): Promise<T> => (await fetch(`${newsroom.address}/api${path}`)).json() as Promise<T>
const anything: PageOrder['filter'] = {
  text: '',
  state: '',
  tag: '',
  speaker: '',
  story: null,
  from: '',
  to: '',
  shortest: null,
  longest: null,
}
const page = async (order: PageOrder) =>
  (
    await fetch(`${newsroom.address}/api/library/page`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(order),
    })
  ).json() as Promise<LibraryPage>
const ORDERS: PageOrder[] = [
  { filter: anything, order: 'day', descending: true, from: 0, count: 100 },
  { filter: { ...anything, text: 'ferry 49' }, order: 'name', descending: false, from: 0, count: 100 },
  { filter: { ...anything, state: 'used', tag: 'quay' }, order: 'state', descending: true, from: 200, count: 100 },
  { filter: anything, order: 'who', descending: false, from: 4800, count: 100 },
  { filter: { ...anything, speaker: 'Tamsin Roe', story: stories[7] }, order: 'stories', descending: true, from: 0, count: 100 },
]
const pages: number[] = []
for (const order of ORDERS) pages.push(await timed(() => page(order)))
report({
  measure: 'library',
  name: 'library.page',
  value: Math.max(...pages),
  unit: `ms, the slowest kind of ${ORDERS.length}, of ${TAPES} tapes`,
})
report({
  measure: 'library',
  name: 'library.tape',
  value: await timed((i) => get(`/tapes/${tapes[i * 100]}`)),
  unit: `ms, slowest but one of ${RUNS}`,
})
const desk = await get<Desk>('/desk')
if (desk.stories.length !== STORIES || desk.stories.some(({ outputs }) => outputs[0].trt <= 0))
  throw new Error('the Desk does not list what is there')
report({
  measure: 'library',
  name: 'library.desk',
  value: await timed(() => get('/desk')),
  unit: `ms for ${STORIES} stories, slowest but one of ${RUNS}`,
})

const browser = await launch()
const [opens, finds]: number[][] = [[], []]
for (let i = 0; i < 5; i++) {
  const view = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const began = performance.now()
  await view.goto(`${newsroom.address}/tapes`)
  await view.locator('[data-testid=tapes] [role=row][aria-rowindex="5"]').waitFor()
  opens.push(performance.now() - began)
  const search = performance.now()
  await view.getByLabel('Find tapes').fill('ferry 49')
  await view.getByText(/\d+ of 5,?000 tapes/).waitFor()
  finds.push(performance.now() - search)
  await view.close()
}
report({ measure: 'library', name: 'library.open', value: median(opens), unit: 'ms to the first rows, median of 5' })
report({ measure: 'library', name: 'library.find', value: median(finds), unit: 'ms from typing to the narrowed list, median of 5' })
await browser.close()
await server.stop()
await newsroom.close()

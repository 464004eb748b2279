import type { Receipt, SendOrder, SendPreview } from '../contract/sends'
import { RATE, toFrames } from '../core/time'
import { closeServices } from '../server/services'
import { median, percentile, report } from './figure'
import { makeStory } from './longStory'
import { fieldsReadRight } from './sendRead'
import { killsInSending } from './sendKills'
import { makeTape, openNewsroom, servicesOf } from './newsroom'
import { words } from './speechlike'

/** The last look at a page of 60 blocks, and how long a package of four minutes takes to be a file; over HTTP, on a server of its own. */

const BLOCKS = 60
const LONG = toFrames(20 * 60)
const SHORT = toFrames(4 * 60)
const newsroom = await openNewsroom()
const tape = await makeTape(newsroom, LONG + 60 * RATE, words(LONG, 3000))
const services = await servicesOf(newsroom)
const [long, short] = [await makeStory(services, tape, BLOCKS, LONG, 4), await makeStory(services, tape, 16, SHORT, 3)]
await closeServices(services)
let server = await newsroom.start()

const orderOf = (id: string, format: SendOrder['format']): SendOrder => ({
  what: { kind: 'story', id },
  format,
  rate: 48_000,
  bits: 24,
  channels: 2,
  kbps: 192,
  pattern: '{slug}',
})
async function ask<T>(path: string, body?: unknown, method = 'POST'): Promise<T> {
  const init = body ? { method, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) } : {}
  const response = await fetch(`${newsroom.address}/api${path}`, init)
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
  return (await response.json()) as T
}

const looks: number[] = []
let asked = 0
for (let i = 0; i < 12; i++) {
  const started = performance.now()
  const { look } = await ask<SendPreview>('/sends/preview', orderOf(long, 'wav'))
  // the first two warm the server
  if (i > 1) looks.push(performance.now() - started)
  asked = look.length
}
report({
  measure: 'send',
  name: 'send.look',
  value: percentile(looks, 0.95),
  unit: `ms, p95 of ${looks.length}, ${BLOCKS} blocks, ${asked} lines`,
})

/** What the server tells, as it tells every page that is open: a receipt is asked for when there is something new. */
const events = (await fetch(`${newsroom.address}/api/events`)).body![Symbol.asyncIterator]()
for (const format of ['wav', 'mp3'] as const) {
  const times: number[] = []
  for (let i = 0; i < 3; i++) {
    const started = performance.now()
    const { id } = await ask<Receipt>('/sends', orderOf(short, format))
    for (;;) {
      const { state, error } = await ask<Receipt>(`/sends/${id}`)
      if (state === 'done') break
      if (state === 'failed') throw new Error(error)
      await events.next()
    }
    times.push(performance.now() - started)
  }
  report({
    measure: 'send',
    name: `send.render.${format}`,
    value: median(times) / 1000,
    unit: 's, median of 3, four minutes with three lanes',
  })
}
await events.return?.()

/** Each of these is read back by other programs. */
const READ: [title: string, from: number, order: SendOrder][] = [48_000, 44_100].flatMap((rate) =>
  ([16, 24] as const).flatMap((bits) => {
    const order = { ...orderOf(short, 'wav'), rate: rate as SendOrder['rate'], bits }
    const stretch = { kind: 'tape' as const, id: tape, from: 10 * RATE, to: 25 * RATE }
    return [
      ['A long one', 0, order] as [string, number, SendOrder],
      ['Long tape selection 0:10', 10 * RATE, { ...order, what: stretch, channels: 1 }] as [string, number, SendOrder],
    ]
  }),
)
let [right, all] = [0, 0]
for (const [title, from, order] of READ) {
  const { id } = await ask<Receipt>('/sends', order)
  let receipt = await ask<Receipt>(`/sends/${id}`)
  while (receipt.state !== 'done') {
    await new Promise((later) => setTimeout(later, 50))
    receipt = await ask<Receipt>(`/sends/${id}`)
    if (receipt.state === 'failed') throw new Error(receipt.error)
  }
  const file = Buffer.from(await (await fetch(`${newsroom.address}/api/sends/${id}/file`)).arrayBuffer())
  const read = fieldsReadRight(file, receipt, title, from)
  right += read.right
  all += read.all
}
report({
  measure: 'send',
  name: 'send.read',
  value: (100 * right) / all,
  unit: `% of ${all} fields in ${READ.length} files, by ffprobe and mediainfo`,
})

const KILLS = 20
const mono: SendOrder = { ...orderOf(short, 'wav'), bits: 16, channels: 1 }
server = await killsInSending(newsroom.data, ask, mono, server, newsroom.start, KILLS)

await server.stop()
await newsroom.close()

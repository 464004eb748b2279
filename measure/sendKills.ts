import { mkdirSync, readdirSync, readFileSync } from 'node:fs'
import { createHash, randomUUID } from 'node:crypto'
import { once } from 'node:events'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import type { DeliveryInfo } from '../contract/deliveries'
import type { DestinationOrder } from '../contract/destinations'
import type { Receipt, SendOrder } from '../contract/sends'
import { random } from '../core/sound/random'
import type { Serving } from '../scripts/serving'
import { Inbox, PASSWORD, USER } from '../server/standins/inbox'
import { openPlayout } from '../server/standins/playout'
import { report } from './figure'

/** What all destinations come to where the server is killed at any moment of a sending and started again. */

const KINDS = ['folder', 'sftp', 'ftp', 'put', 'form', 'form'] as const
/** So slow that a kill mostly falls into a sending. */
const PACE = 12_000_000
const PATIENCE_MS = 120_000

export async function killsInSending(
  data: string,
  ask: <T>(path: string, body?: unknown, method?: string) => Promise<T>,
  order: SendOrder,
  server: Serving,
  again: () => Promise<Serving>,
  kills: number,
): Promise<Serving> {
  const next = random(20_261)
  const places = await Promise.all(
    KINDS.map(async (kind, i) => {
      const folder = join(data, 'playout', String(i))
      mkdirSync(folder, { recursive: true })
      const inbox = new Inbox(folder)
      inbox.faults = { slow: PACE }
      // the second form heeds the key
      inbox.heedsKey = i === 5
      const playout = await openPlayout(inbox)
      const id = randomUUID()
      const to: DestinationOrder = {
        name: `${kind} ${i}`,
        kind,
        address: playout.addresses[kind],
        user: kind === 'folder' ? '' : USER,
        secret: PASSWORD,
        field: 'sound',
        heedsKey: inbox.heedsKey,
        sameName: 'ask',
      }
      await ask(`/destinations/${id}`, to, 'PUT')
      return { id, inbox, playout }
    }),
  )
  const settled = ({ state }: DeliveryInfo) => state !== 'waiting' && state !== 'sending'
  let [lost, perhaps, during, running] = [0, 0, 0, server]
  for (let kill = 0; kill < kills; kill++) {
    const { id } = await ask<Receipt>('/sends', { ...order, pattern: `kill ${kill}`, to: places.map((place) => place.id) })
    const receipt = () => ask<Receipt>(`/sends/${id}`)
    while ((await receipt()).state !== 'done') await wait(20)
    await wait(next() * 2500)
    if ((await receipt()).deliveries.some((one) => !settled(one))) during++
    running.child.kill('SIGKILL')
    await once(running.child, 'exit')
    running = await again()
    const end = Date.now() + PATIENCE_MS
    while (!(await receipt()).deliveries.every(settled) && Date.now() < end) await wait(100)
    const { sha256, deliveries } = await receipt()
    for (const one of deliveries) {
      const { inbox } = places.find((place) => place.id === one.destination)!
      if (one.state === 'perhaps') perhaps++
      else if (one.state !== 'arrived' || hashOf(join(inbox.folder, one.fileName)) !== sha256) lost++
    }
  }
  const names = places.flatMap(({ inbox }, i) => inbox.arrivals.map(({ name }) => `${i}/${name}`))
  const whole = new Set(places.flatMap(({ inbox }) => inbox.arrivals.map(({ sha256 }) => sha256)))
  const half = places.flatMap(({ inbox }) =>
    readdirSync(inbox.folder).filter((name) => !name.startsWith('kill-') || !whole.has(hashOf(join(inbox.folder, name)))),
  )
  const unit = `of ${kills * KINDS.length} sendings, ${kills} kills, ${during} of them while some were under way`
  report({ measure: 'send', name: 'send.lost', value: lost, unit })
  report({ measure: 'send', name: 'send.twice', value: names.length - new Set(names).size, unit })
  report({ measure: 'send', name: 'send.half', value: half.length, unit })
  report({ measure: 'send', name: 'send.perhaps', value: perhaps, unit: `${unit}; a form that heeds no key` })
  places.forEach(({ playout }) => playout.close())
  return running
}

const hashOf = (path: string): string => createHash('sha256').update(readFileSync(path)).digest('hex')

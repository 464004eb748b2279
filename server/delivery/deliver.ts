import { randomUUID } from 'node:crypto'
import type { EntityManager } from 'typeorm'
import type { DeliveryInfo, Proof, Saying } from '../../contract/deliveries'
import { SendEntity } from '../entities'
import { tell } from '../notices'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { carry } from './destinations'
import type { Parcel } from './place'
import { DeliveryEntity, DestinationEntity, toDelivery, type DeliveryRow, type DestinationRow } from './rows'
import { Trouble, troubleOnTheWay } from './trouble'
import { nextTry } from './waits'

/**
 * Sends files where they go. Whoever sends one says so each second; one that was silent for longer has gone, and another
 * goes on from what is known: whether it may have arrived is kept before it can.
 */

const BEAT_MS = 1000
const GONE = '4 seconds'
/** One at a time to a destination, so that of two files of one name the second sees the first. */
const FREE = `not exists (select 1 from delivery busy where busy.destination = delivery.destination
  and busy.id <> delivery.id and busy.state = 'sending' and busy.beat > now() - interval '${GONE}')`
const DUE = `(delivery.state = 'waiting' and coalesce(delivery.next_try, '-infinity') <= now()
  or delivery.state = 'sending' and delivery.beat < now() - interval '${GONE}')`

/** Writes down that a file is to go to a destination, once it is made. `until`: the air time, where that is still to come. */
export async function orderDelivery(
  manager: EntityManager,
  send: { id: string; fileName: string; isScript: boolean },
  to: DestinationRow,
  airs: Date | null,
): Promise<DeliveryRow> {
  const row: Omit<DeliveryRow, 'at'> = {
    id: randomUUID(),
    send: send.id,
    destination: to.id,
    to: to.name,
    fileName: send.fileName,
    isScript: send.isScript,
    state: 'waiting',
    progress: 0,
    tries: 0,
    nextTry: null,
    until: airs && airs.getTime() > Date.now() ? airs : null,
    error: '',
    proof: null,
    replaces: to.sameName === 'replace',
    beyond: false,
    beat: null,
    arrived: null,
  }
  await manager.insert(DeliveryEntity, row)
  return { ...row, at: new Date() }
}

/** Has all that is due go on its way. */
export async function startDeliveries({ database, jobs }: Services): Promise<void> {
  const rows = await database.query<{ id: string }[]>(
    `select delivery.id from delivery join send on send.id = delivery.send where send.state = 'done' and ${DUE} and ${FREE}`,
  )
  for (const { id } of rows) await jobs.add('deliver', { id })
}

/** What a file that was not made was to be sent to. */
export async function callOff({ database }: Pick<Services, 'database'>, send: string): Promise<void> {
  await database.query(
    `update delivery set state = 'stopped', error = 'There was no file to send.' where send = $1 and state = 'waiting'`,
    [send],
  )
}

/** What a job does: one try. */
export async function deliver(services: Services, { id }: { id: string }): Promise<void> {
  const { database, config } = services
  const row = await claim(services, id)
  if (!row) return
  const off = new AbortController()
  let [sent, moved] = [0, Date.now()]
  const mine = { id, tries: row.tries }
  const say = () => tell(database, { about: 'send', id: row.send }).catch(() => undefined)
  const beat = setInterval(async () => {
    if (Date.now() - moved > config.patience)
      off.abort(new Trouble('again', `Nothing has moved for ${Math.round(config.patience / 1000)} seconds.`))
    const [still] = (await database
      .query(`update delivery set beat = now(), progress = $3 where id = $1 and tries = $2 and state = 'sending' returning 1`, [
        id,
        row.tries,
        row.bytes ? sent / row.bytes : 0,
      ])
      .catch(() => [[1]])) as [unknown[]]
    if (!still.length) off.abort(new Trouble('again', 'It was stopped.'))
    await say()
  }, BEAT_MS)
  const aborted = new Promise<never>((_done, fail) => off.signal.addEventListener('abort', () => fail(off.signal.reason as Error)))
  const to = await database.manager.findOneBy(DestinationEntity, { id: row.destination })
  try {
    if (!to || to.gone) throw new Trouble('refused', 'The destination was removed.')
    const notes = {
      signal: off.signal,
      sent: (bytes: number) => void ([sent, moved] = [bytes, Date.now()]),
      beyond: () => beyond(services, mine),
    }
    const work = carry(services, to, parcelOf(services, row), row, notes)
    work.catch(() => undefined)
    await arrived(services, row, await Promise.race([work, aborted]))
  } catch (error) {
    await failed(services, row, troubleOnTheWay(error), to?.sameName === 'beside')
  } finally {
    clearInterval(beat)
    await say()
  }
}

interface Claimed extends DeliveryRow {
  bytes: number
  sha256: string
}

/** Takes one try of a delivery, unless it is not due, or somebody is at it or at another to the same place. */
const claim = (services: Services, id: string): Promise<Claimed | null> =>
  services.database.transaction(async (manager) => {
    const [named] = await manager.query<{ destination: string }[]>('select destination from delivery where id = $1', [id])
    if (!named) return null
    await manager.query('select 1 from destination where id = $1 for update', [named.destination])
    const [taken] = (await manager.query(
      `update delivery set state = 'sending', beat = now(), tries = tries + 1, next_try = null, progress = 0
        where id = $1 and ${DUE} and ${FREE} and exists (select 1 from send where send.id = delivery.send and send.state = 'done')
        returning 1`,
      [id],
    )) as [unknown[]]
    if (!taken.length) return null
    const row = await manager.findOneByOrFail(DeliveryEntity, { id })
    const { script, ...file } = await manager.findOneByOrFail(SendEntity, { id: row.send })
    const { bytes, sha256 } = row.isScript && script ? script : file
    return { ...row, bytes, sha256 }
  })

const parcelOf = ({ store }: Services, { id, fileName, send, isScript, bytes, sha256 }: Claimed): Parcel => ({
  id,
  name: fileName,
  bytes,
  sha256,
  open: () => store.read(isScript ? store.script(send) : store.sent(send)),
})

/** Kept before anything can arrive. Whoever is not at it any more must go no further. */
async function beyond({ database }: Services, { id, tries }: { id: string; tries: number }): Promise<void> {
  const [still] = (await database.query(
    `update delivery set beyond = true where id = $1 and tries = $2 and state = 'sending' returning 1`,
    [id, tries],
  )) as [unknown[]]
  if (!still.length) throw new Trouble('again', 'It was stopped.')
}

/** One that was stopped too late has arrived all the same. */
async function arrived({ database }: Services, { id, tries }: DeliveryRow, proof: Proof): Promise<void> {
  await database.query(
    `update delivery set state = 'arrived', proof = $3, progress = 1, error = '', arrived = now(), beat = null
      where id = $1 and tries = $2 and state in ('sending', 'stopped', 'perhaps')`,
    [id, tries, proof],
  )
}

/** `beside`: where its name is taken, it gets another. */
async function failed({ database }: Services, row: DeliveryRow, { kind, message, settled }: Trouble, beside: boolean): Promise<void> {
  if (kind === 'exists' && beside) {
    await database.query(
      `update delivery set state = 'waiting', file_name = $3, beat = null, beyond = false
        where id = $1 and tries = $2 and state = 'sending'`,
      [row.id, row.tries, besideName(row.fileName)],
    )
    return
  }
  const next = kind === 'again' ? nextTry(Date.now(), row.tries, row.at.getTime(), row.until?.getTime() ?? null) : null
  const givenUp = row.until ? 'The air time has passed.' : 'It was tried for an hour.'
  const state = kind === 'again' ? (next === null ? 'failed' : 'waiting') : kind === 'refused' ? 'failed' : kind
  await database.query(
    `update delivery set state = $3, error = $4, next_try = $5, beat = null, beyond = beyond and not $6
      where id = $1 and tries = $2 and state = 'sending'`,
    [
      row.id,
      row.tries,
      state,
      kind === 'again' && next === null ? `${message} ${givenUp}` : message,
      next === null ? null : new Date(next),
      settled,
    ],
  )
}

/** What a person says of one that is not there yet. */
export async function saidOf({ database, jobs }: Services, id: string, say: Saying): Promise<DeliveryInfo> {
  const row = await database.manager.findOneBy(DeliveryEntity, { id })
  if (!row) throw notFound('That delivery')
  const [states, change] = answerTo(row, say)
  const { affected } = states.includes(row.state)
    ? await database.manager.update(DeliveryEntity, { id, state: row.state, tries: row.tries }, change as object)
    : { affected: 0 }
  if (!affected) throw new Refusal(409, 'Too late', 'That has changed meanwhile. Look at it as it is now.')
  await tell(database, { about: 'send', id: row.send })
  if (change.state === 'waiting') await jobs.add('deliver', { id })
  return toDelivery(await database.manager.findOneByOrFail(DeliveryEntity, { id }))
}

/** In which states that can be said, and what it comes to. */
function answerTo(row: DeliveryRow, say: Saying): [DeliveryRow['state'][], Partial<DeliveryRow>] {
  // a hand that tries again begins its hour anew; that it may have arrived counts no longer: a person has looked
  const anew = { state: 'waiting', nextTry: null, error: '', beyond: false, at: new Date() } as const
  switch (say) {
    case 'again':
      return [['waiting', 'failed', 'perhaps', 'exists', 'stopped'], row.state === 'waiting' ? { nextTry: null, state: 'waiting' } : anew]
    case 'replace':
      return [['exists'], { ...anew, replaces: true }]
    case 'beside':
      return [['exists'], { ...anew, fileName: besideName(row.fileName) }]
    case 'arrived':
      return [['perhaps'], { state: 'arrived', proof: 'person', arrived: new Date(), error: '' }]
    case 'stop':
      return [
        ['waiting', 'sending', 'failed', 'perhaps', 'exists'],
        row.state === 'sending' && row.beyond
          ? { state: 'perhaps', error: 'It was stopped as it was being confirmed. It may have arrived.' }
          : { state: 'stopped', nextTry: null },
      ]
  }
}

/** Another name beside one that is taken: `ferry.wav`, `ferry-v2.wav`, `ferry-v3.wav`. */
export function besideName(name: string): string {
  const [, head, number, extension] = /^(.*?)(?:-v(\d+))?(\.[^.]+)$/.exec(name) ?? [name, name, undefined, '']
  return `${head}-v${Number(number ?? 1) + 1}${extension}`
}

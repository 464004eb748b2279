import { createHash, randomUUID } from 'node:crypto'
import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { In, type EntityManager } from 'typeorm'
import type { Receipt, ScriptFile, SendOrder } from '../../contract/sends'
import { callOff, orderDelivery, startDeliveries } from '../delivery/deliver'
import { chosenDestinations } from '../delivery/destinations'
import { DeliveryEntity, toDelivery, type DeliveryRow, type DestinationRow } from '../delivery/rows'
import { DocumentEntity, SendEntity, type SendRow } from '../entities'
import { tell } from '../notices'
import { plainReason } from '../disk'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { filmOf } from './filmOf'
import { runThread } from '../thread'
import { outputsOf, type StoryDocument } from '../../core/page/story'
import { changedSince } from '../../core/send/changedSince'
import { askedOfLoudness } from '../../core/send/lastLook'
import { labelOf } from './label'
import { lastLook } from './look'
import { prepare } from './order'
import { scriptFile } from './script'
import type { SendThreadOrder } from './thread'
import { beside, type WriteOrder, type WriteReport } from './write'

/** Whoever writes a send says so this often; one that was silent for longer has gone. */
const BEAT_MS = 1000
const GONE = '4 seconds'

/** Receipts of sends, with how they go to their destinations, in the order of the rows. */
export async function receiptsOf({ database }: Services, rows: readonly SendRow[]): Promise<Receipt[]> {
  const ways = rows.length
    ? await database.manager.find(DeliveryEntity, { where: { send: In(rows.map(({ id }) => id)) }, order: { at: 'ASC', to: 'ASC' } })
    : []
  return rows.map(({ request, at, beat: _, madeOf: _madeOf, ...row }) => ({
    ...row,
    order: request,
    at: at.toISOString(),
    deliveries: ways.filter(({ send }) => send === row.id).map(toDelivery),
  }))
}

/** Takes an order; what cannot be sent at all is refused at once. */
export async function placeOrder(services: Services, order: SendOrder): Promise<Receipt> {
  const prepared = await prepare(services, order)
  // what it cannot show is refused at once
  await filmOf(services, order, prepared)
  const id = randomUUID()
  const { database, jobs } = services
  const destinations = await chosenDestinations(services, order.to ?? [])
  const look = await lastLook(services, order, prepared)
  const airs = await airTimeOfOrder(services, order)
  const { fileName } = prepared
  await database.transaction(async (manager) => {
    await manager.insert(SendEntity, {
      id,
      request: order as object,
      state: 'waiting',
      progress: 0,
      fileName,
      frames: 0,
      bytes: 0,
      sha256: '',
      loudness: null,
      truePeak: null,
      error: '',
      beat: null,
      look,
      madeOf: prepared.madeOf as object,
      script: null,
    })
    for (const one of destinations) await sendTo(manager, { id, fileName, request: order }, one, airs)
  })
  await jobs.add('send', { id })
  const [receipt] = await receiptsOf(services, await database.manager.findBy(SendEntity, { id }))
  return receipt
}

/** An output's air time; null where none is set. */
function airTimeOf(airs: string): Date | null {
  const at = new Date(airs)
  return airs && Number.isFinite(at.getTime()) ? at : null
}

/** What a job does for one order: renders to the side, and keeps the file only once it is whole. */
export async function carryOut(services: Services, { id }: { id: string }): Promise<void> {
  const { database, store, config } = services
  const { manager } = database
  // one at a time: a second job beside the first leaves at once
  const [taken] = (await database.query(
    `update send set beat = now() where id = $1 and state in ('waiting', 'working')
      and (beat is null or beat < now() - interval '${GONE}') returning id`,
    [id],
  )) as [unknown[], number]
  const row = taken.length ? await manager.findOneBy(SendEntity, { id }) : null
  if (!row) return
  const path = store.making(`send-${id}-${randomUUID().slice(0, 8)}`)
  const beat = setInterval(() => void database.query('update send set beat = now() where id = $1', [id]).catch(() => undefined), BEAT_MS)
  /** False where it was cancelled meanwhile, by whichever process. */
  const note = async (change: Partial<SendRow>): Promise<boolean> => {
    const { affected } = await manager.update(SendEntity, { id, state: In(['waiting', 'working']) }, change as object)
    await tell(database, { about: 'send', id })
    return Boolean(affected)
  }
  try {
    const prepared = await prepare(services, row.request)
    const { plan, about, fileName, target, madeOf } = prepared
    const film = await filmOf(services, row.request, prepared)
    if (!(await note({ state: 'working', progress: 0 }))) return
    const order: WriteOrder = {
      plan,
      media: join(config.data, 'media'),
      path,
      order: row.request,
      label: labelOf(about, row.request, row),
      film,
    }
    let done: Extract<WriteReport, { done: object }>['done'] | undefined
    let filming: number | undefined
    const whole = await runThread<WriteReport>('send', { write: order } satisfies SendThreadOrder, async (report) => {
      if ('done' in report) done = report.done
      else if ('filming' in report) filming = report.filming
      else return note({ progress: report.progress })
    })
    if (!whole) return endProcess(filming)
    if (!done) throw new Error('the thread ended without a word')
    const script = hasScript(row.request) ? await keepScript(services, row, fileName) : null
    await store.keep(path, store.sent(id))
    const look = [...row.look, ...askedOfLoudness(done, target)]
    if (!(await note({ ...done, fileName, madeOf, script, state: 'done', progress: 1, look }))) {
      await store.remove(store.sent(id))
      await store.remove(store.script(id))
    }
    await startDeliveries(services)
  } catch (error) {
    await note({
      state: 'failed',
      error: `The file could not be made, and nothing half-made was kept. ${error instanceof Refusal ? error.message : plainReason(error)}`,
    })
    await callOff(services, id)
  } finally {
    clearInterval(beat)
    await store.remove(path)
    await store.remove(beside(path))
  }
}

/** It may have ended by itself. */
function endProcess(id: number | undefined): void {
  try {
    if (id !== undefined) process.kill(id, 'SIGKILL')
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ESRCH') throw error
  }
}

/** Has a file go to a destination once it is made, and its script beside it. Gives the way of the file. */
export async function sendTo(
  manager: EntityManager,
  { id, fileName, request }: Pick<SendRow, 'id' | 'fileName' | 'request'>,
  to: DestinationRow,
  airs: Date | null,
): Promise<DeliveryRow> {
  if (hasScript(request)) await orderDelivery(manager, { id, fileName: scriptName(fileName), isScript: true }, to, airs)
  return orderDelivery(manager, { id, fileName, isScript: false }, to, airs)
}

/** Whether something is written beside the file. */
const hasScript = ({ script, what }: SendOrder): boolean => script === true && what.kind !== 'tape' && !what.lane
const scriptName = (fileName: string): string => fileName.replace(/\.[^.]+$/, '.docx')

async function keepScript(services: Services, { id, request }: SendRow, fileName: string): Promise<ScriptFile> {
  const { store } = services
  const { file } = (await scriptFile(services, request.what))!
  const making = store.making(`script-${id}`)
  await writeFile(making, file)
  await store.keep(making, store.script(id))
  return { fileName: scriptName(fileName), bytes: file.length, sha256: createHash('sha256').update(file).digest('hex') }
}

/** When what an order names airs by now. */
export async function airTimeOfOrder({ database }: Services, { what }: SendOrder): Promise<Date | null> {
  if (what.kind !== 'story') return null
  const row = await database.manager.findOneBy(DocumentEntity, { id: what.id, kind: 'story' })
  const outputs = row ? outputsOf(row.body as StoryDocument) : []
  const airs = (outputs.find(({ id }) => id === what.output) ?? outputs[0])?.airs ?? ''
  return airTimeOf(airs)
}

export async function cancel({ database }: Services, id: string): Promise<void> {
  const { affected } = await database.manager.update(SendEntity, { id, state: In(['waiting', 'working']) }, { state: 'cancelled' })
  if (!affected) throw notFound('A send that is still on its way')
  await callOff({ database }, id)
  await tell(database, { about: 'send', id })
}

/** What would be otherwise if it were sent again now; null where it is not known what it was made of. */
export async function changedSinceSent(services: Services, id: string): Promise<string[] | null> {
  const row = await services.database.manager.findOneBy(SendEntity, { id })
  if (!row) throw notFound('That receipt')
  return row.madeOf && changedSince(row.madeOf, (await prepare(services, row.request)).madeOf)
}

/** The newest receipts of all that was sent. */
export async function newestReceipts(services: Services): Promise<Receipt[]> {
  return receiptsOf(services, await services.database.manager.find(SendEntity, { order: { at: 'DESC' }, take: 60 }))
}

export async function receiptsFor(services: Services, target: string): Promise<Receipt[]> {
  const rows = await services.database.manager
    .createQueryBuilder(SendEntity, 'send')
    .where(`send.request -> 'what' ->> 'id' = :target`, { target })
    .orderBy('send.at', 'DESC')
    .take(50)
    .getMany()
  return receiptsOf(services, rows)
}

/** Orders that an end of the server cut short begin again. One that another job finishes first is left as it is. */
export async function resumeSends({ database, jobs }: Services): Promise<void> {
  await database.query(`update send set beat = null where beat < now() - interval '${GONE}'`)
  for (const { id } of await database.manager.findBy(SendEntity, { state: In(['waiting', 'working']) })) await jobs.add('send', { id })
}

import { existsSync } from 'node:fs'
import { mkdir } from 'node:fs/promises'
import { Not } from 'typeorm'
import { propose } from '../../core/tape/proposal'
import { tapeHead, type Side, type TapeDocument } from '../../core/tape/tape'
import type { Origin } from '../../core/sound/waveFile'
import { DocumentEntity, TapeEntity, type TapeRow } from '../entities'
import { log } from '../log'
import { tell } from '../notices'
import type { Services } from '../services'
import { piecesMadeOf } from '../tapes'
import { diskFault, isDiskFault } from '../disk'
import { runThread } from '../thread'
import { isRefusal, REFUSALS, type ArrivalNews, type ArrivalOrder, type ArrivalReport, type Done, type RefusalReason } from './arrival'
import { askOnArrival } from '../recognise/recognise'
import { askForLines } from '../voicing/layLines'
import { leaveNothing, moreCame } from './intake'
import { layTake } from './layTake'

/** Whoever tends to a tape says so this often; one that was silent for longer has gone. */
const BEAT_MS = 500
const GONE = '4 seconds'
const AGAIN_MS = 4500
const FIRST_WAIT_MS = 8000
const LONGEST_WAIT_MS = 10 * 60_000
const DISK_WAIT_MS = 5000
/** What nobody sent the rest of for so long is not waited for. */
const UNFINISHED = '14 days'

export interface IntakeJob {
  id: string
}

/**
 * Sees a tape through its arrival, from its first bytes on. Can be begun again at any time; a
 * second one beside it leaves at once. Where nothing more comes for a while it leaves the rest to
 * whoever is called when more does.
 */
export async function tend(services: Services, { id }: IntakeJob): Promise<void> {
  const { store, database } = services
  const [taken] = (await database.query(
    `update tape set tended = now() where id = $1 and state = 'arriving'
      and (tended is null or tended < now() - interval '${GONE}') returning complete, size::float8 as size`,
    [id],
  )) as [{ complete: boolean; size: number }[], number]
  if (!taken.length) {
    // whoever seems to be at it may have gone a moment ago; nothing more will come that would call again
    const whole = await database.manager.existsBy(TapeEntity, { id, state: 'arriving', complete: true })
    if (whole) setTimeout(() => void moreCame(services, id).catch(() => undefined), AGAIN_MS).unref()
    return
  }
  let { complete } = taken[0]
  let there = true
  // an end between two steps may have left it in either place
  const file = existsSync(store.upload(id)) ? store.upload(id) : store.original(id)
  if (!complete && !existsSync(file)) {
    // not a byte of it is here yet: whoever brings the first calls again
    await database.query('update tape set tended = null where id = $1', [id])
    return
  }
  const order: ArrivalOrder = { file, folder: store.tape(id), complete, size: taken[0].size }
  const look = async (tellThread: (news: ArrivalNews) => void) => {
    const [[row]] = (await database.query('update tape set tended = now() where id = $1 returning complete', [id])) as [
      { complete: boolean }[],
      number,
    ]
    there = Boolean(row)
    if (complete || !row?.complete) return
    complete = true
    tellThread({ complete: true })
  }
  let done: Done | undefined
  let beat: ReturnType<typeof setInterval> | undefined
  try {
    await runThread<ArrivalReport, ArrivalNews>('arrive', order, async (report, tellThread) => {
      // one that fails is made good by the next
      beat ??= setInterval(() => void look(tellThread).catch(() => undefined), BEAT_MS)
      if ('done' in report) done = report.done
      else if ('waiting' in report) {
        await look(tellThread)
        return complete && there
      } else if ('begun' in report) {
        await begin(services, id, report.begun)
        await tell(database, { about: 'tape', id })
      } else {
        // one that goes over it again shows nothing until it is further than the one before
        const [[row]] = (await database.query(
          'update tape set frames = greatest(frames, $2), progress = greatest(progress, $3) where id = $1 returning ' +
            'frames::float, progress',
          [id, report.frames, report.share],
        )) as [{ frames: number; progress: number }[], number]
        if (row) await tell(database, { about: 'tape', id, grown: row })
      }
      return there
    })
    if (done && there) await finish(services, id, done)
  } catch (error) {
    // called off meanwhile, the file goes from under it
    there = await database.manager.existsBy(TapeEntity, { id })
    const reason = (error as Error).message
    if (there && isRefusal(reason)) await refuse(services, id, reason)
    else if (there) {
      log.error({ error, id }, 'arrival')
      await putOff(services, id, error as Error)
    }
  } finally {
    clearInterval(beat)
    await database.query('update tape set tended = null where id = $1', [id])
  }
  const row = await database.manager.findOneBy(TapeEntity, { id })
  // taken away meanwhile: what was made since goes too
  if (!row) await leaveNothing(services, id)
  // all of it came while this one was leaving
  else if (row.state === 'arriving' && row.complete && !complete) await moreCame(services, id)
}

/** What its first bytes tell: format, channels, and what its recorder noted. */
async function begin(
  { database }: Services,
  id: string,
  { channels, format, origin }: { channels: number; format: string; origin: Origin },
): Promise<void> {
  await database.manager.update(TapeEntity, { id }, { channels, format, origin: origin as object })
  const row = await database.manager.findOneByOrFail(TapeEntity, { id })
  const document = await database.manager.findOneByOrFail(DocumentEntity, { id })
  if (document.revision > 0) return
  const body = structuredClone(document.body as TapeDocument)
  const guess = propose(row.fileName, { date: '', description: '' })
  const better = propose(row.fileName, origin)
  const head = tapeHead(body)
  head.day = origin.date || head.day
  if (head.name === guess.name) head.name = better.name
  // a channel each until it is heard whether they are one picture
  if (head.sides.length === 1 && channels > 1)
    head.sides = Array.from({ length: channels }, (_, c): Side => ({ name: origin.tracks[c] ?? '', channels: [c] }))
  await database.query('update document set body = $2 where id = $1 and revision = 0', [id, body])
}

async function finish(services: Services, id: string, done: Done): Promise<void> {
  const { store, database } = services
  const twin = await database.manager.findOne(TapeEntity, {
    where: { sha256: done.sha256, state: 'ready', id: Not(id) },
    order: { added: 'ASC' },
  })
  if (twin && (await refuseTwin(services, id, twin))) return
  await mkdir(store.tape(id), { recursive: true })
  if (existsSync(store.upload(id))) await store.keep(store.upload(id), store.original(id))
  await store.removeUpload(id)
  const { channels } = await database.manager.findOneByOrFail(TapeEntity, { id })
  // a two-channel tape on which nobody speaks alone is one stereo picture, not two sides
  if (channels === 2 && !done.twoSpeakers)
    await database.query(
      `update document set body = jsonb_set(body, '{records,tape,sides}', '[{"name":"","channels":[0,1]}]')
       where id = $1 and revision = 0 and body #> '{records,tape,sides}' in
         ('[{"name":"","channels":[0]},{"name":"","channels":[1]}]'::jsonb, '[{"name":"","channels":[0]}]'::jsonb)`,
      [id],
    )
  putOffFor.delete(id)
  await database.manager.update(
    TapeEntity,
    { id },
    {
      state: 'ready',
      progress: 1,
      error: '',
      frames: done.frames,
      sha256: done.sha256,
      bytes: await store.size(store.original(id)),
      disk: await store.sizeOfAll(store.tape(id)),
      tone: done.tone as object,
      figures: done.figures as object,
      findings: done.findings as object[],
    },
  )
  await tell(database, { about: 'tape', id })
  await layTake(services, id).catch((error: unknown) => log.error({ error, id }, 'putting a take on its line'))
  // words are a help: a tape is in without them
  await askOnArrival(services, id).catch((error: unknown) => log.error({ error, id }, 'asking for words'))
  await seeToTake(services, id).catch((error: unknown) => log.error({ error, id }, 'looking for the line of a take'))
  await services.jobs.add('looks', { tape: id })
}

/** What of a take is the line that it was recorded for is found out as soon as it has its words. */
async function seeToTake(services: Services, id: string): Promise<void> {
  const { line, figures } = await services.database.manager.findOneOrFail(TapeEntity, {
    where: { id },
    select: { id: true, line: true, figures: true },
  })
  if (!line || !figures?.speech.length || !services.config.recogniseOnArrival) return
  await askForLines(services, id, { story: line.story, blocks: [line.block], author: line.author })
}

/** Says why it was not taken, in a row that whoever sent it reads and clears away; keeps nothing else. */
async function refuse(services: Services, id: string, reason: RefusalReason): Promise<void> {
  const { fileName } = await services.database.manager.findOneByOrFail(TapeEntity, { id })
  await services.database.manager.update(TapeEntity, { id }, { state: 'failed', error: REFUSALS[reason](fileName) })
  await nothingKept(services, id)
}

/** How long it is until what could not be done is tried again, for each tape in milliseconds. */
const putOffFor = new Map<string, number>()

/** What goes wrong here is no fault of the tape: all that came of it is kept, and it is tried again later and later. */
async function putOff(services: Services, id: string, error: Error): Promise<void> {
  const onDisk = isDiskFault(error)
  // room comes back all at once: it is looked for again soon
  const wait = onDisk ? DISK_WAIT_MS : (putOffFor.get(id) ?? FIRST_WAIT_MS)
  if (!onDisk) putOffFor.set(id, Math.min(2 * wait, LONGEST_WAIT_MS))
  const why = onDisk ? diskFault(error) : 'Something went wrong on this machine.'
  await services.database.manager.update(
    TapeEntity,
    { id },
    { error: `Not imported yet: ${why} Everything received so far is stored, and it is tried again automatically.` },
  )
  await tell(services.database, { about: 'tape', id })
  setTimeout(() => void moreCame(services, id).catch(() => undefined), wait).unref()
}

/** Refuses what is here already, unless something was made of it while it came; gives whether it did. */
async function refuseTwin(services: Services, id: string, twin: TapeRow): Promise<boolean> {
  const refused = await services.database.transaction(async (manager) => {
    // whoever would make a piece of it in this moment comes before or after
    const row = await manager.findOne(TapeEntity, { where: { id }, lock: { mode: 'pessimistic_write' } })
    if (row && (await piecesMadeOf(manager, id)).length) return false
    const [{ name } = { name: '' }] = await manager.query<{ name: string }[]>(
      `select body #>> '{records,tape,name}' as name from document where id = $1`,
      [twin.id],
    )
    const error = `“${row?.fileName}” is here already, as “${name}”.`
    await manager.update(TapeEntity, { id }, { state: 'failed', error, twin: twin.id })
    return true
  })
  if (refused) await nothingKept(services, id)
  return refused
}

async function nothingKept({ database, store }: Services, id: string): Promise<void> {
  await store.removeUpload(id)
  await store.remove(store.tape(id))
  await tell(database, { about: 'tape', id })
}

/** Tapes whose arrival an end of the server cut short go on; what was refused, or never sent to its end, is cleared away. */
export async function resumeArrivals(services: Services): Promise<void> {
  const { database } = services
  for (const { id } of await database.manager.findBy(TapeEntity, { state: 'failed' })) await leaveNothing(services, id)
  const [left] = (await database.query(
    `select array_agg(id) as ids from tape where state = 'arriving' and not complete and added < now() - interval '${UNFINISHED}'`,
  )) as { ids: string[] | null }[]
  for (const id of left.ids ?? []) await leaveNothing(services, id)
  await database.query(`update tape set tended = null where state = 'arriving' and tended < now() - interval '${GONE}'`)
  for (const { id } of await database.manager.findBy(TapeEntity, { state: 'arriving' })) await moreCame(services, id)
}

import { randomUUID } from 'node:crypto'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { In } from 'typeorm'
import type { Fit, JoinOrder, LineUpInfo, MadeOf, Mutes } from '../../contract/lineups'
import { LOOK } from '../../core/hearing/levels'
import { hushes } from '../../core/lineup/turns'
import { movedOver } from '../../core/lineup/moved'
import { readPiece } from '../documents/pieces'
import { submit } from '../documents/submit'
import { LineUpEntity, TapeEntity, type LineUpRow } from '../entities'
import { tell } from '../notices'
import { plainReason } from '../disk'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { tapeInfo, tapeInfos } from '../tapes'
import { firstLook, readLooks } from './looksInStep'
import { runThread } from '../thread'
import type { CompareOrder, CompareReport } from './compare'
import { makeJoined, startOf, type Note } from './makeJoined'

const toInfo = ({ at: _, ...row }: LineUpRow): LineUpInfo => row

export async function lineUpInfo({ database }: Services, id: string): Promise<LineUpInfo> {
  const row = await database.manager.findOneBy(LineUpEntity, { id })
  if (!row) throw notFound('That line-up')
  return toInfo(row)
}

/** Takes tapes to be compared by their sound; the first one's clock is the one that counts. */
export async function beginLineUp({ database, jobs }: Services, tapes: string[]): Promise<LineUpInfo> {
  const ready = await database.manager.countBy(TapeEntity, { id: In(tapes), state: 'ready' })
  if (ready < tapes.length)
    throw new Refusal(409, 'Not all there', 'One of them is not here, or still arriving. It can be lined up once all of it is in.')
  const id = randomUUID()
  await database.manager.insert(LineUpEntity, {
    id,
    tapes,
    state: 'comparing',
    progress: 0,
    error: '',
    fits: [],
    joining: null,
    tape: null,
  })
  await jobs.add('lineUp', { id })
  return toInfo(await database.manager.findOneByOrFail(LineUpEntity, { id }))
}

/** Takes the word on what becomes of each, and has the new tape made. */
export async function beginJoin({ database, jobs }: Services, id: string, order: JoinOrder): Promise<LineUpInfo> {
  const row = await database.manager.findOneBy(LineUpEntity, { id })
  if (row?.state !== 'compared') throw notFound('A line-up that waits for your word')
  const used = order.parts.filter((part) => part.used)
  if (used.some(({ tape, byHand }) => !row.fits.some((fit) => fit.tape === tape && (fit.belongs || byHand))))
    throw new Refusal(
      409,
      'They do not belong together',
      'One of them was not recorded with the others, so it can only be put beside them by hand.',
    )
  if (used.every(({ mixed }) => mixed)) throw new Refusal(409, 'Nobody’s own', 'At least one of them must be a speaker’s own recording.')
  const infos = await tapeInfos(
    database,
    used.map(({ tape }) => tape),
  )
  if (infos.reduce((sum, { channels }) => sum + channels, 0) > 8) throw new Refusal(409, 'Too many', 'A tape has eight channels at most.')
  const { affected } = await database.manager.update(
    LineUpEntity,
    { id, state: 'compared' },
    { state: 'joining', progress: 0, joining: order as object, tape: randomUUID() },
  )
  if (affected) await jobs.add('lineUp', { id })
  return toInfo(await database.manager.findOneByOrFail(LineUpEntity, { id }))
}

/** Makes one tape of the files of a recording that the recorder split. */
export async function beginSequence({ database, jobs }: Services, tapes: string[], name: string): Promise<LineUpInfo> {
  const infos = await tapeInfos(database, tapes)
  const inOrder = tapes.map((tape) => infos.find((info) => info.id === tape && info.state === 'ready'))
  if (inOrder.some((info) => !info))
    throw new Refusal(409, 'Not all there', 'One of them is not here, or still arriving. They can become one tape once all of them are in.')
  if (new Set(inOrder.map((info) => info!.channels)).size > 1)
    throw new Refusal(409, 'Not alike', 'They have different numbers of channels, so they are not one recording.')
  let offset = 0
  const fits = inOrder.map((info): Fit => {
    const fit: Fit = {
      tape: info!.id,
      belongs: true,
      reason: '',
      offset,
      drift: 0,
      compared: 0,
      agree: 0,
      spread: 0,
      clarity: 0,
      mixed: false,
    }
    offset += info!.frames
    return fit
  })
  const id = randomUUID()
  const joining = { name, turns: false, sequence: true, parts: tapes.map((tape) => ({ tape, speaker: '', mixed: false, used: true })) }
  await database.manager.insert(LineUpEntity, {
    id,
    tapes,
    state: 'joining',
    progress: 0,
    error: '',
    fits: fits as object[],
    joining,
    tape: randomUUID(),
  })
  await jobs.add('lineUp', { id })
  return toInfo(await database.manager.findOneByOrFail(LineUpEntity, { id }))
}

/** Makes a tape of one side alone; the tape that it comes from keeps it. */
export async function beginSplit({ database, jobs }: Services, tape: string, side: number): Promise<LineUpInfo> {
  const info = await tapeInfo(database, tape)
  const { name, channels } = info.sides[side] ?? {}
  if (info.state !== 'ready' || !channels) throw new Refusal(409, 'Not there', 'That tape has no such side, or is still arriving.')
  const id = randomUUID()
  const fit: Fit = { tape, belongs: true, reason: '', offset: 0, drift: 0, compared: 0, agree: 0, spread: 0, clarity: 0, mixed: false }
  const joining = {
    name: `${info.name}, ${name || `side ${side + 1}`}`.slice(0, 200),
    turns: false,
    sequence: true,
    channels,
    parts: [{ tape, speaker: name ?? '', mixed: false, used: true }],
  }
  await database.manager.insert(LineUpEntity, {
    id,
    tapes: [tape],
    state: 'joining',
    progress: 0,
    error: '',
    fits: [fit] as object[],
    joining,
    tape: randomUUID(),
  })
  await jobs.add('lineUp', { id })
  return toInfo(await database.manager.findOneByOrFail(LineUpEntity, { id }))
}

export async function cancelLineUp({ database }: Services, id: string): Promise<void> {
  await database.manager.update(LineUpEntity, { id, state: In(['comparing', 'compared', 'joining']) }, { state: 'cancelled' })
  await tell(database, { about: 'lineUp', id })
}

/** What a job does for a line-up, whichever half of it is due. Safe to do twice. */
export async function workOnLineUp(services: Services, { id }: { id: string }): Promise<void> {
  const { database } = services
  const row = await database.manager.findOneBy(LineUpEntity, { id })
  if (row?.state !== 'comparing' && row?.state !== 'joining') return
  const { state } = row
  /** False where it was cancelled meanwhile. */
  const note = async (change: Partial<LineUpRow>): Promise<boolean> => {
    const { affected } = await database.manager.update(LineUpEntity, { id, state }, change as object)
    await tell(database, { about: 'lineUp', id })
    return Boolean(affected)
  }
  try {
    await (state === 'comparing' ? compare : makeJoined)(services, row, note)
  } catch (error) {
    await note({
      state: 'failed',
      error: `It could not be done; the tapes are unchanged. ${error instanceof Refusal ? error.message : plainReason(error)}`,
    })
  }
}

async function compare(services: Services, { id: lineUp, tapes }: LineUpRow, note: Note): Promise<void> {
  const rows = await tapeInfos(services.database, tapes)
  const order: CompareOrder = {
    tapes: tapes
      .map((tape) => rows.find((row) => row.id === tape)!)
      .map(({ id, channels, frames, sides }) => ({ id, channels, frames, sides: sides.length })),
    media: join(services.config.data, 'media'),
    looks: services.store.making(`looks-${lineUp}`),
  }
  let fits: Fit[] = []
  const whole = await runThread<CompareReport>('compare', order, async (report) => {
    if ('fits' in report) fits = report.fits
    else return note({ progress: report.progress })
  })
  if (whole) await note({ state: 'compared', progress: 1, fits: fits as object[] as Fit[] })
}

/**
 * What each recording would be muted over, on the first one's clock, by what is decided of them; empty if the looks that
 * it is told from are gone.
 */
export async function mutesOf(
  { database, store }: Services,
  id: string,
  { turns, parts }: Pick<JoinOrder, 'turns' | 'parts'>,
): Promise<Mutes[]> {
  const row = await database.manager.findOneBy(LineUpEntity, { id })
  if (row?.state !== 'compared') throw notFound('A line-up that waits for your word')
  const path = store.making(`looks-${id}`)
  if (!turns || !existsSync(path)) return []
  const looks = readLooks(path)
  const used = parts.filter((part) => part.used)
  const begin = firstLook(row.fits) * LOOK
  const found = hushes(used.map(({ tape, mixed }) => ({ looks: looks[row.tapes.indexOf(tape)] ?? [], mixed })))
  return used.map(({ tape }, i) => ({
    tape,
    stretches: found[i].map(({ from, to }) => ({ from: Math.max(0, from + begin), to: Math.max(0, to + begin) })),
  }))
}

/** What a tape was made of, if it was joined of others. */
export async function madeOf({ database }: Services, tape: string): Promise<MadeOf[]> {
  const row = await database.manager.findOneBy(LineUpEntity, { tape, state: 'joined' })
  if (!row) return []
  const used = row.joining!.parts.filter((part) => part.used)
  const start = startOf(row.fits.filter((fit) => used.some((part) => part.tape === fit.tape)))
  const infos = await tapeInfos(database, row.tapes)
  return row.fits
    .filter((fit) => fit.belongs || used.some((part) => part.tape === fit.tape))
    .map(({ tape: source, offset, drift }) => {
      const part = row.joining!.parts.find((one) => one.tape === source)
      return {
        lineUp: row.id,
        tape: source,
        name: infos.find((info) => info.id === source)?.name ?? 'a tape that is gone',
        offset: offset - start,
        drift,
        used: part?.used ?? false,
        mixed: part?.mixed ?? false,
      }
    })
}

/** Moves a piece of one of the sources over to the joined tape: an act like any other, that can be undone. */
export async function movePiece(services: Services, joined: string, piece: string, author: string): Promise<void> {
  const { database } = services
  const [sources, tape, row] = await Promise.all([madeOf(services, joined), tapeInfo(database, joined), readPiece(database.manager, piece)])
  if (!row) throw notFound('That piece')
  if (tape.state !== 'ready')
    throw new Refusal(409, 'Still arriving', 'The joined tape is still arriving; pieces can be moved over once it is in.')
  const source = sources.find(({ tape: id }) => row.piece.spans.some((span) => span.tape === id))
  const steps = source && movedOver(row.piece, source.tape, { id: joined, frames: tape.frames, sides: tape.sides }, source)
  if (!steps) throw new Refusal(409, 'Nothing to move', 'That piece holds nothing of the tapes that this one was made of.')
  const verdict = await submit(database, piece, row.revision, [{ id: randomUUID(), author, label: 'move over', steps }])
  if (!verdict.taken.length) throw new Refusal(409, 'Not moved', verdict.refused ?? '')
}

/** Those that an end of the server cut short go on. */
export async function resumeLineUps({ database, jobs }: Services): Promise<void> {
  for (const { id } of await database.manager.findBy(LineUpEntity, { state: In(['comparing', 'joining']) }))
    await jobs.add('lineUp', { id })
}

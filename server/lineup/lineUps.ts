import { randomUUID } from 'node:crypto'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { In } from 'typeorm'
import type { Fit, JoinOrder, LineUpInfo, MadeOf, Mutes } from '../../contract/lineups'
import { LOOK } from '../../core/hearing/levels'
import type { Onto } from '../../core/lineup/lineUp'
import { hushes } from '../../core/lineup/turns'
import { levelInRow } from '../../core/lineup/levelInRow'
import { movedOver, onJoined } from '../../core/lineup/moved'
import { tapeHead, tapeLevel, type Side, type TapeDocument } from '../../core/tape/tape'
import type { LevelPoint } from '../../core/sound/level'
import type { Word } from '../../core/tape/words'
import type { Stretch } from '../../core/time'
import { readPiece } from '../documents/pieces'
import { submit } from '../documents/submit'
import { DocumentEntity, LineUpEntity, TapeEntity, type LineUpRow } from '../entities'
import { allCame, beginTape } from '../intake/intake'
import { tell } from '../notices'
import { plainReason } from '../disk'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { tapeInfo, tapeInfos } from '../tapes'
import { firstLook, readLooks } from './looksInStep'
import { tapeWords } from '../words'
import { runThread } from '../thread'
import type { CompareOrder, CompareReport } from './compare'
import type { HeardChannel, JoinedChannel, JoinReport, JoinThreadOrder } from './join'

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
  if (!used.some(({ mixed }) => !mixed)) throw new Refusal(409, 'Nobody’s own', 'At least one of them must be a speaker’s own recording.')
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

type Note = (change: Partial<LineUpRow>) => Promise<boolean>

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

/** What stays of the stretches that give way, where a person decided otherwise: those that are mostly kept go. */
const overruled = (hush: readonly Stretch[], keep: readonly Stretch[], start: number): Stretch[] =>
  hush.filter(({ from, to }) => {
    const kept = keep.reduce((sum, one) => sum + Math.max(0, Math.min(to, one.to - start) - Math.max(from, one.from - start)), 0)
    return 2 * kept < to - from
  })

/** The joined tape begins where the first of them does. */
const startOf = (fits: readonly Fit[]): number => Math.floor(Math.min(...fits.map(({ offset }) => offset)))

async function makeJoined(services: Services, { id, fits, joining, tape }: LineUpRow, note: Note): Promise<void> {
  const { database, store } = services
  const used = joining!.parts.filter((part) => part.used)
  const lying = used.map(({ tape: source }) => fits.find((fit) => fit.tape === source)!)
  const start = startOf(lying)
  const infos = await tapeInfos(
    database,
    used.map((part) => part.tape),
  )
  const sources = used.map((part, i) => ({ part, fit: lying[i], info: infos.find((info) => info.id === part.tape)! }))
  const rows = sources.map(({ part, fit, info }) =>
    (joining!.channels ?? Array.from({ length: info.channels }, (_, channel) => channel)).map((channel): JoinedChannel => ({
      tape: info.id,
      channel,
      offset: fit.offset - start,
      drift: fit.drift,
      frames: info.frames,
      mixed: part.mixed,
    })),
  )
  const { sequence } = joining!
  const channels = sequence ? rows[0].map((_, c) => rows.map((row) => row[c])) : rows.flat().map((one) => [one])
  const path = store.making(`join-${id}`)
  const order: JoinThreadOrder = {
    channels,
    media: join(services.config.data, 'media'),
    path,
    description: `${sequence ? 'Made of' : 'Lined up'}: ${infos.map(({ name }) => name).join(', ')}`,
    at: recordedAt(infos),
  }
  let heard: HeardChannel[] = []
  try {
    const whole = await runThread<JoinReport>('join', order, async (report) => {
      if ('heard' in report) heard = report.heard
      else return note({ progress: report.progress })
    })
    if (!whole) return
    const sides = sequence ? keptSides(sources[0].info.sides, joining!.channels) : sidesOf(sources, heard, joining!.turns, start)
    await store.keep(path, store.upload(tape!))
    const days = infos.map((info) => info.day).filter(Boolean)
    const lines = sequence
      ? await levelsOf(
          services,
          used.map((part) => part.tape),
        )
      : []
    const level = levelInRow(
      sources.map(({ fit, info }, i) => ({ at: Math.round(fit.offset - start), frames: info.frames, level: lines[i] ?? [] })),
    )
    await beginTape(services, tape!, `${joining!.name}.wav`, 0, {
      level,
      name: joining!.name,
      speaker: sequence ? used[0].speaker || sources[0].info.speaker : [...new Set(sides.map((side) => side.name))].join(', '),
      day: days[0] ?? '',
      tags: [...new Set(infos.flatMap(({ tags }) => tags))],
      stories: await storiesOf(
        services,
        used.map((part) => part.tape),
      ),
      sides,
      off: sources.flatMap(({ info, fit }) =>
        info.off.map((stretch) => offOnJoined(stretch, { offset: fit.offset - start, drift: fit.drift })),
      ),
      words: await wordsOf(
        services,
        sources.map(({ info, fit }) => ({ tape: info.id, offset: fit.offset - start, drift: fit.drift })),
        !sequence,
      ),
    })
    await allCame(services, tape!, await store.size(store.upload(tape!)))
    await note({ state: 'joined', progress: 1 })
  } finally {
    await store.remove(path)
  }
}

/** When the earliest of them that says so was recorded; now where none does. */
function recordedAt(infos: readonly { day: string; origin: { time: string } }[]): string {
  const [first] = infos
    .filter(({ day }) => day)
    .map(({ day, origin }) => `${day}T${/^\d\d:\d\d:\d\d$/.test(origin.time) ? origin.time : '00:00:00'}`)
    .sort()
  return first ?? new Date().toISOString()
}

interface JoinSource {
  part: JoinOrder['parts'][number]
  info: { name: string; speaker: string; channels: number; sides: Side[]; off: Stretch[] }
}

/** The sides whose channels all came along, by where those are now. */
const keptSides = (sides: readonly Side[], channels: readonly number[] | undefined): Side[] =>
  channels
    ? sides
        .filter((side) => side.channels.every((channel) => channels.includes(channel)))
        .map((side) => ({ ...side, channels: side.channels.map((channel) => channels.indexOf(channel)) as Side['channels'] }))
    : [...sides]

/**
 * The sides of the new tape, named and hushed. Of several channels that caught one speaker the
 * clearest is a side; the others lie in the tape unused.
 */
function sidesOf(sources: readonly JoinSource[], heard: readonly HeardChannel[], turns: boolean, start: number): Side[] {
  let first = 0
  const all = sources.flatMap(({ part, info }) => {
    const from = first
    first += info.channels
    return info.sides.map((side) => {
      const channels = side.channels.map((channel) => channel + from) as Side['channels']
      const { slip: _, hush: __, ...kept } = side
      const named = part.mixed ? part.speaker || 'the call' : side.name || part.speaker
      const { hush: silent, clarity, sameAs } = heard[channels[0]]
      const hush = overruled(silent, part.keep ?? [], start)
      return {
        side: { ...kept, name: named || info.name, channels, ...(turns && hush.length ? { hush } : {}) } as Side,
        named,
        mixed: part.mixed,
        clarity,
        sameAs,
      }
    })
  })
  return all.flatMap((one): Side[] => {
    if (one.mixed) return [one.side]
    const alike = all.filter(
      (other) =>
        other !== one &&
        !other.mixed &&
        (one.named && other.named ? one.named === other.named : one.sameAs.includes(other.side.channels[0])),
    )
    if (alike.some((other) => other.clarity > one.clarity)) return []
    return [{ ...one.side, name: one.named || alike.find(({ named }) => named)?.named || one.side.name }]
  })
}

/** What was said off the record on one of them is so on all. */
const offOnJoined = ({ from, to }: Stretch, onto: Onto): Stretch => ({
  from: Math.max(0, onJoined(from, onto)),
  to: Math.max(1, onJoined(to, onto)),
})

/** The words of all of them, in step. `once`: they lie beside one another, so a speaker's come from the first that has any of them. */
async function wordsOf({ database }: Services, sources: readonly ({ tape: string } & Onto)[], once: boolean): Promise<Word[] | undefined> {
  const heard = new Set<string>()
  const all: Word[] = []
  for (const { tape, ...onto } of sources) {
    const fresh = (await tapeWords(database, tape)).filter(({ speaker }) => !once || !heard.has(speaker ?? ''))
    all.push(...fresh.map((word) => ({ ...word, from: onJoined(word.from, onto), to: onJoined(word.to, onto) })))
    for (const { speaker } of fresh) heard.add(speaker ?? '')
  }
  return all.length ? all.sort((a, b) => a.from - b.from) : undefined
}

/** The level lines of tapes, in their order. */
async function levelsOf({ database }: Services, tapes: string[]): Promise<LevelPoint[][]> {
  const documents = await database.manager.findBy(DocumentEntity, { id: In(tapes) })
  return tapes.map((tape) => tapeLevel(documents.find(({ id }) => id === tape)!.body as TapeDocument)?.points ?? [])
}

async function storiesOf({ database }: Services, tapes: string[]): Promise<string[]> {
  const documents = await database.manager.findBy(DocumentEntity, { id: In(tapes) })
  return [...new Set(documents.flatMap(({ body }) => tapeHead(body as TapeDocument).stories))]
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

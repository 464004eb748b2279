import { join } from 'node:path'
import { In } from 'typeorm'
import type { Fit, JoinOrder } from '../../contract/lineups'
import type { Onto } from '../../core/lineup/lineUp'
import { levelInRow } from '../../core/lineup/levelInRow'
import { onJoined } from '../../core/lineup/moved'
import { levelInForce } from '../../core/tape/inForce'
import { tapeHead, type Side, type TapeDocument } from '../../core/tape/tape'
import type { LevelPoint } from '../../core/sound/level'
import type { Word } from '../../core/tape/words'
import type { Stretch } from '../../core/time'
import { DocumentEntity, type LineUpRow } from '../entities'
import { allCame, beginTape } from '../intake/intake'
import type { Services } from '../services'
import { tapeInfos } from '../tapes'
import { tapeWords } from '../words'
import { runThread } from '../thread'
import type { HeardChannel, JoinedChannel, JoinReport, JoinThreadOrder } from './join'

/** The new tape that recordings become which were lined up, or follow one another. */

/** Notes how far it has come; false where it was cancelled meanwhile. */
export type Note = (change: Partial<LineUpRow>) => Promise<boolean>

/** The joined tape begins where the first of them does. */
export const startOf = (fits: readonly Fit[]): number => Math.floor(Math.min(...fits.map(({ offset }) => offset)))

export async function makeJoined(services: Services, { id, fits, joining, tape }: LineUpRow, note: Note): Promise<void> {
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
      const { slip: _, hush: __, repairs: ___, ...kept } = side
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
  return tapes.map((tape) => levelInForce(documents.find(({ id }) => id === tape)!.body as TapeDocument) ?? [])
}

async function storiesOf({ database }: Services, tapes: string[]): Promise<string[]> {
  const documents = await database.manager.findBy(DocumentEntity, { id: In(tapes) })
  return [...new Set(documents.flatMap(({ body }) => tapeHead(body as TapeDocument).stories))]
}

/** What stays of the stretches that give way, where a person decided otherwise: those that are mostly kept go. */
const overruled = (hush: readonly Stretch[], keep: readonly Stretch[], start: number): Stretch[] =>
  hush.filter(({ from, to }) => {
    const kept = keep.reduce((sum, one) => sum + Math.max(0, Math.min(to, one.to - start) - Math.max(from, one.from - start)), 0)
    return 2 * kept < to - from
  })

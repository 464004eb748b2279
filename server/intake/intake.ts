import { randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { propose } from '../../core/tape/proposal'
import type { Side, TapeDocument } from '../../core/tape/tape'
import { NO_ORIGIN, plain } from '../../core/sound/waveFile'
import type { LevelPoint } from '../../core/sound/level'
import type { Word } from '../../core/tape/words'
import type { Stretch } from '../../core/time'
import { transcriptOf } from '../../core/transcript/transcript'
import { DocumentEntity, TapeEntity } from '../entities'
import { filePhrases } from '../find/phrases'
import { tell } from '../notices'
import type { Services } from '../services'

/** The largest file that is taken, in bytes: ten hours of 24-bit stereo. */
export const LARGEST = 12 * 2 ** 30

/** What is known of a tape beforehand: the demo knows all of it. */
export interface Foreknown {
  name?: string
  speaker?: string
  role?: string
  day?: string
  tags?: string[]
  stories?: string[]
  sides?: Side[]
  words?: Word[]
  /** What was said off the record. */
  off?: Stretch[]
  /** Its level line. */
  level?: LevelPoint[]
}

/** A file's name as a line of text that can be shown; it never becomes a path. */
export const shownName = (fileName: string): string => plain(fileName).slice(-200) || 'tape'

/** A tape that is about to come: its rows, before its first byte. `size` is 0 where nobody knows yet. */
export async function beginTape({ database }: Services, id: string, fileName: string, size: number, known: Foreknown = {}): Promise<void> {
  const { name, speaker, day } = propose(fileName, NO_ORIGIN)
  const off = (known.off ?? []).map(({ from, to }) => ({ id: randomUUID(), kind: 'off' as const, from, to }))
  const body: TapeDocument = {
    kind: 'tape',
    records: {
      ...(known.level?.length ? { level: { id: 'level', kind: 'level' as const, points: known.level } } : {}),
      tape: {
        id: 'tape',
        kind: 'tape',
        name: known.name ?? name,
        speaker: known.speaker ?? speaker,
        role: known.role ?? '',
        day: known.day ?? day,
        tags: known.tags ?? [],
        stories: known.stories ?? [],
        sides: known.sides ?? [{ name: '', channels: [0] }],
      },
      ...Object.fromEntries(off.map((record) => [record.id, record])),
    },
  }
  await database.transaction(async (manager) => {
    await manager.insert(DocumentEntity, { id, kind: 'tape', revision: 0, aside: false, body: body as object })
    await manager.insert(TapeEntity, {
      id,
      state: 'arriving',
      progress: 0,
      error: '',
      twin: null,
      channels: 0,
      frames: 0,
      fileName,
      bytes: 0,
      size,
      complete: false,
      sha256: '',
      format: '',
      tone: { made: false, quiet: [] },
      findings: [],
      origin: NO_ORIGIN,
    })
    const transcript = transcriptOf(known.words ?? [])
    await manager.insert(DocumentEntity, {
      id: randomUUID(),
      kind: 'transcript',
      revision: 0,
      aside: false,
      body: transcript as object,
      tape: id,
    })
    await filePhrases(manager, id, transcript)
    await tell(manager, { about: 'tape', id })
  })
}

/** More of it is there: see that somebody tends to it. */
export const moreCame = ({ jobs }: Services, id: string): Promise<void> => jobs.add('intake', { id })

/** Who said so recently to be tending to a tape need not be called: a recording sends more of itself all the time. */
const FRESH_MS = 2000

/** Sees that somebody tends to what keeps growing. */
export async function seeTo(services: Services, id: string): Promise<void> {
  const row = await services.database.manager.findOneBy(TapeEntity, { id })
  const tended = row?.tended && Date.now() - row.tended.getTime() < FRESH_MS
  if (row?.state === 'arriving' && !tended) await moreCame(services, id)
}

/** All of it is there. */
export async function allCame(services: Services, id: string, bytes: number): Promise<void> {
  await services.database.manager.update(TapeEntity, { id }, { complete: true, bytes, size: bytes })
  await moreCame(services, id)
}

/** Takes in what is at hand as a stream. */
export async function takeIn(
  services: Services,
  file: Readable,
  fileName: string,
  known: Foreknown & { id?: string } = {},
): Promise<string> {
  const id = known.id ?? randomUUID()
  await beginTape(services, id, fileName, 0, known)
  await pipeline(file, createWriteStream(services.store.upload(id)))
  await allCame(services, id, await services.store.size(services.store.upload(id)))
  return id
}

/** Removes all that was stored of a tape. */
export async function leaveNothing({ database, store }: Services, id: string): Promise<void> {
  await database.manager.delete(DocumentEntity, { id })
  await store.removeUpload(id)
  await store.remove(store.tape(id))
  await tell(database, { about: 'tape', id })
}

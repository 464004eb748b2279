import { createHash, randomUUID } from 'node:crypto'
import { mkdir, readdir } from 'node:fs/promises'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Words } from '../../contract/tapes'
import type { Side, TapeDocument } from '../../core/tape/tape'
import { DocumentEntity, TapeEntity } from '../entities'
import { tell } from '../notices'
import { probe } from '../outside/probe'
import { Refusal } from '../problem'
import type { Services } from '../services'
import { runThread } from '../thread'
import type { ArrivalOrder, ArrivalReport } from './arrive'

/** The largest file that is taken, in bytes: ten hours of 24-bit stereo. */
const LARGEST = 12 * 2 ** 30

/** What is known of a tape beforehand: the demo knows all of it. */
export interface Foreknown {
  id?: string
  name?: string
  speaker?: string
  role?: string
  sides?: Side[]
  words?: Words
}

const titleOf = (fileName: string): string => fileName.replace(/\.[^.]{1,5}$/, '').replace(/[_\s]+/g, ' ').trim() || 'Tape'

/**
 * Takes a file in: kept as it came, with its SHA-256, and sent on its way to 48 kHz. A file that
 * holds no sound is refused, and leaves nothing behind.
 */
export async function takeIn(services: Services, file: Readable, fileName: string, known: Foreknown = {}): Promise<string> {
  const { store, database } = services
  const id = known.id ?? randomUUID()
  const made = store.making(id)
  const hash = createHash('sha256')
  let bytes = 0
  try {
    await pipeline(
      file,
      async function* (chunks: AsyncIterable<Buffer>) {
        for await (const chunk of chunks) {
          bytes += chunk.length
          if (bytes > LARGEST) throw new Refusal(413, 'Too large', 'That file is larger than Plain Cut takes in one piece. Nothing was kept of it.')
          hash.update(chunk)
          yield chunk
        }
      },
      store.write(made),
    )
    const found = bytes ? await probe(made) : null
    if (!found) throw new Refusal(422, 'No sound', `There is no sound to be read in “${fileName}”. Nothing was kept of it.`)
    await mkdir(store.tape(id), { recursive: true })
    await store.keep(made, store.original(id))
    const sides = known.sides ?? Array.from({ length: found.channels }, (_, c): Side => ({ name: '', channels: [c] }))
    const body: TapeDocument = {
      kind: 'tape',
      records: { tape: { id: 'tape', kind: 'tape', name: known.name ?? titleOf(fileName), speaker: known.speaker ?? '', role: known.role ?? '', sides } },
    }
    await database.transaction(async (manager) => {
      await manager.insert(DocumentEntity, { id, kind: 'tape', revision: 0, aside: false, body: body as object })
      await manager.insert(TapeEntity, {
        id,
        state: 'arriving',
        progress: 0,
        error: '',
        channels: found.channels,
        frames: 0,
        fileName,
        bytes,
        sha256: hash.digest('hex'),
        format: found.format,
        tone: { made: false, quiet: [] },
        words: (known.words ?? null) as never,
      })
    })
    await services.jobs.add('intake', { id, expected: found.expected, sidesKnown: Boolean(known.sides) })
    await tell(database, { about: 'tape', id })
    return id
  } catch (error) {
    await store.remove(made)
    throw error
  }
}

export interface IntakeJob {
  id: string
  expected: number
  sidesKnown: boolean
}

/** What a job does for one tape. Can be done again from the start at any time. */
export async function finishIntake(services: Services, { id, expected, sidesKnown }: IntakeJob): Promise<void> {
  const { store, database } = services
  const tape = await database.manager.findOneBy(TapeEntity, { id })
  if (tape?.state !== 'arriving') return
  const folder = store.making(`${id}-${randomUUID()}`)
  const order: ArrivalOrder = { original: store.original(id), folder, channels: tape.channels, expected }
  try {
    let done: Extract<ArrivalReport, { done: object }>['done'] | undefined
    await runThread<ArrivalReport>(new URL('./arrive.ts', import.meta.url), order, async (report) => {
      if ('done' in report) done = report.done
      else {
        await database.manager.update(TapeEntity, { id }, { progress: report.progress })
        await tell(database, { about: 'tape', id })
      }
    })
    if (!done) throw new Error('the thread ended without a word')
    for (const name of await readdir(folder)) await store.keep(`${folder}/${name}`, `${store.tape(id)}/${name}`)
    if (!sidesKnown && tape.channels === 2 && !done.twoSpeakers) await makeStereo(services, id)
    await database.manager.update(TapeEntity, { id }, { state: 'ready', progress: 1, frames: done.frames, tone: done.tone as object })
  } catch (error) {
    await database.manager.update(TapeEntity, { id }, { state: 'failed', error: `“${tape.fileName}” could not be read to its end, so it was not taken in. (${(error as Error).message.slice(0, 200)})` })
    await database.manager.update(DocumentEntity, { id }, { aside: true })
    await store.remove(store.tape(id))
  } finally {
    await store.remove(folder)
    await tell(database, { about: 'tape', id })
  }
}

/** A two-channel tape on which nobody speaks alone is one stereo picture, not two sides. */
async function makeStereo({ database }: Services, id: string): Promise<void> {
  await database.query(`update document set body = jsonb_set(body, '{records,tape,sides}', '[{"name":"","channels":[0,1]}]') where id = $1 and revision = 0`, [id])
}

/** Tapes whose arrival an end of the server cut short begin again; what failed is cleared away. */
export async function resumeIntake(services: Services): Promise<void> {
  await services.database.query(`delete from document using tape where tape.id = document.id and tape.state = 'failed'`)
  for (const tape of await services.database.manager.findBy(TapeEntity, { state: 'arriving' }))
    await services.jobs.add('intake', { id: tape.id, expected: 0, sidesKnown: false })
}

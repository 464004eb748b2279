import { DatabaseError } from 'pg'
import type { DataSource, EntityManager } from 'typeorm'
import type { AnyStep, Body, Verdict } from '../../contract/documents'
import type { Actuality } from '../../core/edits/actuality'
import type { Entry } from '../../core/steps/history'
import { notFound, Refusal } from '../problem'
import { forget, lockCurrent, recall, remember, type Current } from './current'
import { keptFor } from './pieces'
import { MustBeHeld, References } from './references'
import { Taking, type Submission, type Submitted } from './taking'
import { isSmall, write } from './write'
import { writeAtOnce } from './writeAtOnce'

interface Waiting extends Submission {
  done: (verdict: Verdict) => void
  failed: (error: unknown) => void
}

type Verdicts = (Verdict | Refusal)[]

/** So many browsers' acts are taken in together at most. */
const AT_ONCE = 40

/** Acts on one document wait for one another; those that came while others were written are taken in together. */
const queues = new Map<string, Waiting[]>()

/**
 * Takes acts into a document: rebased over what came in since the revision that they were made against, up to the first
 * that touches the same place as another's. An act that is in already is taken again without effect, so that it can
 * safely be sent twice. Rejects with a Refusal where the first of them cannot be at all.
 */
export function submit(database: DataSource, id: string, base: number, entries: readonly Submitted[]): Promise<Verdict> {
  return new Promise((done, failed) => {
    const waiting = { base, entries, done, failed }
    const queue = queues.get(id)
    if (queue) return void queue.push(waiting)
    queues.set(id, [waiting])
    void workOff(database, id)
  })
}

async function workOff(database: DataSource, id: string): Promise<void> {
  const queue = queues.get(id)!
  while (queue.length) await takeAll(database, id, queue.splice(0, AT_ONCE))
  queues.delete(id)
}

/** Never throws: each hears what became of its acts. What fails together is tried again one by one, so that none fails by another. */
async function takeAll(database: DataSource, id: string, waiting: readonly Waiting[]): Promise<void> {
  try {
    const verdicts = (await takenAtOnce(database, id, waiting)) ?? (await takenUnderLock(database, id, waiting))
    waiting.forEach((one, i) => {
      const verdict = verdicts[i]
      if (verdict instanceof Refusal) one.failed(verdict)
      else one.done(verdict)
    })
  } catch (error) {
    if (waiting.length === 1) waiting[0].failed(error)
    else for (const one of waiting) await takeAll(database, id, [one])
  }
}

/**
 * Takes acts into a document as this process last wrote it, in one statement that does nothing if it is another by now.
 * Null where that will not do: then it is locked and looked at.
 */
async function takenAtOnce(database: DataSource, id: string, waiting: readonly Waiting[]): Promise<Verdicts | null> {
  const known = recall(id)
  if (!known || known.kind === 'transcript' || waiting.some(({ base }) => base < known.logged)) return null
  // what is kept beside a piece is not remembered
  if (waiting.some(({ entries }) => entries.some(({ steps }) => steps.some(({ type }) => type === 'keep')))) return null
  const references = new References(database, false)
  const taking = new Taking(known)
  const verdicts: Verdicts = []
  try {
    for (const one of waiting) verdicts.push(await taking.verdictOn(one, undefined, (steps) => references.check(known.kind, steps, null)))
    if (!taking.fresh.length || !isSmall(taking)) return null
    if (await writeAtOnce(database, taking)) {
      remember(taking.current)
      return verdicts
    }
  } catch (error) {
    // an act that is in already, from before what is remembered
    if (!(error instanceof DatabaseError || error instanceof MustBeHeld)) throw error
  }
  forget(id)
  return null
}

async function takenUnderLock(database: DataSource, id: string, waiting: readonly Waiting[]): Promise<Verdicts> {
  const { verdicts, written } = await database.transaction(async (manager) => {
    const all = waiting.flatMap(({ entries }) => entries)
    const locked = await lockCurrent(
      manager,
      id,
      all.map((entry) => entry.id),
      Math.min(...waiting.map(({ base }) => base)),
    )
    if (!locked) throw notFound('What you are working on')
    const there = new Map(locked.there.map((row) => [row.id, row]))
    const references = new References(manager, true)
    const { kind, tape } = locked.current
    const taking = await withKept(
      manager,
      locked.current,
      all.flatMap(({ steps }) => steps),
    )
    const verdicts: Verdicts = []
    for (const one of waiting) verdicts.push(await taking.verdictOn(one, there, (steps) => references.check(kind, steps, tape)))
    return { verdicts, written: await write(manager, taking) }
  })
  if (written) remember(written)
  return verdicts
}

/** `steps`: all that may be applied; what a piece keeps beside it is read as far as they need it. */
async function withKept(manager: EntityManager, current: Current, steps: readonly AnyStep[]): Promise<Taking> {
  const kept = current.kind === 'actuality' ? await keptFor(manager, current.id, steps) : {}
  return new Taking(current, { ...current, body: { ...current.body, ...kept } as Body })
}

/**
 * Changes a document from within, by steps made for it as it is in that moment. One with the same
 * id that is in already is not made again. Resolves to whether the document is there.
 */
export async function amend<B extends Exclude<Body, Actuality>, S extends AnyStep>(
  database: DataSource,
  id: string,
  entry: Omit<Entry<S>, 'inverse' | 'steps'>,
  make: (body: B, manager: EntityManager) => S[] | Promise<S[]>,
): Promise<boolean> {
  const { there, written } = await database.transaction(async (manager) => {
    const locked = await lockCurrent(manager, id, [entry.id])
    if (!locked) return { there: false, written: null }
    const steps = locked.there.length ? [] : await make(locked.current.body as B, manager)
    if (!steps.length) return { there: true, written: null }
    const taking = new Taking(locked.current)
    taking.take(entry, steps)
    return { there: true, written: await write(manager, taking) }
  })
  if (written) remember(written)
  return there
}

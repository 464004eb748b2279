import { In, type DataSource, type EntityManager } from 'typeorm'
import type { Notice } from '../../contract/desk'
import { faultsIn, type AnyStep, type Body, type LoggedEntry, type Verdict } from '../../contract/documents'
import type { Actuality, ActualityStep } from '../../core/edits/actuality'
import type { Transcript } from '../../core/transcript/transcript'
import { applyAndInvert, exchange } from '../../core/steps/document'
import type { Entry } from '../../core/steps/history'
import { DocumentEntity, EntryEntity } from '../entities'
import { filePhrases } from '../find/phrases'
import { tell } from '../notices'
import { notFound, Refusal } from '../problem'
import { lockCurrent, remember, type Current } from './current'
import { keptFor, writePiece } from './pieces'
import { References } from './references'
import { documentTypes } from './types'

type Submitted = Omit<Entry<AnyStep>, 'inverse'>

/** An act that waits to be taken into its document, made against the revision `base`. */
interface Waiting {
  base: number
  entry: Submitted
  done: (verdict: Verdict) => void
  failed: (error: unknown) => void
}

/** So many acts go into one transaction at most. */
const AT_ONCE = 40

/** Acts on one document wait for one another; those that came while one transaction ran go into the next together. */
const queues = new Map<string, Waiting[]>()

/**
 * Takes one act into a document: rebased over what came in since the revision that it was made against, or refused where
 * both touch the same place. An act that is in already is taken again without effect, so that it can safely be sent twice.
 */
export function submit(database: DataSource, id: string, base: number, entry: Submitted): Promise<Verdict> {
  return new Promise((done, failed) => {
    const one = { base, entry, done, failed }
    const queue = queues.get(id)
    if (queue) return void queue.push(one)
    queues.set(id, [one])
    void workOff(database, id)
  })
}

async function workOff(database: DataSource, id: string): Promise<void> {
  const queue = queues.get(id)!
  while (queue.length) await takeAll(database, id, queue.splice(0, AT_ONCE))
  queues.delete(id)
}

/** Never throws: each act hears what became of it. What fails together is tried again one by one, so that none fails by another. */
async function takeAll(database: DataSource, id: string, acts: readonly Waiting[]): Promise<void> {
  try {
    const taken = await database.transaction((manager) => takeIn(manager, id, acts))
    if (taken.fresh.length) remember(taken.current)
    acts.forEach((act, i) => {
      const verdict = taken.verdicts[i]
      if (verdict instanceof Refusal) act.failed(verdict)
      else act.done(verdict)
    })
  } catch (error) {
    if (acts.length === 1) acts[0].failed(error)
    else for (const act of acts) await takeAll(database, id, [act])
  }
}

interface Taken {
  current: Current
  fresh: LoggedEntry[]
  verdicts: (Verdict | Refusal)[]
}

async function takeIn(manager: EntityManager, id: string, acts: readonly Waiting[]): Promise<Taken> {
  const locked = await lockCurrent(manager, id, Math.min(...acts.map(({ base }) => base)))
  if (!locked) throw notFound('What you are working on')
  const known = await manager.find(EntryEntity, {
    where: { id: In(acts.map(({ entry }) => entry.id)) },
    select: { id: true, document: true, revision: true },
  })
  const before = new Map(known.map((row) => [row.id, row]))
  const writing = await Writing.begin(
    manager,
    locked,
    acts.flatMap(({ entry }) => entry.steps),
  )
  const verdicts: Taken['verdicts'] = []
  for (const { base, entry } of acts) {
    const since = writing.log.filter(({ revision }) => revision > base)
    const there = before.get(entry.id) ?? writing.fresh.find((one) => one.id === entry.id)
    if (there && 'document' in there && there.document !== id)
      verdicts.push(new Refusal(409, 'Twice the same', 'That act belongs to something else.'))
    else if (there) verdicts.push({ taken: true, revision: there.revision, since })
    else verdicts.push(await verdictOn(writing, entry, since))
  }
  return { current: await writing.end(), fresh: writing.fresh, verdicts }
}

/** Takes an act in, past what came since, or says why not. */
async function verdictOn(writing: Writing, entry: Submitted, since: LoggedEntry[]): Promise<Verdict | Refusal> {
  let steps = entry.steps
  for (const other of since) {
    const rebased = exchange(documentTypes[writing.current.kind], steps, other.steps)
    if (!rebased) return { taken: false, reason: 'Somebody changed the same place first, so your last edit was not applied.', since }
    steps = rebased.mine
  }
  try {
    await writing.checkReferences(steps)
    return { taken: true, revision: writing.take(entry, steps), since }
  } catch (error) {
    if (error instanceof RangeError) return { taken: false, reason: `That cannot be done: ${error.message}.`, since }
    if (error instanceof Refusal) return error
    throw error
  }
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
    const locked = await lockCurrent(manager, id)
    if (!locked) return { there: false }
    if (await manager.existsBy(EntryEntity, { id: entry.id })) return { there: true }
    const steps = await make(locked.body as B, manager)
    if (!steps.length) return { there: true }
    const writing = await Writing.begin(manager, locked, steps)
    writing.take(entry, steps)
    return { there: true, written: await writing.end() }
  })
  if (written) remember(written)
  return there
}

/** What listeners are told of a document that changed. */
export const changed = ({ id, kind, revision, tape }: Pick<Current, 'id' | 'kind' | 'revision' | 'tape'>): Notice =>
  kind === 'transcript' ? { about: 'document', id, kind, revision, tape: tape! } : { about: 'document', id, kind, revision }

/** Acts that go into a locked document within one transaction: applied one after the other, written together at the end. */
class Writing {
  readonly fresh: LoggedEntry[] = []
  private readonly references: References

  private constructor(
    private readonly manager: EntityManager,
    private readonly before: Current,
    public current: Current,
  ) {
    this.references = new References(manager)
  }

  /** `steps`: all that may be applied; what a piece keeps beside it is read as far as they need it. */
  static async begin(manager: EntityManager, locked: Current, steps: readonly AnyStep[]): Promise<Writing> {
    const kept = locked.kind === 'actuality' ? await keptFor(manager, locked.id, steps) : {}
    return new Writing(manager, locked, { ...locked, body: { ...locked.body, ...kept } as Body })
  }

  get log(): readonly LoggedEntry[] {
    return this.current.log
  }

  /** Throws Refusal where steps refer to what is not there, or is off the record. */
  checkReferences(steps: readonly AnyStep[]): Promise<void> {
    return this.references.check(this.current.kind, steps, this.current.tape)
  }

  /** Applies steps that fit; returns the revision that they make. Throws RangeError where they do not, or Refusal where a record is not whole then. */
  take(entry: Omit<Submitted, 'steps'>, steps: readonly AnyStep[]): number {
    const { kind, body } = this.current
    const { document, inverse } = applyAndInvert(documentTypes[kind], body, steps)
    const faults = faultsIn(kind, document, steps)
    if (faults.length) throw new Refusal(400, 'Not understood', `What was sent does not make sense: ${faults.slice(0, 3).join('; ')}.`)
    const { id, author, label, undoes, quiet, together } = entry
    const logged: LoggedEntry = {
      revision: this.current.revision + 1,
      id,
      author,
      label,
      steps: [...steps],
      inverse,
      ...(undoes ? { undoes } : {}),
      ...(quiet ? { quiet } : {}),
      ...(together ? { together } : {}),
      at: new Date().toISOString(),
    }
    this.fresh.push(logged)
    this.current = { ...this.current, body: document, revision: logged.revision, log: [...this.current.log, logged] }
    return logged.revision
  }

  /** Writes what was taken; returns the document as it is then. */
  async end(): Promise<Current> {
    const { manager, fresh, before } = this
    const { id, kind, revision, body } = this.current
    if (!fresh.length) return before
    await manager.insert(
      EntryEntity,
      fresh.map(({ steps, inverse, at, undoes, quiet, together, ...one }) => ({
        ...one,
        document: id,
        steps: steps as object[],
        inverse: inverse as object[],
        undoes: undoes ?? null,
        quiet: quiet ?? false,
        together: together ?? null,
        at: new Date(at!),
      })),
    )
    if (kind === 'actuality') await this.endPiece()
    else await manager.update(DocumentEntity, { id }, { body: body as object, revision, changed: new Date() })
    if (kind === 'transcript') await filePhrases(manager, this.current.tape!, body as Transcript)
    await tell(manager, changed(this.current))
    return this.current
  }

  private async endPiece(): Promise<void> {
    const { id, revision, listed, body } = this.current
    const after = body as Actuality
    const steps = this.fresh.flatMap((one) => one.steps as ActualityStep[])
    const written = await writePiece(this.manager, { id, before: this.before.body as Actuality, after, steps, revision, listed })
    const { kept: _, ...rest } = after
    this.current = { ...this.current, listed: written, body: rest }
  }
}

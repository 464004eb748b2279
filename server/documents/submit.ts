import type { DataSource, EntityManager } from 'typeorm'
import type { Notice } from '../../contract/desk'
import { faultsIn, type AnyStep, type Body, type Kind, type LoggedEntry, type Verdict } from '../../contract/documents'
import type { Actuality, ActualityStep } from '../../core/edits/actuality'
import type { Transcript } from '../../core/transcript/transcript'
import { applyAndInvert, exchange } from '../../core/steps/document'
import type { Entry } from '../../core/steps/history'
import { filePhrases } from '../find/phrases'
import { tell } from '../notices'
import { notFound, Refusal } from '../problem'
import { lockCurrent, remember, type Current, type LoggedAt } from './current'
import { keptFor, pieceColumns, writePiece } from './pieces'
import { References } from './references'
import { documentTypes } from './types'

type Submitted = Omit<Entry<AnyStep>, 'inverse'>

/** Acts of one browser that wait to be taken in, in their order; the first was made against the revision `base`. */
interface Waiting {
  base: number
  entries: readonly Submitted[]
  done: (verdict: Verdict) => void
  failed: (error: unknown) => void
}

/** So many browsers' acts go into one transaction at most. */
const AT_ONCE = 40
const REFUSED = 'Somebody changed the same place first, so your last edit was not applied.'

/** Acts on one document wait for one another; those that came while one transaction ran go into the next together. */
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
    const { verdicts, written } = await database.transaction((manager) => takeIn(manager, id, waiting))
    if (written) remember(written)
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

type Verdicts = (Verdict | Refusal)[]

async function takeIn(
  manager: EntityManager,
  id: string,
  waiting: readonly Waiting[],
): Promise<{ verdicts: Verdicts; written: Current | null }> {
  const all = waiting.flatMap(({ entries }) => entries)
  const locked = await lockCurrent(
    manager,
    id,
    all.map((entry) => entry.id),
    Math.min(...waiting.map(({ base }) => base)),
  )
  if (!locked) throw notFound('What you are working on')
  const there = new Map(locked.there.map((row) => [row.id, row]))
  const writing = await Writing.begin(
    manager,
    locked.current,
    all.flatMap(({ steps }) => steps),
  )
  const verdicts: Verdicts = []
  for (const one of waiting) verdicts.push(await verdictOn(writing, one, there))
  return { verdicts, written: await writing.end() }
}

/** Takes acts in as far as they can be, past what came since. */
async function verdictOn(writing: Writing, { base, entries }: Waiting, there: ReadonlyMap<string, LoggedAt>): Promise<Verdict | Refusal> {
  const since = writing.current.log.filter(({ revision }) => revision > base)
  const taken: number[] = []
  const { ready, conflict } = rebasedOver(writing.current.kind, entries, since)
  for (const entry of ready) {
    const before = there.get(entry.id) ?? writing.current.log.find(({ id }) => id === entry.id)
    const elsewhere = before && 'document' in before && before.document !== writing.current.id
    try {
      if (elsewhere) throw new Refusal(409, 'Twice the same', 'That act belongs to something else.')
      if (!before) await writing.checkReferences(entry.steps)
      taken.push(before ? before.revision : writing.take(entry, entry.steps))
    } catch (error) {
      if (error instanceof RangeError) return { taken, refused: `That cannot be done: ${error.message}.`, since }
      if (!(error instanceof Refusal)) throw error
      // the others are in; sent again, it comes first, and is told why
      return taken.length ? { taken, refused: null, since } : error
    }
  }
  return { taken, refused: conflict ? REFUSED : null, since }
}

/** Acts past what came since, which may hold the first of them, up to the first that touches the same place. */
function rebasedOver(kind: Kind, entries: readonly Submitted[], since: readonly LoggedEntry[]): { ready: Submitted[]; conflict: boolean } {
  const type = documentTypes[kind]
  const own: Submitted[] = []
  let left = [...entries]
  let conflict = false
  for (const logged of since) {
    if (left[0]?.id === logged.id) {
      own.push(left.shift()!)
      continue
    }
    let theirs = logged.steps
    const past: Submitted[] = []
    for (const entry of left) {
      const swapped = exchange(type, entry.steps, theirs)
      if (!swapped) {
        conflict = true
        break
      }
      past.push({ ...entry, steps: swapped.mine })
      theirs = swapped.theirs
    }
    left = past
  }
  return { ready: [...own, ...left], conflict }
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
    if (!locked) return { there: false }
    if (locked.there.length) return { there: true }
    const steps = await make(locked.current.body as B, manager)
    if (!steps.length) return { there: true }
    const writing = await Writing.begin(manager, locked.current, steps)
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
  private readonly fresh: LoggedEntry[] = []
  private readonly references: References

  private constructor(
    private readonly manager: EntityManager,
    private readonly before: Current,
    /** With what was taken so far. */
    public current: Current,
  ) {
    this.references = new References(manager)
  }

  /** `steps`: all that may be applied; what a piece keeps beside it is read as far as they need it. */
  static async begin(manager: EntityManager, locked: Current, steps: readonly AnyStep[]): Promise<Writing> {
    const kept = locked.kind === 'actuality' ? await keptFor(manager, locked.id, steps) : {}
    return new Writing(manager, locked, { ...locked, body: { ...locked.body, ...kept } as Body })
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

  /** Writes what was taken; resolves to the document as it is then, or null if nothing was. */
  async end(): Promise<Current | null> {
    const { manager, fresh } = this
    const { id, kind, revision, body } = this.current
    if (!fresh.length) return null
    const piece = kind === 'actuality' ? (body as Actuality) : null
    const steps = fresh.flatMap((one) => one.steps as ActualityStep[])
    const columns = piece ? pieceColumns(piece, steps) : { body, frames: null }
    await manager.query(
      `with written as (
         insert into entry (id, document, revision, author, label, steps, inverse, undoes, quiet, together, at)
         select id, $1, revision, author, label, steps, inverse, undoes, coalesce(quiet, false), together, at
         from jsonb_to_recordset($2) as fresh (id uuid, revision int, author uuid, label text, steps jsonb, inverse jsonb, undoes uuid,
           quiet boolean, together text, at timestamptz)
       )
       update document set revision = $3, changed = now(), body = coalesce($4, body), frames = coalesce($5, frames) where id = $1`,
      [id, JSON.stringify(fresh), revision, columns.body && JSON.stringify(columns.body), columns.frames],
    )
    if (piece) await this.endPiece(piece, steps)
    if (kind === 'transcript') await filePhrases(manager, this.current.tape!, body as Transcript)
    await tell(manager, changed(this.current))
    return this.current
  }

  private async endPiece(after: Actuality, steps: readonly ActualityStep[]): Promise<void> {
    const { id, revision, listed } = this.current
    const written = await writePiece(this.manager, { id, before: this.before.body as Actuality, after, steps, revision, listed })
    const { kept: _, ...rest } = after
    this.current = { ...this.current, listed: written, body: rest }
  }
}

import { faultsIn, type AnyStep, type Kind, type LoggedEntry, type ToldEntry, type Verdict } from '../../contract/documents'
import { applyAndInvert, exchange } from '../../core/steps/document'
import type { Entry } from '../../core/steps/history'
import { Refusal } from '../problem'
import type { Current, LoggedAt } from './current'
import { typeOf } from '../../contract/documentTypes'

export type Submitted = Omit<Entry<AnyStep>, 'inverse'>

/** Acts of one browser, in their order; the first was made against the revision `base`. */
export interface Submission {
  base: number
  entries: readonly Submitted[]
}

const REFUSED = 'Somebody changed the same place first, so your last edit was not applied.'

/** Acts applied to a document one after the other; nothing is written yet. */
export class Taking {
  readonly fresh: LoggedEntry[] = []

  constructor(
    readonly before: Current,
    /** With what was taken so far. */
    public current: Current = before,
  ) {}

  /**
   * Applies steps that fit; returns the revision that they make. Throws RangeError where they do not, or Refusal where a
   * record is not whole then.
   */
  take(entry: Omit<Submitted, 'steps'>, steps: readonly AnyStep[]): number {
    const { kind, body } = this.current
    const { document, inverse } = applyAndInvert(typeOf(kind), body, steps)
    const faults = faultsIn(kind, document, steps)
    if (faults.length) throw new Refusal(400, 'Not understood', `What was sent does not make sense: ${faults.slice(0, 3).join('; ')}.`)
    const { id, author, label, undoes, quiet, together } = entry
    const told: ToldEntry = {
      revision: this.current.revision + 1,
      id,
      author,
      label,
      steps: [...steps],
      ...(undoes ? { undoes } : {}),
      ...(quiet ? { quiet } : {}),
      ...(together ? { together } : {}),
      at: new Date().toISOString(),
    }
    this.fresh.push({ ...told, inverse })
    this.current = { ...this.current, body: document, revision: told.revision, log: [...this.current.log, told] }
    return told.revision
  }

  /**
   * Takes acts in as far as they can be, past what came since. `there`: those that are in a log already. `check` throws
   * Refusal where steps refer to what they must not.
   */
  async verdictOn(
    { base, entries }: Submission,
    there: ReadonlyMap<string, LoggedAt> = new Map(),
    check: (steps: readonly AnyStep[]) => Promise<void> = () => Promise.resolve(),
  ): Promise<Verdict | Refusal> {
    const since = this.current.log.filter(({ revision }) => revision > base)
    const taken: number[] = []
    const { ready, conflict } = rebasedOver(this.current.kind, entries, since)
    for (const entry of ready) {
      const before = there.get(entry.id) ?? this.current.log.find(({ id }) => id === entry.id)
      const elsewhere = before && 'document' in before && before.document !== this.current.id
      try {
        if (elsewhere) throw new Refusal(409, 'Twice the same', 'That act belongs to something else.')
        if (!before) await check(entry.steps)
        taken.push(before ? before.revision : this.take(entry, entry.steps))
      } catch (error) {
        if (error instanceof RangeError) return { taken, refused: `That cannot be done: ${error.message}.`, since }
        if (!(error instanceof Refusal)) throw error
        // the others are in; sent again, it comes first, and is told why
        return taken.length ? { taken, refused: null, since } : error
      }
    }
    return { taken, refused: conflict ? REFUSED : null, since }
  }
}

/** Acts past what came since, which may hold the first of them, up to the first that touches the same place. */
function rebasedOver(kind: Kind, entries: readonly Submitted[], since: readonly ToldEntry[]): { ready: Submitted[]; conflict: boolean } {
  const type = typeOf(kind)
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

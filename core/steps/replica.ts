import { applyAll, applyAndInvert, exchange, type DocumentType } from './document'
import { stacks, takingBack, type Entry, type Heard } from './history'

/** An act that the server has taken, with the revision that it made. */
export type Accepted<S> = Entry<S> & { revision: number }

/** Such an act as the server tells of it. */
export type Told<S> = Heard<S> & { revision: number }

export interface Received<S> {
  /** What changed in the document as it is seen here, as steps on it: playhead and selection map through these. */
  delta: S[]
  /** Acts of one's own that touch what others did first, and had to be left out. */
  dropped: Entry<S>[]
}

/**
 * Brings acts that still wait past what others did meanwhile. Those already among `entries` wait no
 * longer; those that touch the same place are left out, and what was built on them goes on without.
 */
export function rebaseWaiting<D, S>(
  type: DocumentType<D, S>,
  waiting: readonly Entry<S>[],
  entries: readonly Told<S>[],
): Received<S> & { waiting: Entry<S>[] } {
  let left = [...waiting]
  const delta: S[] = []
  const dropped: Entry<S>[] = []
  for (const entry of entries) {
    if (left[0]?.id === entry.id) {
      left.shift()
      continue
    }
    const result = past(type, left, entry.steps)
    left = result.waiting
    delta.push(...result.delta)
    dropped.push(...result.dropped)
  }
  return { waiting: left, delta, dropped }
}

function past<D, S>(type: DocumentType<D, S>, waiting: readonly Entry<S>[], steps: readonly S[]) {
  const kept: Entry<S>[] = []
  const dropped: Entry<S>[] = []
  let others = [...steps]
  for (const entry of waiting) {
    const swapped = exchange(type, entry.steps, others)
    const inverse = swapped && exchange(type, entry.inverse, swapped.theirs)
    if (swapped && inverse) {
      kept.push({ ...entry, steps: swapped.mine, inverse: inverse.mine })
      others = swapped.theirs
    } else {
      dropped.push(entry)
      others = [...entry.inverse, ...others]
    }
  }
  return { waiting: kept, delta: others, dropped }
}

/**
 * A document as one browser has it: what the server took, and on top of it what still waits. Knows
 * nothing of how either comes and goes.
 */
export class Replica<D, S> {
  /** The document with everything in it, as it is shown. */
  current: D

  constructor(
    private readonly type: DocumentType<D, S>,
    private base: D,
    public revision: number,
    /** What the server took, in order. */
    readonly log: Accepted<S>[],
    public waiting: Entry<S>[] = [],
  ) {
    this.current = base
    this.replay()
  }

  /** Waiting acts that no longer apply are left out; the server would refuse them. */
  private replay(): Entry<S>[] {
    const dropped: Entry<S>[] = []
    this.current = this.base
    this.waiting = this.waiting.filter((entry) => {
      try {
        this.current = applyAll(this.type, this.current, entry.steps)
        return true
      } catch {
        dropped.push(entry)
        return false
      }
    })
    return dropped
  }

  /** Does something here and now; it waits until the server has taken it. Throws RangeError where it cannot be done; then nothing was. */
  act(steps: readonly S[], meta: Omit<Entry<S>, 'steps' | 'inverse'>): Entry<S> {
    const { document, inverse } = applyAndInvert(this.type, this.current, steps)
    const entry: Entry<S> = { ...meta, steps: [...steps], inverse }
    this.current = document
    this.waiting = [...this.waiting, entry]
    return entry
  }

  /**
   * Makes the newest act that waits another one, on the document as it was before it. Throws RangeError where that cannot
   * be; then it stays.
   */
  instead(steps: readonly S[]): Entry<S> {
    const last = this.waiting[this.waiting.length - 1]
    const { document, inverse } = applyAndInvert(this.type, applyAll(this.type, this.current, last.inverse), steps)
    const entry: Entry<S> = { ...last, steps: [...steps], inverse }
    this.current = document
    this.waiting = [...this.waiting.slice(0, -1), entry]
    return entry
  }

  /** Takes in what the server has taken since, in order, one's own among it. */
  receive(entries: readonly Told<S>[]): Received<S> {
    const fresh = entries.filter((entry) => entry.revision > this.revision)
    if (!fresh.length) return { delta: [], dropped: [] }
    const result = rebaseWaiting(this.type, this.waiting, fresh)
    for (const entry of fresh) {
      const { document, inverse } = applyAndInvert(this.type, this.base, entry.steps)
      this.base = document
      this.log.push({ ...entry, inverse })
      this.revision = entry.revision
    }
    this.waiting = result.waiting
    // where only one's own came back, what is shown is what it was
    const same = !result.delta.length && !result.dropped.length
    return { delta: result.delta, dropped: same ? [] : [...result.dropped, ...this.replay()] }
  }

  /** Leaves out an act that the server refused. */
  drop(id: string): Received<S> {
    const at = this.waiting.findIndex((entry) => entry.id === id)
    if (at < 0) return { delta: [], dropped: [] }
    const refused = this.waiting[at]
    const after = past(this.type, this.waiting.slice(at + 1), refused.inverse)
    this.waiting = [...this.waiting.slice(0, at), ...after.waiting]
    return { delta: after.delta, dropped: [refused, ...after.dropped, ...this.replay()] }
  }

  private get all(): Entry<S>[] {
    return [...this.log, ...this.waiting]
  }

  /** What undo or redo would take back now, or null; acts in `passed` are not considered. */
  next(which: 'undo' | 'redo', author: string, passed?: ReadonlySet<string>): Entry<S> | null {
    return stacks(this.all, author, passed)[which].at(-1) ?? null
  }

  /** What undo or redo would take back, and the steps for it: null if others have changed the place. Null if there is nothing. */
  takingBack(which: 'undo' | 'redo', author: string, passed?: ReadonlySet<string>): { target: Entry<S>; steps: S[] | null } | null {
    const target = this.next(which, author, passed)
    return target && { target, steps: takingBack(this.type, this.all, target) }
  }
}

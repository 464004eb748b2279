import { exchange, type DocumentType } from './document'

/** One act as it stands in a document's log: its steps go in, and are taken back, together. */
export interface Entry<S> {
  id: string
  /** Whose hand it was; undo goes by it. */
  author: string
  /** What was done, for the undo command: "take out 3 words". */
  label: string
  steps: S[]
  inverse: S[]
  /** The entry that this one takes back; a redo takes back an undo. */
  undoes?: string
  /** Not for undo: a join marked as heard. */
  quiet?: boolean
  /** Acts that came from one decision, or one stretch of writing, share this: they are undone together, one after the other. */
  together?: string
  /** When it was done, in ISO 8601. */
  at?: string
}

/** An act as others hear of it: what takes it back they work out from the document that it is applied to. */
export type Heard<S> = Omit<Entry<S>, 'inverse'>

/** What undo and redo would take back now, of one author's own doing; what is in `passed` is left out. */
export function stacks<S>(
  log: readonly Entry<S>[],
  author: string,
  passed: ReadonlySet<string> = new Set(),
): { undo: Entry<S>[]; redo: Entry<S>[] } {
  const undo: Entry<S>[] = []
  const redo: Entry<S>[] = []
  for (const entry of log) {
    if (entry.author !== author || entry.quiet || passed.has(entry.id)) continue
    if (!entry.undoes) {
      undo.push(entry)
      redo.length = 0
    } else if (undo.at(-1)?.id === entry.undoes) {
      undo.pop()
      redo.push(entry)
    } else if (redo.at(-1)?.id === entry.undoes) {
      redo.pop()
      undo.push(entry)
    }
  }
  return { undo, redo }
}

/**
 * The steps of a log with every entry that was taken back, and what took it back, left out: what
 * came between them is rewritten as if the pair had never been. Null where it cannot be.
 */
export function settled<D, S>(type: DocumentType<D, S>, log: readonly Entry<S>[]): S[][] | null {
  const list = log.map((entry) => ({ id: entry.id, undoes: entry.undoes, steps: entry.steps, inverse: entry.inverse }))
  for (;;) {
    const known = new Map(list.map((entry, i) => [entry.id, i]))
    const second = list.findIndex((entry, i) => entry.undoes !== undefined && (known.get(entry.undoes) ?? i) < i)
    if (second < 0) return list.map((entry) => entry.steps)
    const first = known.get(list[second].undoes!)!
    let inverse = list[first].inverse
    for (let i = first + 1; i < second; i++) {
      const swapped = exchange(type, list[i].steps, inverse)
      if (!swapped) return null
      const back = exchange(type, list[i].inverse, swapped.theirs)
      if (!back) return null
      list[i] = { ...list[i], steps: swapped.mine, inverse: back.mine }
      inverse = swapped.theirs
    }
    list.splice(second, 1)
    list.splice(first, 1)
  }
}

/**
 * The steps that take back `target` now, with all that came after it left standing. Null where
 * somebody has since changed the same place.
 */
export function takingBack<D, S>(type: DocumentType<D, S>, log: readonly Entry<S>[], target: Entry<S>): S[] | null {
  const at = log.findIndex((entry) => entry.id === target.id)
  const since = settled(type, log.slice(at + 1))
  if (!since) return null
  let steps = target.inverse
  for (const others of since) {
    const swapped = exchange(type, steps, others)
    if (!swapped) return null
    steps = swapped.mine
  }
  return steps
}

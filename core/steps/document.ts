/**
 * What all documents share: they change by steps alone. A step can be applied, inverted against
 * the document it is about to change, and rebased over another step that got there first.
 */
export interface DocumentType<D, S> {
  /** The document after the step. Throws RangeError where the step does not fit the document. */
  apply(document: D, step: S): D
  /** The step that takes `step` back; `document` is the one before it. */
  invert(document: D, step: S): S
  /**
   * The step as it reads once `over`, made against the same document, has been applied.
   * Null where both touch the same place. Symmetric: `a` over `b` is null where `b` over `a` is.
   */
  rebase(step: S, over: S): S | null
  /** Why a document cannot stand as it is; null where it can. Within an act it may be so for a step. */
  fault?(document: D): string | null
}

export function applyAll<D, S>(type: DocumentType<D, S>, document: D, steps: readonly S[]): D {
  return steps.reduce((doc, step) => type.apply(doc, step), document)
}

/**
 * Applies the steps of an act and gathers what takes them back, last first. Throws RangeError where they do not fit the
 * document, or leave one that cannot stand.
 */
export function applyAndInvert<D, S>(type: DocumentType<D, S>, document: D, steps: readonly S[]): { document: D; inverse: S[] } {
  const inverse: S[] = []
  let doc = document
  for (const step of steps) {
    inverse.unshift(type.invert(doc, step))
    doc = type.apply(doc, step)
  }
  const fault = steps.length ? type.fault?.(doc) : null
  if (fault) throw new RangeError(fault)
  return { document: doc, inverse }
}

/** Two runs of steps made against the same document, each rebased over the other; null where they touch. */
export function exchange<D, S>(type: DocumentType<D, S>, mine: readonly S[], theirs: readonly S[]): { mine: S[]; theirs: S[] } | null {
  const rebased: S[] = []
  let others = [...theirs]
  for (let step of mine) {
    const next: S[] = []
    for (const other of others) {
      const a = type.rebase(step, other)
      const b = type.rebase(other, step)
      if (!a || !b) return null
      next.push(b)
      step = a
    }
    others = next
    rebased.push(step)
  }
  return { mine: rebased, theirs: others }
}

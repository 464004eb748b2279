import type { DocumentType } from './document'
import { backwards, changedText, changeOver, type TextChange } from './text'

/** Something with an id of its own in a document that is a bag of records: a block, a strike, a mark. */
export interface Identified {
  id: string
}

export type Bag<R extends Identified> = Readonly<Record<string, R>>

export type RecordStep<R extends Identified> =
  | { type: 'put'; record: R }
  | { type: 'drop'; id: string }
  /** One property of one record; an undefined value takes the property off. */
  | { type: 'set'; id: string; key: string; value: unknown }
  /** A change within a text that is a property of a record: two who write in it keep both their words. */
  | { type: 'write'; id: string; key: string; change: TextChange }

const target = (step: RecordStep<Identified>): string => (step.type === 'put' ? step.record.id : step.id)

/** The ids of the other records of its bag that a record names, told from its properties, or from some of them. */
export type PointsTo = (properties: object) => readonly string[]

const NOTHING: PointsTo = () => []

/** The records that a step makes a record point to. */
function named(step: RecordStep<Identified>, pointsTo: PointsTo): readonly string[] {
  if (step.type === 'put') return pointsTo(step.record)
  return step.type === 'set' && step.value ? pointsTo({ [step.key]: step.value }) : []
}

/**
 * Steps on a bag of records. Order among records is a property like any other (a fractional
 * index), so steps on different records never touch. What a record points to is there as long as it is: neither
 * goes without the other, and of two people one of whom takes away what the other points to, the second is refused.
 */
export function recordsType<R extends Identified, D extends { records: Bag<R> }>(
  pointsTo: PointsTo = NOTHING,
): DocumentType<D, RecordStep<R>> {
  function refuseDangling(records: Bag<R>, step: RecordStep<R>): void {
    if (step.type === 'drop') {
      if (Object.values(records).some((other) => other.id !== step.id && pointsTo(other).includes(step.id)))
        throw new RangeError('something else belongs to it')
    } else if (named(step, pointsTo).some((id) => !Object.hasOwn(records, id)))
      throw new RangeError('what it belongs to is no longer there')
  }
  return {
    apply(document, step) {
      const id = target(step)
      const present = Object.hasOwn(document.records, id) ? document.records[id] : undefined
      if (pointsTo !== NOTHING) refuseDangling(document.records, step)
      if (step.type === 'put') {
        if (present) throw new RangeError('that is there already')
        return { ...document, records: { ...document.records, [id]: step.record } }
      }
      if (!present) throw new RangeError('that is no longer there')
      if (step.type === 'drop') {
        const { [id]: _, ...records } = document.records
        return { ...document, records }
      }
      if (step.type === 'write') {
        const text = present[step.key as keyof R] ?? ''
        if (typeof text !== 'string') throw new RangeError('that is no text')
        return { ...document, records: { ...document.records, [id]: { ...present, [step.key]: changedText(text, step.change) } } }
      }
      const { [step.key as keyof R]: _, ...rest } = present
      const record = (step.value === undefined ? rest : { ...present, [step.key]: step.value }) as R
      return { ...document, records: { ...document.records, [id]: record } }
    },

    invert(document, step) {
      const id = target(step)
      const present = Object.hasOwn(document.records, id) ? document.records[id] : undefined
      if (step.type === 'put') return { type: 'drop', id }
      if (!present) throw new RangeError('that is no longer there')
      if (step.type === 'drop') return { type: 'put', record: present }
      if (step.type === 'write') return { ...step, change: backwards(step.change) }
      return { type: 'set', id, key: step.key, value: present[step.key as keyof R] }
    },

    rebase(step, over) {
      const cutsOff = (one: RecordStep<R>, other: RecordStep<R>) => one.type === 'drop' && named(other, pointsTo).includes(one.id)
      if (target(step) !== target(over)) return cutsOff(step, over) || cutsOff(over, step) ? null : step
      if (!('key' in step) || !('key' in over)) return null
      if (step.key !== over.key) return step
      return step.type === 'write' && over.type === 'write' ? { ...step, change: changeOver(step.change, over.change) } : null
    },
  }
}

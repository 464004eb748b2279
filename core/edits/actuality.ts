import type { DocumentType } from '../steps/document'
import type { Side } from '../tape/tape'
import type { FadeShape } from '../sound/fade'
import type { Frames } from '../time'
import { joinAt, listLength, slice, splice, spanAt, type EditList, type Join, type Span } from './editList'
import type { Version } from './versions'

/** How a piece comes in or goes out. */
export interface EndFade {
  length: Frames
  shape: FadeShape
}

/** What was set aside from a piece, still usable. */
export interface Offcut {
  /** When it was set aside, as an ISO 8601 date; by it, it is known. */
  at: string
  spans: EditList
}

/** A piece pulled from tape. */
export interface Actuality {
  kind: 'actuality'
  slug: string
  /** Who speaks, and as what: "Piet Aldous", "deckhand". */
  speaker: string
  role: string
  /** The story it belongs to, or null. */
  story: string | null
  spans: EditList
  /** Handles: room before the first and after the last word, for fades and overlaps. Within the length. */
  head: Frames
  tail: Frames
  /**
   * How the sides of each of its tapes were set when it was pulled, by the tape's id: what is set on
   * a tape later changes no piece that was there.
   */
  sides?: Readonly<Record<string, Side[]>>
  /** How much louder all of it is heard, in dB; nothing is 0. */
  gain?: number
  /** Where an end has none of its own, its fade is as long as its handle. */
  fadeIn?: EndFade
  fadeOut?: EndFade
  offcuts?: readonly Offcut[]
  versions?: readonly Version[]
}

export type ActualityKey = 'slug' | 'speaker' | 'role' | 'story' | 'head' | 'tail' | 'sides' | 'gain' | 'fadeIn' | 'fadeOut' | 'offcuts' | 'versions'

/** Positions are frames of the piece, from its first. */
export type ActualityStep =
  /** `[from, to)` gives way to `insert`; `after` is the join of what then follows. */
  | { type: 'replace'; from: Frames; to: Frames; insert: Span[]; after: Join | null }
  | { type: 'join'; at: Frames; join: Join }
  | { type: 'set'; key: ActualityKey; value: Actuality[ActualityKey] }

type Replace = Extract<ActualityStep, { type: 'replace' }>

const insertedLength = (step: Replace): Frames => listLength(step.insert)

export const clipLength = (actuality: Pick<Actuality, 'spans'>): Frames => listLength(actuality.spans)

/** Length of the words: what counts on the page. */
export const wordsLength = (actuality: Pick<Actuality, 'spans' | 'head' | 'tail'>): Frames =>
  Math.max(0, clipLength(actuality) - actuality.head - actuality.tail)

/** Where a position lies after a step; what is replaced by as much stays in its place. At an insertion point `before` stays in front of what was put in. */
export function mapPosition(step: ActualityStep, position: Frames, side: 'before' | 'after' = 'after'): Frames {
  if (step.type !== 'replace' || insertedLength(step) === step.to - step.from) return position
  if (position < step.from || (position === step.from && side === 'before')) return position
  if (position >= step.to) return position + insertedLength(step) - (step.to - step.from)
  return side === 'before' ? step.from : step.from + insertedLength(step)
}

export const actualityType: DocumentType<Actuality, ActualityStep> = {
  apply(document, step) {
    switch (step.type) {
      case 'replace': {
        if (step.from < 0 || step.to < step.from || step.to > listLength(document.spans))
          throw new RangeError('the stretch lies outside the piece')
        return { ...document, spans: splice(document.spans, step.from, step.to, step.insert, step.after) }
      }
      case 'join': {
        const found = spanAt(document.spans, step.at)
        if (!found || found.start !== step.at || found.index === 0) throw new RangeError('no join lies there')
        const spans = document.spans.map((span, i) => (i === found.index ? { ...span, join: step.join } : span))
        return { ...document, spans }
      }
      case 'set':
        return { ...document, [step.key]: step.value }
    }
  },

  invert(document, step) {
    switch (step.type) {
      case 'replace':
        return {
          type: 'replace',
          from: step.from,
          to: step.from + insertedLength(step),
          insert: slice(document.spans, step.from, step.to),
          after: step.to === 0 ? null : joinAt(document.spans, step.to),
        }
      case 'join':
        return { type: 'join', at: step.at, join: joinAt(document.spans, step.at)! }
      case 'set':
        return { type: 'set', key: step.key, value: document[step.key] }
    }
  },

  rebase(step, over) {
    if (step.type === 'set' || over.type === 'set')
      return step.type === 'set' && over.type === 'set' && step.key === over.key ? null : step
    const mine = step.type === 'join' ? { from: step.at, to: step.at } : step
    const theirs = over.type === 'join' ? { from: over.at, to: over.at } : over
    if (mine.from <= theirs.to && theirs.from <= mine.to) return null
    if (over.type === 'join' || mine.to < theirs.from) return step
    const shift = insertedLength(over) - (over.to - over.from)
    return step.type === 'join'
      ? { ...step, at: step.at + shift }
      : { ...step, from: step.from + shift, to: step.to + shift }
  },
}

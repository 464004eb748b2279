import type { DocumentType } from '../steps/document'
import type { Side } from '../tape/tape'
import type { FadeShape } from '../sound/fade'
import type { Frames } from '../time'
import type { ActualityStep } from './actualitySteps'
import { joinAt, listLength, slice, splice, spanAt, type EditList, type Join } from './editList'
import { applyMove, invertMove, throughMove } from './movement'
import { applyPaint, invertPaint } from './painting'
import { insertedLength, lengthens, rebased } from './rebasing'
import type { Version } from './versions'

export type { ActualityStep } from './actualitySteps'

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

/** What was cut off an end of a piece, and how long the handle there was. */
export interface EndCut {
  spans: EditList
  handle: Frames
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
  /** Gain over all of it, in dB; absent means 0. */
  gain?: number
  /** Where an end has none of its own, its fade is as long as its handle. */
  fadeIn?: EndFade
  fadeOut?: EndFade
  offcuts?: readonly Offcut[]
  versions?: readonly Version[]
  /** What was cut off before its first frame, and after its last. */
  cutHead?: EndCut
  cutTail?: EndCut
}

export type ActualityKey =
  | 'slug'
  | 'speaker'
  | 'role'
  | 'story'
  | 'head'
  | 'tail'
  | 'sides'
  | 'gain'
  | 'fadeIn'
  | 'fadeOut'
  | 'offcuts'
  | 'versions'
  | 'cutHead'
  | 'cutTail'

/** The spans with another join at a position. Throws RangeError where none lies. */
function withJoinAt(spans: EditList, at: Frames, change: (join: Join) => Join): EditList {
  const found = spanAt(spans, at)
  if (!found || found.start !== at || !found.span.join) throw new RangeError('no join lies there')
  const join = change(found.span.join)
  return spans.map((span, i) => (i === found.index ? { ...span, join } : span))
}

export const clipLength = (actuality: Pick<Actuality, 'spans'>): Frames => listLength(actuality.spans)

/** Length of the words: what counts on the page. */
export const wordsLength = (actuality: Pick<Actuality, 'spans' | 'head' | 'tail'>): Frames =>
  Math.max(0, clipLength(actuality) - actuality.head - actuality.tail)

/**
 * Where a position lies after a step. What is replaced by as much stays in its place; a passage that is moved takes
 * its positions along. At an insertion point `before` stays in front of what was put in, and as the end of a
 * stretch that is moved it stays its end.
 */
export function mapPosition(step: ActualityStep, position: Frames, side: 'before' | 'after' = 'after'): Frames {
  if (step.type === 'move') return side === 'before' && position > 0 ? throughMove(step, position - 1) + 1 : throughMove(step, position)
  if (step.type !== 'replace' || !lengthens(step)) return position
  if (position < step.from || (position === step.from && side === 'before')) return position
  if (position >= step.to) return position + lengthens(step)
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
      case 'move':
        return { ...document, spans: applyMove(document.spans, step) }
      case 'paint':
        return { ...document, spans: applyPaint(document.spans, step) }
      case 'join':
        return { ...document, spans: withJoinAt(document.spans, step.at, () => step.join) }
      case 'heard':
        return step.at === null || !joinAt(document.spans, step.at)
          ? document
          : { ...document, spans: withJoinAt(document.spans, step.at, (join) => ({ ...join, heard: step.heard })) }
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
      case 'move':
        return invertMove(document.spans, step)
      case 'paint':
        return invertPaint(document.spans, step)
      case 'join':
        return { type: 'join', at: step.at, join: joinAt(document.spans, step.at)! }
      case 'heard':
        return step.at === null ? step : { ...step, heard: joinAt(document.spans, step.at)?.heard ?? false }
      case 'set':
        return { type: 'set', key: step.key, value: document[step.key] }
    }
  },

  rebase: rebased,

  fault: ({ spans }) => (spans.length ? null : 'nothing of the piece would be left'),
}

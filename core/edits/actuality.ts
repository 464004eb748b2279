import type { DocumentType } from '../steps/document'
import type { Frames } from '../time'
import type { ActualityStep } from './actualitySteps'
import { joinAt, listLength, slice, splice, spanAt, type EditList, type Join } from './editList'
import { applyKeep, invertKeep } from './keeping'
import { applyMove, invertMove, throughMove } from './movement'
import { applyPaint, invertPaint } from './painting'
import type { Actuality } from './piece'
import { insertedLength, lengthens, rebased } from './rebasing'

export type { ActualityStep } from './actualitySteps'
export { clipLength, wordsLength, type Actuality, type ActualityKey, type EndCut, type EndFade, type Kept, type Offcut } from './piece'

/** The spans with another join at a position. Throws RangeError where none lies. */
function withJoinAt(spans: EditList, at: Frames, change: (join: Join) => Join): EditList {
  const found = spanAt(spans, at)
  if (!found || found.start !== at || !found.span.join) throw new RangeError('no join lies there')
  const join = change(found.span.join)
  return spans.map((span, i) => (i === found.index ? { ...span, join } : span))
}

/**
 * Where a position lies after a step. A passage that is moved takes its positions along; within what gives way to other
 * sound, as under a patch, a position stays at its share of it. Within what is taken out, and at an insertion point,
 * `before` is in front of what was put in; as the end of a stretch that is moved it stays its end.
 */
export function mapPosition(step: ActualityStep, position: Frames, side: 'before' | 'after' = 'after'): Frames {
  if (step.type === 'move') return side === 'before' && position > 0 ? throughMove(step, position - 1) + 1 : throughMove(step, position)
  if (step.type !== 'replace' || !lengthens(step)) return position
  const { from, to, insert } = step
  if (position < from || (position === from && side === 'before')) return position
  if (position >= to) return position + lengthens(step)
  if (insert.some((span) => span.sound === 'tape')) return from + Math.floor(((position - from) * insertedLength(step)) / (to - from))
  return side === 'before' ? from : from + insertedLength(step)
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
      case 'keep':
        return applyKeep(document, step)
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
      case 'keep':
        return invertKeep(document, step)
      case 'set':
        return { type: 'set', key: step.key, value: document[step.key] }
    }
  },

  rebase: rebased,

  fault: ({ spans }) => (spans.length ? null : 'nothing of the piece would be left'),
}

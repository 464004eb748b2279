import { takeOut } from '../edits/acts'
import { actualityType, type Actuality } from '../edits/actuality'
import { plainJoin } from '../edits/editList'
import type { Block, StoryStep } from '../page/story'
import { applyAll } from '../steps/document'
import { textChange } from '../steps/text'
import { united } from '../stretches'
import { RATE, type Frames, type Stretch } from '../time'
import type { Change } from './change'

/** Changes, carried out: blocks change on the page, and what goes of a piece makes a piece of its own, so that the other stays. */

/** What becomes of one block. */
export interface Fitted {
  block: string
  /** What its piece becomes; null where that stays as it is. */
  piece: Actuality | null
  steps: StoryStep[]
}

/** `room`: frames that are added between the blocks, as evenly as can be, where more goes than had to. */
export function fitted(
  order: readonly Block[],
  changes: readonly Change[],
  pieceOf: (id: string) => Actuality | undefined,
  room: Frames = 0,
): Fitted[] {
  return order.flatMap((block, i): Fitted[] => {
    const own = changes.filter((change) => change.block === block.id)
    const seams = Math.max(1, order.length - 1)
    const added = i ? Math.round((room * i) / seams) - Math.round((room * (i - 1)) / seams) : 0
    if (!own.length && !added) return []
    const piece = block.piece ? pieceOf(block.piece) : undefined
    const cuts = united(own.flatMap(({ deed }) => (deed.do === 'cut' ? deed.cuts : [])))
    const longer = own.reduce((sum, { deed }) => sum + (deed.do === 'longer' ? deed.by : 0), 0)
    const changed = piece && (cuts.length || longer) ? goingOnFor(without(piece, cuts), longer) : null
    return [{ block: block.id, piece: changed, steps: stepsFor(block, own, added) }]
  })
}

/** A piece without some stretches of it, in frames of what it is now. */
function without(piece: Actuality, cuts: readonly Stretch[]): Actuality {
  return [...cuts]
    .sort((a, b) => b.from - a.from)
    .reduce((now, cut) => applyAll(actualityType, now, takeOut(now, cut, { ...plainJoin(), finder: 'fit' })), piece)
}

/** A piece whose last passage goes on for so many more frames of its tape. */
function goingOnFor(piece: Actuality, by: Frames): Actuality {
  const last = piece.spans[piece.spans.length - 1]
  return by ? { ...piece, spans: [...piece.spans.slice(0, -1), { ...last, to: last.to + by }] } : piece
}

function stepsFor(block: Block, own: readonly Change[], added: Frames): StoryStep[] {
  const { id } = block
  const steps: StoryStep[] = []
  const gap = own.reduce((sum, { deed }) => sum + (deed.do === 'gap' ? deed.by : 0), added)
  if (gap) steps.push({ type: 'set', id, key: 'gap', value: (block.gap ?? 0) + gap || undefined })
  for (const { deed } of own) {
    if (deed.do === 'pace') steps.push({ type: 'set', id, key: 'pace', value: (deed.words * 60 * RATE) / deed.time })
    if (deed.do === 'text') steps.push({ type: 'write', id, key: 'text', change: textChange(block.text, deed.text) })
  }
  return steps
}

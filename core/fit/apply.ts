import { takeOut } from '../edits/acts'
import { actualityType, type Actuality } from '../edits/actuality'
import { plainJoin } from '../edits/editList'
import { isRecorded, type Block, type StoryStep } from '../page/story'
import { applyAll } from '../steps/document'
import { textChange } from '../steps/text'
import { united } from '../stretches'
import { paceOf } from '../page/reading'
import type { Placed } from '../page/timing'
import type { Frames, Stretch } from '../time'
import type { Change } from './change'

/** Changes, carried out: blocks change on the page, and what goes of a piece makes a piece of its own, so that the other stays. */

/** What becomes of one block. */
export interface Fitted {
  block: string
  /** What its piece becomes; null where that stays as it is. */
  piece: Actuality | null
  steps: StoryStep[]
}

/**
 * What becomes of the blocks of a page as they lie on air. What a reader's takes lose would change how fast they seem to read:
 * their lines that are not recorded yet are given the pace that they were counted with. `room`: frames that are added
 * between the blocks, as evenly as can be, where more goes than had to.
 */
export function fitted(
  order: readonly Placed[],
  changes: readonly Change[],
  pieceOf: (id: string) => Actuality | undefined,
  room: Frames = 0,
): Fitted[] {
  const changing = order.filter(({ block }) => isRecorded(block) && block.piece && changes.some((one) => one.block === block.id))
  const readers = new Set(changing.map(({ block }) => block.reader))
  return order.flatMap(({ block, pace }, i): Fitted[] => {
    const own = changes.filter((change) => change.block === block.id)
    const seams = Math.max(1, order.length - 1)
    const added = i ? Math.round((room * i) / seams) - Math.round((room * (i - 1)) / seams) : 0
    const keeps = isRecorded(block) && block.pace === undefined && readers.has(block.reader) ? pace : null
    if (!own.length && !added && keeps === null) return []
    const piece = block.piece ? pieceOf(block.piece) : undefined
    const cuts = united(own.flatMap(({ deed }) => (deed.do === 'cut' ? deed.cuts : [])))
    const longer = own.reduce((sum, { deed }) => sum + (deed.do === 'longer' ? deed.by : 0), 0)
    const changed = piece && (cuts.length || longer) ? goingOnFor(without(piece, cuts), longer) : null
    return [{ block: block.id, piece: changed, steps: stepsFor(block, own, added, keeps) }]
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

function stepsFor(block: Block, own: readonly Change[], added: Frames, pace: number | null): StoryStep[] {
  const { id } = block
  const steps: StoryStep[] = []
  const gap = own.reduce((sum, { deed }) => sum + (deed.do === 'gap' ? deed.by : 0), added)
  if (gap) steps.push({ type: 'set', id, key: 'gap', value: (block.gap ?? 0) + gap })
  if (pace !== null && !own.some(({ deed }) => deed.do === 'pace')) steps.push({ type: 'set', id, key: 'pace', value: pace })
  for (const { deed } of own) {
    if (deed.do === 'pace') steps.push({ type: 'set', id, key: 'pace', value: paceOf(deed.text, deed.time) })
    if (deed.do === 'text') steps.push({ type: 'write', id, key: 'text', change: textChange(block.text, deed.text) })
  }
  return steps
}

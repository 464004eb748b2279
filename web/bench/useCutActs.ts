import { toast } from 'sonner'
import type { AnyStep } from '../../contract/documents'
import { cutOf, placedStretch } from '../../core/cuts/inPiece'
import { withEditsBeside } from '../../core/cuts/oneEdit'
import { actualityType, clipLength, type Actuality, type ActualityStep } from '../../core/edits/actuality'
import { holdTime, takeOut } from '../../core/edits/acts'
import { plainJoin, toTape, type Join } from '../../core/edits/editList'
import { longestFade } from '../../core/edits/fades'
import { handlesByWords } from '../../core/edits/handles'
import { setAside } from '../../core/edits/offcuts'
import { pieceWords } from '../../core/edits/pieceWords'
import { applyAll } from '../../core/steps/document'
import { clamp, milliseconds, RATE, type Frames, type Stretch } from '../../core/time'
import { keysInWords } from '../commands/keys'
import { nearZero } from '../sound/samples'
import type { Bench } from './bench'
import { ownFades } from './ownFades'
import { placeCut } from './placing'

/** The ways in which what is selected goes: what follows moves up, its time stays, or it is kept beside the piece. */
type Way = 'close up' | 'hold time' | 'set aside'

const SAYS: Record<Way, string> = { 'close up': 'take out', 'hold time': 'hold time over', 'set aside': 'set aside' }

/** What is less than this is no piece any more. */
const LEAST: Frames = milliseconds(20)

/** Taking out. */
export function useCutActs({ live, factsOf, wordsOf, kept, selected, select, setChosen }: Bench) {
  const now = () => live.body as Actuality

  const cutOut = async (way: Way) => {
    if (!selected) return void toast('Select what to take out: drag over the words or the sound.')
    const rough = way === 'hold time' ? selected : withEditsBeside(now().spans, selected, kept)
    if (rough.to <= rough.from) return void toast(`That is already out. ${keysInWords('edit.bringBack')} brings it back.`)
    if (clipLength(now()) - (rough.to - rough.from) < LEAST) return void toast('That is the whole piece. To remove it, set it aside on its page.')
    const count = kept.filter((word) => word.at >= rough.from - 480 && word.end <= rough.to + 480).length
    const label = `${SAYS[way]} ${count === 1 ? 'one word' : count ? `${count} words` : `${((rough.to - rough.from) / RATE).toFixed(1)} s`}`
    const before = now()
    const atEnd = rough.from === 0 || rough.to === clipLength(before)
    const at = new Date().toISOString()
    const steps = (stretch: Stretch, join = plainJoin(), pause = 0) =>
      way === 'hold time' ? holdTime(before, stretch) : way === 'set aside' ? setAside(before, stretch, at, join, pause) : takeOut(before, stretch, join, pause)
    /** At an end of the piece, its handle is what then lies beside the words. */
    const out = (...how: Parameters<typeof steps>): ActualityStep[] => {
      const taken = steps(...how)
      if (!atEnd || way === 'hold time') return taken
      const after = applyAll(actualityType, before, taken)
      return [...taken, ...handlesByWords(after, pieceWords(after.spans, wordsOf, after.sides))]
    }
    const orNone = (place: Frames) => (place === 0 ? null : place)
    select(null)
    // heard at once where a hand put it, and a moment later where it is not heard
    setChosen(orNone(rough.from))
    const better = (async () => (way === 'hold time' ? null : await wellPlaced(before, rough)) ?? (await roughly(before, rough)))()
    await live.actAtOnce(out(rough) as AnyStep[], { label }, better.then(({ stretch, join, pause }) => out(stretch, join, pause) as AnyStep[]))
    if (way === 'set aside') toast('Set aside to the offcuts.', { duration: 1500 })
  }

  /** Where the cut is not heard; null at the ends of the piece, and where its sound cannot be had. */
  const wellPlaced = async ({ spans }: Actuality, rough: Stretch) => {
    const order = cutOf(spans, rough)
    const placed = order && (await placeCut(order, factsOf, wordsOf))
    if (!order || !placed) return null
    const stretch = placedStretch(rough, order, placed)
    // a fade of one's own, as long as nothing of a word is in its way
    const own = ownFades().join
    const room = longestFade({ left: { tape: order.left.tape, from: order.left.low, to: placed.left, sound: 'tape' }, right: { tape: order.right.tape, from: placed.right, to: order.right.high, sound: 'tape' } }, (tape) => factsOf(tape).frames)
    const fade = own && !placed.lacks ? { fade: Math.min(own.fade, room), shape: own.shape } : placed.join
    const join: Join = { ...fade, origin: 'hand', heard: false, asked: { left: order.left.asked, right: order.right.asked, why: placed.reasons.join(', ') } }
    return stretch.to > stretch.from ? { stretch, join, pause: placed.lacks } : null
  }

  const roughly = async (piece: Actuality, rough: Stretch) => {
    const [from, to] = await Promise.all([zeroAt(piece, rough.from), zeroAt(piece, rough.to)])
    return { stretch: to > from ? { from, to } : rough, join: plainJoin(), pause: 0 }
  }
  const zeroAt = async (piece: Actuality, position: Frames): Promise<Frames> => {
    const found = toTape(piece.spans, position)
    if (!found || position === 0 || position === clipLength(piece)) return position
    return clamp(position + (await nearZero(factsOf(found.tape), found.frame)) - found.frame, 0, clipLength(piece))
  }

  return {
    commands: {
      'edit.takeOut': () => void cutOut('close up'),
      'edit.holdTime': () => void cutOut('hold time'),
      'edit.setAside': () => void cutOut('set aside'),
    },
  }
}

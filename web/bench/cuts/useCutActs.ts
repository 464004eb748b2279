import { toast } from 'sonner'
import { cutOf, placedStretch } from '../../../core/cuts/inPiece'
import { withEditsBeside } from '../../../core/cuts/oneEdit'
import { actualityType, clipLength, type Actuality, type ActualityStep } from '../../../core/edits/actuality'
import { holdTime, takeOut } from '../../../core/edits/acts'
import { plainJoin, toTape, type Join } from '../../../core/edits/editList'
import { longestFade } from '../../../core/edits/fades'
import { handlesByWords } from '../../../core/edits/handles'
import { setAside } from '../../../core/edits/offcuts'
import { pieceWords } from '../../../core/edits/pieceWords'
import { overEach } from '../../../core/edits/several'
import { applyAll } from '../../../core/steps/document'
import { clamp, milliseconds, RATE, type Frames, type Stretch } from '../../../core/time'
import { keysInWords } from '../../commands/keys'
import { nearZero } from '../../sound/samples'
import type { Bench } from '../bench'
import { ownFades } from '../../joins/ownFades'
import { placeCut } from '../../joins/placing'
import { united } from '../../../core/stretches'

/** The ways in which what is selected goes: what follows moves up, its time stays, or it is kept beside the piece. */
type Way = 'close up' | 'hold time' | 'set aside'

const SAYS: Record<Way, string> = { 'close up': 'take out', 'hold time': 'hold time over', 'set aside': 'set aside' }

/** Where a cut lies, what joins its sides, and how much of a pause is left there. */
interface Cut {
  stretch: Stretch
  join: Join
  pause: Frames
}

const WHOLE = 'That is the whole piece. To remove it, set it aside on its page.'
/** What is less than this is no piece any more. */
const LEAST: Frames = milliseconds(20)

/** Taking out. */
export function useCutActs({ live, factsOf, wordsOf, kept, passages, select, setChosen }: Bench) {
  const now = () => live.body

  /** Takes out all passages that are chosen, as one act. */
  const cutOut = async (way: Way) => {
    if (!passages.length) return void toast('Select what to take out: drag over the words or the sound.')
    const before = now()
    const rough =
      way === 'hold time'
        ? passages
        : united(passages.map((passage) => withEditsBeside(before.spans, passage, kept)).filter(({ from, to }) => to > from))
    if (!rough.length) return void toast(`That is already out. ${keysInWords('edit.bringBack')} brings it back.`)
    const length = clipLength(before)
    if (length - rough.reduce((sum, { from, to }) => sum + to - from, 0) < LEAST) return void toast(WHOLE)
    const label = `${SAYS[way]} ${rough.length > 1 ? `${rough.length} passages` : inWords(rough[0])}`
    const began = Date.now()
    const asides = rough.map((_, i) => ({ id: crypto.randomUUID(), at: new Date(began + i).toISOString() }))
    const cut = (piece: Actuality, { stretch, join, pause }: Cut, index: number): ActualityStep[] =>
      way === 'hold time'
        ? holdTime(piece, stretch)
        : way === 'set aside'
          ? setAside(piece, stretch, asides[index], join, pause)
          : takeOut(piece, stretch, join, pause)
    const out = (all: readonly Cut[]): ActualityStep[] => {
      const made = overEach(
        before,
        all.map(({ stretch }) => stretch),
        (piece, _, index) => cut(piece, all[index], index),
      )
      // at an end of the piece, its handle is what then lies beside the words
      if (way === 'hold time' || !(rough[0].from === 0 || rough[rough.length - 1].to === length)) return made
      const after = applyAll(actualityType, before, made)
      return [...made, ...handlesByWords(after, pieceWords(after.spans, wordsOf, after.sides))]
    }
    let taken: ActualityStep[]
    try {
      taken = out(rough.map((stretch) => ({ stretch, join: plainJoin(), pause: 0 })))
    } catch (error) {
      // what is left beside them would be room alone
      if (error instanceof RangeError) return void toast(WHOLE)
      throw error
    }
    select(null)
    // heard at once where a hand put it, and a moment later where it is not heard
    setChosen(rough[0].from === 0 ? null : rough[0].from)
    const better = Promise.all(
      rough.map(async (stretch) => (way === 'hold time' ? null : await wellPlaced(before, stretch)) ?? (await roughly(before, stretch))),
    )
    await live.actAtOnce(
      taken,
      { label },
      better.then((all) => out(all)),
    )
    if (way === 'set aside') toast('Set aside to the offcuts.', { duration: 1500 })
  }

  const inWords = ({ from, to }: Stretch): string => {
    const count = kept.filter((word) => word.at >= from - 480 && word.end <= to + 480).length
    return count === 1 ? 'one word' : count ? `${count} words` : `${((to - from) / RATE).toFixed(1)} s`
  }

  /** Where the cut is not heard; null at the ends of the piece, and where its sound cannot be had. */
  const wellPlaced = async ({ spans }: Actuality, rough: Stretch) => {
    const order = cutOf(spans, rough)
    const placed = order && (await placeCut(order, factsOf, wordsOf))
    if (!order || !placed) return null
    const stretch = placedStretch(rough, order, placed)
    // a fade of one's own, as long as nothing of a word is in its way
    const own = ownFades().join
    const room = longestFade(
      {
        left: { tape: order.left.tape, from: order.left.low, to: placed.left, sound: 'tape' },
        right: { tape: order.right.tape, from: placed.right, to: order.right.high, sound: 'tape' },
      },
      (tape) => factsOf(tape).frames,
    )
    const fade = own && !placed.lacks ? { fade: Math.min(own.fade, room), shape: own.shape } : placed.join
    const join: Join = {
      ...fade,
      origin: 'hand',
      heard: false,
      asked: { left: order.left.asked, right: order.right.asked, why: placed.reasons.join(', ') },
    }
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

import { useRef, useState } from 'react'
import { toast } from 'sonner'
import type { Prediction } from '../../../core/cuts/predict'
import { moveCut, moveEdge, setEdges } from '../../../core/edits/acts'
import { edits, type Edit } from '../../../core/edits/editList'
import { piecePlan } from '../../../core/page/plan'
import { clamp, milliseconds, type Frames } from '../../../core/time'
import { nearZero } from '../../sound/samples'
import type { Bench } from '../bench'
import type { JoinRow } from '../benchSheet'
import { withPlacedJoins } from '../../joins/placedJoins'
import { playAcross } from '../playing'
import { useOffers } from './useOffers'
import { followPlace, inTurn } from '../whileWaiting'
import { cutNear } from '../cutNear'

/** By how much a key moves an edge. */
const STEPS = [
  { frames: milliseconds(20), name: '20 ms' },
  { frames: milliseconds(5), name: '5 ms' },
  { frames: milliseconds(1), name: '1 ms' },
  { frames: 1, name: 'a sample' },
]

interface AtJoin {
  /** The join that is worked on, and how likely it is to be heard. */
  row: JoinRow | undefined
  judged: Prediction | undefined
  /** Edges are held to quiet zero crossings. */
  hold: boolean
}

/** What is done to a join that is there: moved, or placed otherwise. */
export function useJoinActs({ owner, live, factsOf, wordsOf, setChosen, act }: Bench, { row, judged, hold }: AtJoin) {
  const now = () => live.body
  const [fine, setFine] = useState<number>(() => Number(localStorage.joinStep ?? 1))
  const setStep = (by: 1 | -1) => {
    const next = clamp(fine + by, 0, STEPS.length - 1)
    localStorage.joinStep = String(next)
    setFine(next)
  }
  const { frames } = STEPS[fine]

  const [turns] = useState(inTurn)
  /** The join that the keys move, while one of their moves waits for its sound. */
  const moving = useRef<{ count: number; at: Frames } | null>(null)
  const move = (side: 'left' | 'right' | 'both', wanted: Frames) => {
    if (!row) return
    moving.current ??= { count: 0, at: row.cut.at }
    moving.current.count++
    void turns(async () => {
      await moveOnce(side, wanted)
      if (moving.current && --moving.current.count === 0) moving.current = null
    })
  }
  const moveOnce = async (side: 'left' | 'right' | 'both', wanted: Frames) => {
    const begun = moving.current
    const before = begun && edits(now().spans).find((one) => one.at === begun.at)
    if (!before) return
    const placeNow = followPlace(live, before.at)
    // a sample is a sample
    const by =
      hold && Math.abs(wanted) > 1
        ? await toZero(side === 'right' ? before.right : before.left, side === 'right' ? before.right.from : before.left.to, wanted)
        : wanted
    const cut = edits(now().spans).find((one) => one.at === placeNow())
    // somebody else changed the very edges that it was found for
    if (!cut || cut.left.to !== before.left.to || cut.right.from !== before.right.from) return
    const tapeLength = factsOf(cut.left.tape).frames
    act(side === 'both' ? moveCut(now(), cut, by, tapeLength) : moveEdge(now(), cut, side, by, tapeLength), 'move the cut')
    const there = cutNear(now(), side === 'right' ? cut.at : cut.at + by)?.at ?? null
    setChosen(there)
    if (there !== null) begun.at = there
  }

  /** A move that ends on a quiet zero crossing; as it was wanted where there is none but the one it began on. */
  const toZero = async ({ tape, sound }: Edit['left'], frame: Frames, by: Frames): Promise<Frames> => {
    const found = sound === 'tape' ? (await nearZero(factsOf(tape), frame + by)) - frame : by
    return found === 0 ? by : found
  }

  /** Edges where a hand put them, and back where they were placed. */
  const asGiven = () => {
    const asked = row?.cut.join.asked
    if (!row || !asked) return void toast('This join was not placed automatically.')
    const { cut } = row
    act(
      setEdges(now(), cut, asked, { ...cut.join, heard: false, asked: { left: cut.left.to, right: cut.right.from, why: asked.why } }),
      'edges as given',
    )
    setChosen(cut.at + asked.left - cut.left.to)
  }

  const others = useOffers(row?.cut, judged?.heard ?? 0, factsOf, wordsOf)

  /** Cuts one word away, where that is better, and plays it. */
  const elsewhere = async (way: 'earlier' | 'later') => {
    const edges = others[way]
    if (!row || !edges) return void toast('No better place was found one word away.')
    const { asked: _, ...join } = row.cut.join
    const rough = setEdges(now(), row.cut, edges, { ...join, heard: false })
    const at = row.cut.at + edges.left - row.cut.left.to
    const better = withPlacedJoins(now(), rough, [at], factsOf, wordsOf)
    setChosen(at)
    const done = live.actAtOnce(rough, { label: `cut one word ${way}` }, better)
    const placeNow = followPlace(live, at)
    await done
    const cut = cutNear(now(), placeNow())
    if (!cut) return
    playAcross(owner, piecePlan(now(), factsOf), cut.at)
  }

  const commands = {
    'join.asGiven': asGiven,
    'join.wordEarlier': () => void elsewhere('earlier'),
    'join.wordLater': () => void elsewhere('later'),
    'join.coarser': () => setStep(-1),
    'join.finer': () => setStep(1),
    'join.leftEarlier': () => move('left', -frames),
    'join.leftLater': () => move('left', frames),
    'join.rightEarlier': () => move('right', -frames),
    'join.rightLater': () => move('right', frames),
    'join.cutEarlier': () => move('both', -frames),
    'join.cutLater': () => move('both', frames),
  }
  return { move, others, step: STEPS[fine], commands }
}

import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import type { AnyStep } from '../../contract/documents'
import { otherPlaces, type OtherPlaces } from '../../core/cuts/otherPlaces'
import { actualityType, clipLength, type Actuality, type ActualityStep } from '../../core/edits/actuality'
import { moveCut, moveEdge, setEdges, type Nick } from '../../core/edits/acts'
import { cuts, type Cut } from '../../core/edits/editList'
import { changeGap, holdOrClose } from '../../core/edits/gaps'
import type { PieceWord } from '../../core/edits/pieceWords'
import { piecePlan } from '../../core/page/plan'
import { applyAll } from '../../core/steps/document'
import { clamp, milliseconds, RATE, type Frames } from '../../core/time'
import { player } from '../sound/player'
import type { Bench } from './bench'
import type { JoinRow } from './benchSheet'
import { withPlacedJoins } from './placedJoins'

/** By how much a key changes a gap. */
const GAP = milliseconds(50)

/** By how much a key moves an edge. */
const STEPS = [
  { frames: milliseconds(20), name: '20 ms' },
  { frames: milliseconds(5), name: '5 ms' },
  { frames: milliseconds(1), name: '1 ms' },
  { frames: 1, name: 'a sample' },
]

/** The cut of a piece that is nearest to a place. */
const cutNear = (piece: Actuality, at: Frames): Cut | undefined =>
  cuts(piece.spans).reduce<Cut | undefined>((best, one) => (!best || Math.abs(one.at - at) < Math.abs(best.at - at) ? one : best), undefined)

/** What is done to joins that are there: moved, placed otherwise, their gaps changed. `row`: the one that is worked on, `nick`: what was taken out there. */
export function useJoinActs({ owner, live, factsOf, wordsOf, selected, setChosen, act }: Bench, row: JoinRow | undefined, joins: readonly JoinRow[], kept: readonly PieceWord[], nick: () => Nick | undefined) {
  const now = () => live.body as Actuality
  const chooseNear = (at: Frames) => setChosen(cutNear(now(), at)?.at ?? null)
  const [fine, setFine] = useState<number>(() => Number(localStorage.joinStep ?? 1))
  const setStep = (by: 1 | -1) => {
    const next = clamp(fine + by, 0, STEPS.length - 1)
    localStorage.joinStep = String(next)
    setFine(next)
  }
  const { frames } = STEPS[fine]

  const move = (side: 'left' | 'right' | 'both', by: Frames) => {
    const cut = row && cuts(now().spans).find((one) => one.at === row.cut.at)
    if (!cut) return
    const tapeLength = factsOf(cut.left.tape).frames
    act(side === 'both' ? moveCut(now(), cut, by, tapeLength) : moveEdge(now(), cut, side, by, tapeLength), 'move the cut')
    chooseNear(side === 'right' ? cut.at : cut.at + by)
  }

  /** Edges where a hand put them, and back where they were placed. */
  const asGiven = () => {
    const asked = row?.cut.join.asked
    if (!row || !asked) return void toast('This join lies where a hand put it.')
    const { cut } = row
    act(setEdges(now(), cut, asked, { ...cut.join, heard: false, asked: { left: cut.left.to, right: cut.right.from, why: asked.why } }), 'edges as given')
    setChosen(cut.at + asked.left - cut.left.to)
  }

  const others: OtherPlaces | null = useMemo(() => (row ? otherPlaces(row.cut, wordsOf(row.cut.left.tape)) : null), [row, wordsOf])
  /** Cuts at the next word that is the same on both sides, and plays it. */
  const elsewhere = async (way: 'earlier' | 'later') => {
    const edges = others?.[way]
    if (!row || !edges) return void toast('Only where the same words are said twice can the cut lie at another of them.')
    const { asked: _, ...join } = row.cut.join
    const rough = setEdges(now(), row.cut, edges, { ...join, heard: false })
    const at = row.cut.at + edges.left - row.cut.left.to
    await live.actAtOnce(rough as AnyStep[], { label: `cut one word ${way}` }, withPlacedJoins(now(), rough, [at], factsOf, wordsOf) as Promise<AnyStep[]>)
    const cut = cutNear(now(), at)
    if (!cut) return
    setChosen(cut.at)
    player.load(owner, piecePlan(now(), factsOf))
    void player.play(Math.max(0, cut.at - 2 * RATE), cut.at + 1.5 * RATE)
  }

  /** Longer or shorter gaps at the cuts that are selected, or at the one that is worked on. */
  const gap = (by: Frames) => {
    const places = selected ? joins.filter(({ cut }) => cut.at > selected.from && cut.at < selected.to).map(({ cut }) => cut.at) : row ? [row.cut.at] : []
    if (!places.length) return void toast('Choose a join first: click one, or step with [ and ].')
    let piece = now()
    const steps: ActualityStep[] = []
    // the last first: what changes there moves none before it
    for (const at of places.reverse()) {
      const cut = cuts(piece.spans).find((one) => one.at === at)
      if (!cut) continue
      const [last, next] = [kept.filter((word) => word.end <= at + 1).at(-1), kept.find((word) => word.at >= at - 1)]
      const more = changeGap(piece, cut, by, { left: Math.max(0, at - (last?.end ?? 0)), right: Math.max(0, (next?.at ?? clipLength(piece)) - at) })
      piece = applyAll(actualityType, piece, more)
      steps.push(...more)
    }
    if (!steps.length) return void toast('No word can be moved any closer.', { duration: 1500 })
    act(steps, by > 0 ? 'longer gap' : 'shorter gap')
    if (places.length === 1) chooseNear(places[0])
  }

  const hold = () => {
    const here = nick()
    if (!here) return void toast('Choose a nick first: click one, or step with [ and ].')
    act(holdOrClose(now(), here), here.held ? 'close up' : 'hold time')
    setChosen(here.at)
  }

  const commands = {
    'join.asGiven': asGiven,
    'join.wordEarlier': () => void elsewhere('earlier'),
    'join.wordLater': () => void elsewhere('later'),
    'join.gapShorter': () => gap(-GAP),
    'join.gapLonger': () => gap(GAP),
    'join.hold': hold,
    'join.coarser': () => setStep(-1),
    'join.finer': () => setStep(1),
    'join.leftEarlier': () => move('left', -frames),
    'join.leftLater': () => move('left', frames),
    'join.rightEarlier': () => move('right', -frames),
    'join.rightLater': () => move('right', frames),
    'join.cutEarlier': () => move('both', -frames),
    'join.cutLater': () => move('both', frames),
  }
  return { move, others, step: STEPS[fine].name, commands }
}

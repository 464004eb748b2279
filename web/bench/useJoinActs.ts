import { useEffect, useMemo, useState } from 'react'
import { toast } from 'sonner'
import type { AnyStep } from '../../contract/documents'
import { joinOf } from '../../core/cuts/inPiece'
import { nearPlaces } from '../../core/cuts/nearPlaces'
import { otherPlaces } from '../../core/cuts/otherPlaces'
import type { Prediction } from '../../core/cuts/predict'
import { actualityType, clipLength, type Actuality, type ActualityStep } from '../../core/edits/actuality'
import { moveCut, moveEdge, setEdges, type Nick } from '../../core/edits/acts'
import { cuts, type Cut } from '../../core/edits/editList'
import { changeGap, changePause, holdOrClose } from '../../core/edits/gaps'
import { piecePlan } from '../../core/page/plan'
import { applyAll } from '../../core/steps/document'
import { clamp, milliseconds, RATE, type Frames, type Stretch } from '../../core/time'
import { player } from '../sound/player'
import { nearZero } from '../sound/samples'
import type { Bench } from './bench'
import type { JoinRow } from './benchSheet'
import { withPlacedJoins } from './placedJoins'
import { placeCut } from './placing'

/** By how much a key changes a gap. */
const GAP = milliseconds(50)

/** By how much a key moves an edge. */
const STEPS = [
  { frames: milliseconds(20), name: '20 ms' },
  { frames: milliseconds(5), name: '5 ms' },
  { frames: milliseconds(1), name: '1 ms' },
  { frames: 1, name: 'a sample' },
]

/** What masks a join comes this soon after the word before it. */
const MASKED_GAP = milliseconds(60)
/** From this on a join is rough enough for something better to be looked for near it, and only what is better by so much is offered. */
const ROUGH = 0.35
const BETTER = 0.1
/** A hand that works comes first. */
const LOOK_AFTER_MS = 600

/** A place for a cut one word away. */
interface Offer {
  left: Frames
  right: Frames
  /** What is then said otherwise: "with “the”", "without “the”"; empty where the same words are heard. */
  changes: string
}

/** The cut of a piece that is nearest to a place. */
const cutNear = (piece: Actuality, at: Frames): Cut | undefined =>
  cuts(piece.spans).reduce<Cut | undefined>((best, one) => (!best || Math.abs(one.at - at) < Math.abs(best.at - at) ? one : best), undefined)

interface AtJoin {
  /** The join that is worked on, how likely it is to be heard, and what was taken out there. */
  row: JoinRow | undefined
  judged: Prediction | undefined
  nick: () => Nick | undefined
  joins: readonly JoinRow[]
  /** Edges are held to quiet zero crossings. */
  hold: boolean
}

/** What is done to joins that are there: moved, placed otherwise, their gaps changed. */
export function useJoinActs({ owner, live, factsOf, wordsOf, kept, selected, setChosen, act }: Bench, { row, judged, nick, joins, hold }: AtJoin) {
  const now = () => live.body as Actuality
  const chooseNear = (at: Frames) => setChosen(cutNear(now(), at)?.at ?? null)
  const [fine, setFine] = useState<number>(() => Number(localStorage.joinStep ?? 1))
  const setStep = (by: 1 | -1) => {
    const next = clamp(fine + by, 0, STEPS.length - 1)
    localStorage.joinStep = String(next)
    setFine(next)
  }
  const { frames } = STEPS[fine]

  const move = async (side: 'left' | 'right' | 'both', wanted: Frames) => {
    const cut = row && cuts(now().spans).find((one) => one.at === row.cut.at)
    if (!cut) return
    const tapeLength = factsOf(cut.left.tape).frames
    // a sample is a sample
    const by = hold && Math.abs(wanted) > 1 ? await toZero(side === 'right' ? cut.right : cut.left, side === 'right' ? cut.right.from : cut.left.to, wanted) : wanted
    act(side === 'both' ? moveCut(now(), cut, by, tapeLength) : moveEdge(now(), cut, side, by, tapeLength), 'move the cut')
    chooseNear(side === 'right' ? cut.at : cut.at + by)
  }

  /** A move that ends on a quiet zero crossing; as it was wanted where there is none but the one it began on. */
  const toZero = async ({ tape, sound }: Cut['left'], frame: Frames, by: Frames): Promise<Frames> => {
    const found = sound === 'tape' ? (await nearZero(factsOf(tape), frame + by)) - frame : by
    return found === 0 ? by : found
  }

  /** Edges where a hand put them, and back where they were placed. */
  const asGiven = () => {
    const asked = row?.cut.join.asked
    if (!row || !asked) return void toast('This join lies where a hand put it.')
    const { cut } = row
    act(setEdges(now(), cut, asked, { ...cut.join, heard: false, asked: { left: cut.left.to, right: cut.right.from, why: asked.why } }), 'edges as given')
    setChosen(cut.at + asked.left - cut.left.to)
  }

  const words = row && wordsOf(row.cut.left.tape)
  const same = useMemo(() => (row && words ? otherPlaces(row.cut, words) : null), [row, words])
  /** Better places that change what is said by a word, once they are known. */
  const [near, setNear] = useState<{ cut: Cut; earlier: Offer | null; later: Offer | null } | null>(null)
  const heard = judged?.heard ?? 0
  useEffect(() => {
    if (!row || !words || heard < ROUGH) return
    let stopped = false
    const best = async (way: 'earlier' | 'later'): Promise<Offer | null> => {
      const order = joinOf(row.cut)
      let found: (Offer & { heard: number }) | null = null
      for (const { left, right, word, said } of order ? nearPlaces(row.cut, words)[way] : []) {
        const placed = await placeCut({ ...order!, left: { ...order!.left, asked: left }, right: { ...order!.right, asked: right } }, factsOf, wordsOf)
        if (placed && placed.heard < Math.min(heard - BETTER, found?.heard ?? 1)) found = { left, right, heard: placed.heard, changes: `${said ? 'with' : 'without'} “${word}”` }
      }
      return found
    }
    const timer = setTimeout(async () => {
      const found = { cut: row.cut, earlier: await best('earlier'), later: await best('later') }
      if (!stopped) setNear(found)
    }, LOOK_AFTER_MS)
    return () => {
      stopped = true
      clearTimeout(timer)
    }
  }, [row, words, heard, factsOf, wordsOf])
  const offerOf = (way: 'earlier' | 'later'): Offer | null => {
    const edges = same?.[way]
    return edges ? { ...edges, changes: '' } : near && near.cut === row?.cut ? near[way] : null
  }
  const others = { earlier: offerOf('earlier'), later: offerOf('later') }

  const playAcross = (at: Frames) => {
    player.load(owner, piecePlan(now(), factsOf))
    void player.play(Math.max(0, at - 2 * RATE), at + 1.5 * RATE)
  }

  /** Cuts one word away, where that is better, and plays it. */
  const elsewhere = async (way: 'earlier' | 'later') => {
    const edges = others[way]
    if (!row || !edges) return void toast('No better place lies one word away: the same words are not said twice there, and no other cut would be heard less.')
    const { asked: _, ...join } = row.cut.join
    const rough = setEdges(now(), row.cut, edges, { ...join, heard: false })
    const at = row.cut.at + edges.left - row.cut.left.to
    await live.actAtOnce(rough as AnyStep[], { label: `cut one word ${way}` }, withPlacedJoins(now(), rough, [at], factsOf, wordsOf) as Promise<AnyStep[]>)
    const cut = cutNear(now(), at)
    if (!cut) return
    setChosen(cut.at)
    playAcross(cut.at)
  }

  /** How much lies free between a cut and the words beside it. */
  const freeAt = (piece: Actuality, at: Frames) => {
    const [last, next] = [kept.filter((word) => word.end <= at + 1).at(-1), kept.find((word) => word.at >= at - 1)]
    return { left: Math.max(0, at - (last?.end ?? 0)), right: Math.max(0, (next?.at ?? clipLength(piece)) - at) }
  }
  const gapAt = (at: Frames): Frames => {
    const { left, right } = freeAt(now(), at)
    return left + right
  }
  /** Whether what is rough at the join that is worked on could be masked. */
  const masks = row !== undefined && heard >= ROUGH && gapAt(row.cut.at) > 2 * MASKED_GAP
  /** The next phrase comes sooner, so that the ear goes on with it. */
  const mask = () => {
    const cut = row && cuts(now().spans).find((one) => one.at === row.cut.at)
    if (!cut) return void toast('Choose a join first: click one, or step with [ and ].')
    const steps = changeGap(now(), cut, MASKED_GAP - gapAt(cut.at), freeAt(now(), cut.at))
    if (gapAt(cut.at) <= MASKED_GAP || !steps.length) return void toast('The next phrase follows at once already.')
    act(steps, 'the next phrase sooner')
    chooseNear(cut.at)
    const at = cutNear(now(), cut.at)?.at
    if (at !== undefined) playAcross(at)
  }

  /** The longest stretch of what is selected in which nobody speaks. */
  const pauseIn = ({ from, to }: Stretch): Stretch | null => {
    const edges = [from, ...kept.filter((word) => word.end > from && word.at < to).flatMap(({ at, end }) => [at, end]), to]
    let best: Stretch | null = null
    for (let i = 0; i < edges.length; i += 2) {
      const pause = { from: Math.max(from, edges[i]), to: Math.min(to, edges[i + 1]) }
      if (pause.to > pause.from && (!best || pause.to - pause.from > best.to - best.from)) best = pause
    }
    return best
  }

  /** Longer or shorter gaps at the cuts that are selected, or at the one that is worked on. */
  const gap = (by: Frames) => {
    const within = selected ? joins.filter(({ cut }) => cut.at > selected.from && cut.at < selected.to) : row ? [row] : []
    // room tone has a join on either side, and is one gap
    const places = within.filter(({ cut }, i) => !(cut.right.sound === 'tone' && within[i + 1]?.cut.left === cut.right)).map(({ cut }) => cut.at)
    const pause = selected && !places.length ? pauseIn(selected) : null
    if (pause) {
      const steps = changePause(now(), pause, by)
      if (!steps.length) return void toast('That pause is as short as it may be.', { duration: 1500 })
      return act(steps, by > 0 ? 'longer pause' : 'shorter pause')
    }
    if (!places.length) return void toast('Choose a join first, with [ and ], or select a pause.')
    let piece = now()
    const steps: ActualityStep[] = []
    // the last first: what changes there moves none before it
    for (const at of places.reverse()) {
      const cut = cuts(piece.spans).find((one) => one.at === at)
      if (!cut) continue
      const more = changeGap(piece, cut, by, freeAt(piece, at))
      piece = applyAll(actualityType, piece, more)
      steps.push(...more)
    }
    if (!steps.length) return void toast('No word can be moved any closer.', { duration: 1500 })
    act(steps, by > 0 ? 'longer gap' : 'shorter gap')
    if (places.length === 1) chooseNear(places[0])
  }

  const holdOrCloseUp = () => {
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
    'join.gapLess': () => gap(-frames),
    'join.gapMore': () => gap(frames),
    'join.mask': mask,
    'join.hold': holdOrCloseUp,
    'join.coarser': () => setStep(-1),
    'join.finer': () => setStep(1),
    'join.leftEarlier': () => void move('left', -frames),
    'join.leftLater': () => void move('left', frames),
    'join.rightEarlier': () => void move('right', -frames),
    'join.rightLater': () => void move('right', frames),
    'join.cutEarlier': () => void move('both', -frames),
    'join.cutLater': () => void move('both', frames),
  }
  return { move: (side: 'left' | 'right' | 'both', by: Frames) => void move(side, by), others, masks, gapAt, step: STEPS[fine], commands }
}

import { toast } from 'sonner'
import type { Prediction } from '../../../core/cuts/predict'
import { clipLength } from '../../../core/edits/actuality'
import type { Nick } from '../../../core/edits/gone'
import { edits, type Edit } from '../../../core/edits/editList'
import { naturalGap } from '../../../core/cuts/rhythm'
import { changeGap, changeGaps, changePause, freeBeside, holdOrClose, pauseWithin, setGap } from '../../../core/edits/gaps'
import { piecePlan } from '../../../core/page/plan'
import { milliseconds, type Frames } from '../../../core/time'
import { keysInWords } from '../../commands/keys'
import type { Bench } from '../bench'
import { playAcross } from '../playing'
import { cutNear } from '../cutNear'
import type { JoinRow } from '../benchSheet'
import { MAY_BE_AUDIBLE } from '../../joins/Judgement'

/** By how much a key changes a gap. */
const GAP = milliseconds(50)
/** What masks a join comes this soon after the word before it. */
const MASKED_GAP = milliseconds(60)

interface AtGaps {
  /** The join that is worked on, how likely it is to be heard, and what was taken out there. */
  row: JoinRow | undefined
  judged: Prediction | undefined
  nick: () => Nick | undefined
  joins: readonly JoinRow[]
  /** By how much an edge is moved. */
  step: Frames
}

/** The gaps between words, at joins and in pauses that nobody cut. */
export function useGapActs(
  { owner, live, factsOf, wordsOf, kept, selected, setChosen, act }: Bench,
  { row, judged, nick, joins, step }: AtGaps,
) {
  const now = () => live.body
  const chooseNear = (at: Frames): Frames | null => {
    const near = cutNear(now(), at)?.at ?? null
    setChosen(near)
    return near
  }
  const free = (edit: Edit) => freeBeside(kept, edit, clipLength(now()))
  const gapAt = (edit: Edit): Frames => free(edit).left + edit.room + free(edit).right

  /** Longer or shorter at the joins that are selected, or in the pause; else at the join that is worked on. */
  const gap = (by: Frames) => {
    const within = selected ? joins.filter(({ cut }) => cut.at > selected.from && cut.at < selected.to) : row ? [row] : []
    const pause = selected && !within.length ? pauseWithin(kept, selected) : null
    if (pause) {
      const steps = changePause(now(), pause, by)
      if (!steps.length) return void toast('The pause can’t get any shorter.', { duration: 1500 })
      return act(steps, by > 0 ? 'longer pause' : 'shorter pause')
    }
    if (!within.length) return void toast(`Choose a join with ${keysInWords('join.previous', 'join.next')}, or select a pause.`)
    const places = new Set(within.map(({ cut }) => cut.at))
    const steps = changeGaps(
      now(),
      edits(now().spans).filter(({ at }) => places.has(at)),
      by,
      kept,
    )
    if (!steps.length) return void toast('The gap can’t get any shorter.', { duration: 1500 })
    act(steps, by > 0 ? 'longer gap' : 'shorter gap')
    if (within.length === 1) chooseNear(within[0].cut.at)
  }

  /** The gap at the join that is worked on, as a figure. */
  const setTo = (length: Frames) => {
    const cut = row && edits(now().spans).find((one) => one.at === row.cut.at)
    if (!cut) return void toast(`Choose a join with ${keysInWords('join.previous', 'join.next')}.`)
    const steps = setGap(now(), cut, length, free(cut))
    if (!steps.length) return void toast('The gap can’t get any shorter.', { duration: 1500 })
    act(steps, 'gap')
    chooseNear(cut.at)
  }

  /** What this speaker leaves at such a place: at the join that is worked on, or in the pause that is selected. */
  const usual = () => {
    const pause = selected ? pauseWithin(kept, selected) : null
    const at = pause ?? (row && { from: row.cut.at, to: row.cut.at + row.cut.room })
    const before = at && kept.filter(({ end }) => end <= at.from + 1).at(-1)
    const after = at && kept.find((word) => word.at >= at.to - 1)
    if (!before || !after) return void toast('Choose a join between two words, or select a pause.')
    const silent = { sound: new Float32Array(0), start: 0 }
    const tapeWord = (word: typeof before) =>
      wordsOf(word.tape).find(({ from, speaker }) => from === word.from && speaker === word.speaker) ?? word
    const { natural } = naturalGap(
      tapeWord(before),
      tapeWord(after),
      { words: wordsOf(before.tape), ...silent },
      { words: wordsOf(after.tape), ...silent },
    )
    if (!pause) return setTo(natural)
    const steps = changePause(now(), pause, natural - (pause.to - pause.from))
    if (!steps.length) return void toast('That is already this speaker’s usual pause.', { duration: 1500 })
    act(steps, 'usual pause')
  }

  /** The next phrase comes sooner, so that the ear goes on with it. */
  const mask = () => {
    const cut = row && edits(now().spans).find((one) => one.at === row.cut.at)
    if (!cut) return void toast(`Choose a join first: click one, or press ${keysInWords('join.previous', 'join.next')}.`)
    const steps = changeGap(now(), cut, MASKED_GAP - gapAt(cut), free(cut))
    if (gapAt(cut) <= MASKED_GAP || !steps.length) return void toast('The next phrase already follows at once.')
    act(steps, 'the next phrase sooner')
    const at = chooseNear(cut.at)
    if (at !== null) playAcross(owner, piecePlan(now(), factsOf), at)
  }

  const holdOrCloseUp = () => {
    const here = nick()
    if (!here) return void toast(`Choose a join first: click one, or press ${keysInWords('join.previous', 'join.next')}.`)
    act(holdOrClose(now(), here), here.held ? 'close up' : 'hold time')
    setChosen(here.at)
  }

  return {
    gapAt,
    setTo,
    /** Whether what is rough at the join that is worked on could be masked. */
    masks: row !== undefined && (judged?.heard ?? 0) >= MAY_BE_AUDIBLE && gapAt(row.cut) > 2 * MASKED_GAP,
    commands: {
      'join.gapShorter': () => gap(-GAP),
      'join.gapLonger': () => gap(GAP),
      'join.gapLess': () => gap(-step),
      'join.gapMore': () => gap(step),
      'join.gapUsual': usual,
      'join.mask': mask,
      'join.hold': holdOrCloseUp,
    },
  }
}

import { useEffect, useMemo, useRef, useState } from 'react'
import { toast } from 'sonner'
import { actualityType, clipLength, type Actuality, type ActualityStep } from '../../core/edits/actuality'
import { slice } from '../../core/edits/editList'
import { evened, phrasesIn, speechBeside, withChanges, type Change, type Loud, type Phrase, type Said } from '../../core/edits/evenOut'
import { levelOff, shapeLevel } from '../../core/edits/levelLine'
import { addPoint, levelPoints, movePoint, removePoint } from '../../core/edits/levelPoints'
import { levelOfSide, levelSide, sideLevelsOff } from '../../core/edits/voices'
import { lineAt, type LevelPoint } from '../../core/sound/level'
import type { Plan } from '../../core/render/plan'
import { overEach } from '../../core/edits/several'
import { applyAll } from '../../core/steps/document'
import { milliseconds, type Frames, type Stretch } from '../../core/time'
import { loudnessOf } from '../sound/hear'
import { player } from '../sound/player'
import { useKept } from '../ui/useKept'
import { LevelPanel } from './LevelPanel'
import { useMeasured } from './useMeasured'

/** What levels are set on: a piece, or a tape as a piece of all of it. Places are frames of it. */
export interface Levelled {
  /** By whom what plays is known. */
  owner: string
  piece: Actuality
  /** The piece at this moment, which may be ahead of what is shown. */
  now: () => Actuality
  plan: Plan
  planOf: (piece: Actuality) => Plan
  /** The words that are heard, in order. */
  kept: readonly Said[]
  selected: Stretch | null
  /** All passages that are chosen, in order. */
  passages: readonly Stretch[]
  place: () => Frames
  goTo: (place: Frames) => void
  act: (steps: ActualityStep[], label: string) => void
  /** What plays is what is edited, not what it is compared with. */
  asEdited: () => void
  /** The side that levels address; null for all of them. */
  side: { index: number; name: string } | null
  /** Below how many hertz what is selected is cut, where a passage can be. */
  lowCut?: { hertz: number | null; set: (hertz: number | null) => void }
  /** The gain of all of it, where it has one. */
  gain?: { value: number; set: (dB: number) => void }
  /** Copies the line to the tape; absent where it is the tape's own. */
  onTape?: () => void
}

/** By how much a key changes a level, in dB, and moves a point. */
const STEP = 1.5
const POINT_STEP: Frames = milliseconds(10)
/** The playhead stands on a point within this. */
const AT_POINT: Frames = milliseconds(1)
/** A breath is turned down by this unless somebody wants another figure, in dB, and never to nothing. */
const BREATH = { usual: 9, least: 1, most: 24 }
/** What is suggested is heard with this much around it. */
const AROUND: Frames = milliseconds(2500)
const NO_PASSAGE = 'Select a passage first, or go to a level point.'

const breathNow = (): number => Math.min(BREATH.most, Math.max(BREATH.least, Number(localStorage.breath ?? BREATH.usual) || BREATH.usual))

/** Levels: of what is selected, of single points, of a phrase against its neighbours, and of all of it. */
export function useLevels({
  owner,
  piece,
  now,
  plan,
  planOf,
  kept,
  selected,
  passages,
  place,
  goTo,
  act,
  asEdited,
  side,
  lowCut,
  gain,
  onTape,
}: Levelled) {
  const [open, setOpen] = useKept<'to type' | 'to see' | null>(`${owner}/levels`, null)
  const [suggestion, setSuggested] = useState<{ changes: Change[]; over: Stretch; of: Actuality['spans'] } | null>(null)
  // what was suggested for a piece that has changed since is none
  const suggested = suggestion?.of === piece.spans ? suggestion : null
  const [breath, setBreath] = useState(breathNow)

  const whole = useMeasured(open && gain ? plan : null, 0, plan.length)
  const part = useMeasured(open && selected ? plan : null, selected?.from ?? 0, selected?.to ?? 0)

  const trial = useMemo(
    () => (suggested ? planOf(applyAll(actualityType, piece, withChanges(piece, suggested.changes))) : null),
    [suggested, piece, planOf],
  )
  useEffect(() => {
    if (!suggested || !trial) return
    player.load(owner, trial)
    void player.play(Math.max(0, suggested.over.from - AROUND), Math.min(trial.length, suggested.over.to + AROUND))
    // once for each suggestion
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [suggested])
  const forget = () => {
    player.stop()
    player.load(owner, plan)
    setSuggested(null)
  }

  // what is selected
  const shape = (of: (dB: number) => number, label: string) => {
    if (!passages.length) return void toast('Select a passage to change its level.')
    if (side)
      act(
        overEach(now(), passages, (on, stretch) => levelSide(on, stretch, side.index, of)),
        `${label}, ${side.name}`,
      )
    else
      act(
        overEach(now(), passages, (on, stretch) => shapeLevel(on, stretch, of)),
        label,
      )
  }
  const off = () => {
    const over = passages.length ? passages : [{ from: 0, to: clipLength(now()) }]
    act(
      overEach(now(), over, (on, stretch) => [...levelOff(on, stretch), ...sideLevelsOff(on, stretch)]),
      'level as recorded',
    )
    if (!passages.length) toast('All level lines removed.', { duration: 2000 })
  }

  // single points: the one that the playhead stands on is meant
  const pointHere = (): LevelPoint | undefined => levelPoints(now()).find(({ at }) => Math.abs(at - place()) <= AT_POINT)
  const setPoint = (at: Frames, to: LevelPoint, label: string) => {
    act(movePoint(now(), at, to), label)
    // it may not go as far as it was told to
    const there = levelPoints(now()).reduce<LevelPoint | undefined>(
      (best, one) => (!best || Math.abs(one.at - to.at) < Math.abs(best.at - to.at) ? one : best),
      undefined,
    )
    if (there) goTo(there.at)
  }
  const movePointBy = (by: Frames) => {
    const point = pointHere()
    if (point) setPoint(point.at, { at: point.at + by, dB: point.dB }, 'move a level point')
  }
  const louder = (by: number, label: string) => {
    const point = passages.length ? undefined : pointHere()
    if (point) setPoint(point.at, { at: point.at, dB: point.dB + by }, label)
    else shape((dB) => dB + by, label)
  }
  const add = () => {
    const at = place()
    const steps = addPoint(now(), at)
    if (!steps.length) return void toast(pointHere() ? 'A level point is here already.' : 'There is no tape here to set a level on.')
    act(steps, 'add a level point')
    setOpen(open ?? 'to see')
    goTo(at)
  }
  const toPoint = (by: 1 | -1) => {
    const points = levelPoints(now())
    const next = by > 0 ? points.find(({ at }) => at > place() + AT_POINT) : points.filter(({ at }) => at < place() - AT_POINT).at(-1)
    if (next) goTo(next.at)
    else
      toast(points.length ? `No level point ${by > 0 ? 'after' : 'before'} the playhead.` : 'There is no level point yet.', {
        duration: 1500,
      })
  }
  const remove = () => {
    const point = pointHere()
    if (point) act(removePoint(now(), point.at), 'remove a level point')
  }

  // a phrase against its neighbours
  /** Each asking is a turn: an older one that is still listening suggests nothing more. */
  const evening = useRef(0)
  const even = async () => {
    if (!selected) return void toast('Select a phrase to compare with what the same speaker says around it.')
    const turn = ++evening.current
    asEdited()
    setOpen(open ?? 'to see')
    try {
      // one after the other: each is listened to by a worker of its own
      const phrases: (Phrase & Loud)[] = []
      for (const phrase of phrasesIn(kept, selected)) phrases.push({ ...phrase, loudness: await loudnessOf(plan, phrase.speech) })
      const neighbours: Loud[] = []
      for (const one of speechBeside(kept, selected, clipLength(piece)))
        neighbours.push({ speaker: one.speaker, loudness: await loudnessOf(plan, one) })
      if (turn !== evening.current) return
      const changes = evened(phrases, neighbours)
      if (!changes.length)
        return void toast(
          phrases.some((one) => Number.isFinite(one.loudness))
            ? 'It is already as loud as the speech around it.'
            : 'That is too short or too quiet to measure: select a phrase.',
        )
      setSuggested({ changes, over: selected, of: piece.spans })
    } catch {
      toast.error('The loudness could not be measured.')
    }
  }
  const take = (): boolean => {
    if (!suggested) return false
    act(withChanges(now(), suggested.changes), 'even out')
    forget()
    return true
  }

  /** The level at the middle of what is selected, in dB; null where there is none to set. */
  const levelThere = (): number | null => {
    if (!selected) return null
    if (side) return levelOfSide(piece, selected, side.index)
    const middle = Math.floor((selected.from + selected.to) / 2)
    const [span] = slice(piece.spans, middle, middle + 1)
    return span?.sound === 'tape' ? Math.round(10 * lineAt(span.level ?? [], span.from)) / 10 : null
  }
  const here = pointHere()
  const panel = open && (
    <LevelPanel
      typing={open === 'to type'}
      chosen={levelThere()}
      of={side?.name ?? null}
      measured={part === 'failed' ? null : part}
      onChosen={(dB) => shape(() => dB, 'level')}
      lowCut={lowCut}
      point={here ?? null}
      onPoint={(to) => {
        const point = pointHere()
        if (point) setPoint(point.at, to, 'move a level point')
      }}
      suggested={suggested?.changes ?? null}
      onEven={() => void even()}
      onTake={take}
      onNotTake={forget}
      breath={breath}
      onBreath={(dB) => {
        localStorage.breath = String(dB)
        setBreath(breathNow())
      }}
      gain={gain && { ...gain, figures: whole && whole !== 'failed' ? whole : null }}
      onTape={onTape}
      onClose={() => {
        if (suggested) forget()
        setOpen(null)
      }}
    />
  )

  const named = (title: string) => (!passages.length && here ? `${title}, this level point` : side ? `${title}, ${side.name}` : title)
  const unable = passages.length || here ? null : NO_PASSAGE
  const noPoint = here ? null : 'There is no level point at the playhead.'
  const commands = {
    'level.softer': { run: () => louder(-STEP, 'softer'), title: named('Level down 1.5 dB'), unable },
    'level.louder': { run: () => louder(STEP, 'louder'), title: named('Level up 1.5 dB'), unable },
    'level.breath': () => shape((dB) => dB - breath, 'turn a breath down'),
    'level.off': off,
    'level.open': { run: () => setOpen(open ? null : 'to type'), on: open !== null },
    'level.even': () => void even(),
    'level.pointAdd': add,
    'level.pointBack': () => toPoint(-1),
    'level.pointOn': () => toPoint(1),
    'level.pointEarlier': { run: () => movePointBy(-POINT_STEP), unable: noPoint },
    'level.pointLater': { run: () => movePointBy(POINT_STEP), unable: noPoint },
    'level.pointRemove': { run: remove, unable: noPoint },
    ...(onTape ? { 'level.onTape': onTape } : {}),
  }
  return {
    panel,
    /** Applies what is suggested; false where nothing is. */
    take,
    /** Lets go of what is suggested, which is what plays; null where nothing is. */
    letGo: suggested && forget,
    trying: suggested !== null,
    /** A point of the line was drawn to another place. */
    movePoint: (at: Frames, to: LevelPoint) => act(movePoint(now(), at, to), 'move a level point'),
    commands,
  }
}

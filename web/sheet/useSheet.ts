import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import type { Plan } from '../../core/render/plan'
import { pausesAround } from '../../core/tape/pauses'
import { clamp, milliseconds, RATE, toFrames, type Frames, type Stretch } from '../../core/time'
import { useCommands } from '../commands/commands'
import { player } from '../sound/player'
import { keptNow } from '../ui/useKept'
import { usePlaying } from '../sound/usePlayer'
import type { SheetLook, SheetWord } from './paint/model'
import { WAVE_HEIGHTS } from './paint/model'
import { filling } from './filling'
import type { SheetHandle } from './props'
import { zoomStep } from './zoom'
import { united } from '../../core/stretches'

/** What a Sheet of a tape and one of a piece have in common: looking, playing, selecting. */

interface SheetSetup {
  owner: string
  length: Frames
  words: readonly SheetWord[]
  /** What plays, and how places on the Sheet lie on it. */
  plan: Plan
  toPlan: (frame: Frames) => Frames
  fromPlan: (position: Frames) => Frames
  /** The nearest quiet zero crossing. */
  nearZero: (frame: Frames) => Promise<Frames>
  /** Where somebody speaks; by the words where it is not given. */
  speech?: readonly Stretch[]
  /** How it is looked at before anybody chose. `fill`: what is short has taller and wider lines, so that it uses its space. */
  begin: { framesPerLine: Frames; even: boolean; fill?: boolean }
}

/** Within this a view has all that stands around its Sheet. */
const SETTLING_MS = 1500

export function useSheet({ owner, length, words, plan, toPlan, fromPlan, nearZero, speech, begin: first }: SheetSetup) {
  const handle = useRef<SheetHandle>(null)
  const [look, setLookState] = useState<SheetLook>(
    () =>
      keptNow.get<SheetLook | null>(`${owner}/look`, null) ?? {
        framesPerLine: first.framesPerLine,
        even: first.even,
        waveHeight: Number(localStorage.waveHeight ?? 44),
      },
  )
  // what is short fills its screen, as long as nobody looked at it otherwise
  useEffect(() => {
    if (!first.fill) return
    const begun = look
    const since = performance.now()
    let height = 0
    let wanted = begun
    let frame = requestAnimationFrame(function fill() {
      const surface = handle.current?.surface
      // what stands around it comes a moment later, and takes its room
      if (performance.now() - since < SETTLING_MS) frame = requestAnimationFrame(fill)
      if (!surface?.viewHeight || keptNow.get(`${owner}/look`, null)) return
      if (surface.viewHeight !== height) {
        height = surface.viewHeight
        wanted = filling(begun, length, height, surface.pitch - surface.look.waveHeight)
        setLookState(wanted)
      } else if (wanted !== begun && surface.look === wanted && surface.layout.lines.length > Math.ceil(length / wanted.framesPerLine)) {
        // words that take more room than their time: no lonely end of a line
        wanted = { ...wanted, framesPerLine: Math.round(wanted.framesPerLine * 1.04) }
        setLookState(wanted)
      }
    })
    return () => cancelAnimationFrame(frame)
    // once, on coming here: what one works on does not jump about
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [owner])
  const lookBefore = useRef<SheetLook[]>([])
  const [selection, setSelection] = useState<Stretch | null>(null)
  /** Passages that were chosen before the one that is being selected now. */
  const [also, setAlso] = useState<readonly Stretch[]>([])
  const cleared = useRef<{ selection: Stretch | null; also: readonly Stretch[] } | null>(null)
  const [hold, setHold] = useState(localStorage.hold === 'yes')
  const markedIn = useRef<Frames | null>(null)
  const playing = usePlaying(owner)
  const resting = useRef<Frames>(keptNow.get(`${owner}/place`, 0))

  const setLook = useCallback(
    (next: SheetLook) => {
      keptNow.set(`${owner}/look`, next)
      setLookState(next)
    },
    [owner],
  )

  const place = useCallback(
    (): Frames => (player.playing && player.owner === owner ? fromPlan(player.position) : resting.current),
    [owner, fromPlan],
  )

  // where it stopped is where it stands, unless it is to come back
  const comeBackTo = useRef<Frames | null>(null)
  const wasPlaying = useRef(false)
  useEffect(() => {
    if (wasPlaying.current && !playing && player.owner === owner) {
      setPlace(comeBackTo.current ?? fromPlan(player.position))
      comeBackTo.current = null
    }
    wasPlaying.current = playing
  })
  useEffect(() => () => void (player.owner === owner && player.stop()), [owner])

  const [, redraw] = useState(0)
  const setPlace = useCallback(
    (frame: Frames) => {
      resting.current = clamp(Math.round(frame), 0, length)
      keptNow.set(`${owner}/place`, resting.current)
      player.prefetch(owner, toPlan(resting.current))
      redraw((count) => count + 1)
    },
    [owner, length, toPlan],
  )

  /** Stops, and stands somewhere else than where it stopped. */
  const stopAt = useCallback(
    (frame: Frames) => {
      if (player.playing && player.owner === owner) comeBackTo.current = frame
      player.stop()
      setPlace(frame)
    },
    [owner, setPlace],
  )

  const pauses = useMemo(() => {
    const spoken = speech ?? words.map(({ at, end }) => ({ from: at, to: end }))
    return spoken.length ? pausesAround(spoken, length).map(({ from, to }) => ({ from: toPlan(from), to: toPlan(to) })) : []
  }, [speech, words, length, toPlan])
  useEffect(() => player.setPauses(owner, pauses), [owner, pauses])

  const playFrom = useCallback(
    (frame: Frames, to?: Frames, again?: boolean) => {
      player.load(owner, plan)
      player.setPauses(owner, pauses)
      void player.play(toPlan(frame), to === undefined ? plan.length : toPlan(to), again)
    },
    [owner, plan, pauses, toPlan],
  )

  /** Sounds what a hand is drawn over, and takes the playhead along; null where it lets go. */
  const scrub = useCallback(
    (frame: Frames | null) => {
      if (frame === null) return player.scrub(null)
      player.load(owner, plan)
      player.scrub(toPlan(frame))
      setPlace(frame)
    },
    [owner, plan, toPlan, setPlace],
  )

  const goTo = useCallback(
    (frame: Frames, reveal = true) => {
      setPlace(frame)
      if (player.playing && player.owner === owner) playFrom(resting.current)
      if (reveal) handle.current?.reveal(resting.current)
    },
    [owner, playFrom, setPlace],
  )

  const latest = useRef({ selection, also })
  latest.current = { selection, also }
  /** A new passage is about to be selected: beside what is chosen already, or in its place. */
  const begin = useCallback((more: boolean) => {
    const { selection: last, also: before } = latest.current
    setAlso(more ? united([...before, ...(last && last.to > last.from ? [last] : [])]) : [])
    if (more) setSelection(null)
  }, [])
  /** Takes the passage at a frame off again; false where none is there. */
  const unchoose = useCallback((frame: Frames): boolean => {
    const { selection: last, also: before } = latest.current
    const here = (one: Stretch) => one.from <= frame && one.to > frame
    if (last && here(last)) {
      setSelection(before[before.length - 1] ?? null)
      setAlso(before.slice(0, -1))
    } else if (before.some(here)) setAlso(before.filter((one) => !here(one)))
    else return false
    return true
  }, [])

  const selected = useMemo(() => (selection && selection.to > selection.from ? selection : null), [selection])
  /** All that is chosen, in order, none over another. */
  const passages = useMemo(() => united(selected ? [...also, selected] : also), [also, selected])

  const settling = useRef(0)
  const select = useCallback(
    (next: Stretch | null) => {
      if (!next) {
        if (latest.current.selection || latest.current.also.length) cleared.current = latest.current
        setSelection(null)
        setAlso([])
        return
      }
      const from = clamp(Math.round(next.from), 0, length)
      const to = clamp(Math.round(next.to), from, length)
      setSelection({ from, to })
      if (!hold || to === from) return
      const turn = ++settling.current
      setTimeout(async () => {
        if (turn !== settling.current) return
        const [a, b] = await Promise.all([nearZero(from), nearZero(to)])
        if (turn === settling.current && b > a)
          setSelection((now) => (now && now.from === from && now.to === to ? { from: a, to: b } : now))
      }, 160)
    },
    [hold, length, nearZero],
  )

  /** Clears what is chosen, if it is still the same. */
  const chosenNow = useRef(passages)
  chosenNow.current = passages
  const deselect = useCallback(
    (stretches: readonly Stretch[]) => {
      const same =
        chosenNow.current.length === stretches.length &&
        chosenNow.current.every(({ from, to }, i) => from === stretches[i].from && to === stretches[i].to)
      if (same) select(null)
    },
    [select],
  )

  const nudge = (edge: 'from' | 'to', by: Frames) => {
    if (!selection) return
    const moved = { ...selection, [edge]: selection[edge] + by }
    if (moved.to > moved.from) setSelection({ from: clamp(moved.from, 0, length), to: clamp(moved.to, 0, length) })
  }

  const wordIndex = (frame: Frames): number => {
    const found = words.findIndex((word) => word.end > frame)
    return found < 0 ? words.length : found
  }

  /** The next place to stop at, by words where there are any. */
  const wordStep = (frame: Frames, by: 1 | -1): Frames => {
    if (!words.length) return clamp(frame + by * RATE * 0.25, 0, length)
    if (by > 0) {
      const next = words.find((word) => word.at > frame)
      return next ? next.at : length
    }
    let before = 0
    for (const word of words) if (word.at < frame) before = word.at
    return before
  }

  const extend = (to: (frame: Frames) => Frames, forwards: boolean) => {
    const now = selection ?? { from: place(), to: place() }
    // the end that is away from the playhead stays
    const moving = forwards ? to(now.to) : to(now.from)
    if (forwards) {
      const word = words[wordIndex(now.to)]
      select({ from: now.from, to: words.length && to === byWordOn ? (word ? word.end : length) : moving })
      handle.current?.reveal(Math.min(moving, length))
    } else {
      select({ from: moving, to: now.to })
      handle.current?.reveal(moving)
    }
  }
  const byWordOn = (frame: Frames) => wordStep(frame, 1)
  const byWordBack = (frame: Frames) => wordStep(frame, -1)

  const zoom = (next: SheetLook) => {
    lookBefore.current.push(look)
    setLook(next)
  }
  const surfaceHeight = () => handle.current?.surface
  const linesInView = () => {
    const surface = surfaceHeight()
    return surface ? Math.max(1, Math.floor((document.querySelector('main')?.clientHeight ?? 600) / surface.pitch) - 1) : 6
  }
  /** With so much a line all of it is on the screen. */
  const wholePerLine = (): Frames => Math.max(RATE, Math.ceil(length / linesInView()))
  const taller = (by: 1 | -1) => {
    const now = WAVE_HEIGHTS.findIndex((height) => height >= look.waveHeight)
    const waveHeight = WAVE_HEIGHTS[clamp(now + by, 0, WAVE_HEIGHTS.length - 1)]
    localStorage.waveHeight = String(waveHeight)
    setLook({ ...look, waveHeight })
  }

  const zoomBack = () => {
    const before = lookBefore.current.pop()
    if (before) setLook(before)
  }
  const switchHold = () => {
    localStorage.hold = hold ? 'no' : 'yes'
    setHold(!hold)
  }

  const again = () => {
    if (!cleared.current) return
    setSelection(cleared.current.selection)
    setAlso(cleared.current.also)
  }

  useCommands({
    'play.toggle': () => (playing ? player.stop() : playFrom(place() >= length && player.speed > 0 ? 0 : place())),
    'play.back': () => goTo(place() - 2 * RATE),
    'play.forward': () => goTo(place() + 2 * RATE),
    'play.wordBack': () => goTo(byWordBack(place())),
    'play.wordOn': () => goTo(byWordOn(place())),
    'play.start': () => goTo(0),
    'play.end': () => goTo(length),
    'play.selection': () => selection && playFrom(selection.from, selection.to),
    'play.loop': () => (selection && selection.to > selection.from ? playFrom(selection.from, selection.to, true) : undefined),
    'play.follow': () => handle.current?.follow(),
    'select.in': () => {
      const at = place()
      markedIn.current = at
      select({ from: at, to: selection && selection.to > at ? selection.to : at })
    },
    'select.out': () => {
      const at = place()
      const from = markedIn.current ?? selection?.from ?? 0
      if (at > from) select({ from, to: at })
    },
    'select.wordLeft': () => extend(byWordBack, false),
    'select.wordRight': () => extend(byWordOn, true),
    'select.lineUp': () => extend((frame) => handle.current?.surface.frameByLine(frame, -1) ?? frame, false),
    'select.lineDown': () => extend((frame) => handle.current?.surface.frameByLine(frame, 1) ?? frame, true),
    'select.all': () => select({ from: 0, to: length }),
    'select.clear': () => select(null),
    'select.also': { run: () => begin(true), unable: passages.length ? null : 'Select a passage first.' },
    'select.again': { run: again, unable: cleared.current ? null : 'Nothing was cleared.' },
    'select.inEarlier': () => nudge('from', -milliseconds(10)),
    'select.inLater': () => nudge('from', milliseconds(10)),
    'select.outEarlier': () => nudge('to', -milliseconds(10)),
    'select.outLater': () => nudge('to', milliseconds(10)),
    'select.inEarlierFine': () => nudge('from', -milliseconds(1)),
    'select.inLaterFine': () => nudge('from', milliseconds(1)),
    'select.outEarlierFine': () => nudge('to', -milliseconds(1)),
    'select.outLaterFine': () => nudge('to', milliseconds(1)),
    'select.hold': { on: hold, run: switchHold },
    'view.zoomIn': () => setLook({ ...look, framesPerLine: zoomStep(look.framesPerLine, 'in', wholePerLine()) }),
    'view.zoomOut': () => setLook({ ...look, framesPerLine: zoomStep(look.framesPerLine, 'out', wholePerLine()) }),
    'view.zoomHome': () => zoom({ ...look, even: first.even, framesPerLine: Math.min(first.framesPerLine, wholePerLine()) }),
    'view.zoomSelection': () => {
      if (!selection || selection.to === selection.from) return
      zoom({ ...look, framesPerLine: clamp((selection.to - selection.from) / Math.max(1, linesInView() - 1), toFrames(1), toFrames(120)) })
      const { from } = selection
      requestAnimationFrame(() => handle.current?.reveal(from, true))
    },
    'view.zoomWhole': () => zoom({ ...look, even: true, framesPerLine: wholePerLine() }),
    'view.zoomBack': { unable: lookBefore.current.length ? null : 'It was not zoomed.', run: zoomBack },
    'view.even': { run: () => setLook({ ...look, even: !look.even }), on: look.even },
    'view.taller': () => taller(1),
    'view.lower': () => taller(-1),
  })

  /** Takes selection and playhead along when the document changes under them. */
  const follow = useCallback(
    (map: (frame: Frames, side?: 'before' | 'after') => Frames) => {
      setSelection((now) => {
        if (!now) return now
        // what is selected goes along with a passage that is moved, its end too
        const [from, to] = [map(now.from), map(now.to, 'before')]
        return to > from ? { from, to } : null
      })
      setAlso((now) => now.map((one) => ({ from: map(one.from), to: map(one.to, 'before') })).filter(({ from, to }) => to > from))
      resting.current = map(resting.current)
      keptNow.set(`${owner}/place`, resting.current)
    },
    [owner],
  )

  return {
    owner,
    handle,
    look,
    setLook,
    selection,
    passages,
    also,
    begin,
    unchoose,
    selected: passages.length === 1 ? passages[0] : selected,
    select,
    deselect,
    place,
    setPlace,
    goTo,
    playFrom,
    scrub,
    stopAt,
    playing,
    hold,
    follow,
  }
}

import { useCallback, useEffect, useImperativeHandle, useRef, useState, type PointerEvent, type ReactNode, type Ref } from 'react'
import { firstWhere } from '../../core/search'
import type { LevelPoint } from '../../core/sound/level'
import { clamp, RATE, type Frames, type Stretch } from '../../core/time'
import { useFrames } from '../sound/usePlayer'
import type { SheetLook, SheetModel } from './paint/model'
import { keptNow } from '../ui/useKept'
import { EndGrips } from './EndGrips'
import { Overview } from './Overview'
import { PassageGrip } from './PassageGrip'
import { inWords, mirrorWords } from './readAloud'
import { TOP } from './paint/metrics'
import type { Hit } from './paint/places'
import { SheetSurface } from './surface'
import { CommandKey } from '../commands/CommandButton'

/** A tape or a piece as lines of print. One selects in it, and acts. */

export interface SheetHandle {
  readonly surface: SheetSurface
  reveal(frame: Frames, centre?: boolean): void
  follow(): void
}

export interface SheetProps {
  ref?: Ref<SheetHandle>
  /** By what it is known which view is come back to. */
  owner: string
  label: string
  /** What is spoken there, as a language tag. */
  language: string
  model: SheetModel
  look: SheetLook
  onLook: (look: SheetLook) => void
  onSelect: (selection: Stretch | null) => void
  /** A new selection begins: beside what is chosen (`more`), or in its place. */
  onBegin: (more: boolean) => void
  /** A passage that is chosen was clicked to be chosen no more; false where none is there. */
  onUnchoose: (at: Frames) => boolean
  /** Where one clicked. */
  onPlace: (frame: Frames) => void
  /** A word twice, a phrase three times. */
  onNick?: (at: Frames) => void
  /** The playhead is drawn along; null where it is let go. */
  onScrub: (frame: Frames | null) => void
  /** A mark was dragged to another place. */
  onMoveMark?: (id: string, at: Frames) => void
  /** A point of a level line was dragged. */
  onMovePoint?: (at: Frames, to: LevelPoint) => void
  /** What is selected was drawn to another place. */
  onMovePassage?: (to: Frames) => void
  /** An end was drawn to another place; before 0, or past the length, where it was drawn out. */
  onMoveEnd?: (end: 'head' | 'tail', to: Frames) => void
  place: () => Frames
  playing: boolean
  /** What lies on the Sheet; its places are those of the surface. */
  children?: ReactNode
}

const EDGE_REACH = 6
const GRIP_REACH = 9
const AGAIN_MS = 420
const FEWEST_SECONDS = 1
const MOST_SECONDS = 120

/** Seconds a line, within what a Sheet can show. */
export const zoomed = (look: SheetLook, by: number): SheetLook => ({
  ...look,
  framesPerLine: Math.round(clamp(look.framesPerLine * by, FEWEST_SECONDS * RATE, MOST_SECONDS * RATE)),
})

type Drag = {
  from: Frames
  word: boolean
  moved: boolean
  more: boolean
  x: number
  y: number
  edge?: 'from' | 'to'
  mark?: string
  scrub?: boolean
  point?: Frames
}

export function Sheet({
  ref,
  owner,
  label,
  language,
  model,
  look,
  onLook,
  onSelect,
  onBegin,
  onUnchoose,
  onPlace,
  onNick,
  onScrub,
  onMoveMark,
  onMovePoint,
  onMovePassage,
  onMoveEnd,
  place,
  playing,
  children,
}: SheetProps) {
  const scroller = useRef<HTMLDivElement>(null)
  const shownModel = useRef(model)
  shownModel.current = model
  const spacer = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const head = useRef<HTMLDivElement>(null)
  const mirror = useRef<HTMLDivElement>(null)
  const [surface, setSurface] = useState<SheetSurface | null>(null)
  const following = useRef(true)
  const [away, setAway] = useState(false)
  const drag = useRef<Drag | null>(null)
  const placeGrip = useRef<() => void>(null)
  const placeEnds = useRef<() => void>(null)
  const placeOverview = useRef<() => void>(null)
  /** Pointers do not count their taps as mice count clicks. */
  const taps = useRef({ count: 0, time: 0, at: { x: 0, y: 0 } })
  const latest = useRef({ model, look, onLook })
  latest.current = { model, look, onLook }

  useEffect(() => {
    const made = new SheetSurface(scroller.current!, spacer.current!, canvas.current!)
    made.look = latest.current.look
    made.show(latest.current.model)
    // where one left it
    made.setLook(made.look, { frame: keptNow.get(`${owner}/top`, 0), y: TOP })
    setSurface(made)
    return () => made.close()
  }, [owner])
  useEffect(() => surface?.show(model), [surface, model])

  useEffect(() => {
    if (surface && surface.look !== look) surface.setLook(look)
  }, [surface, look])

  useImperativeHandle(
    ref,
    () => ({
      surface: surface!,
      reveal: (frame, centre) => surface?.reveal(frame, centre),
      follow: () => {
        following.current = true
        setAway(false)
        surface?.reveal(place(), true)
      },
    }),
    [surface, place],
  )

  const headHeight = (on: SheetSurface) => on.look.waveHeight + (model.words.length ? 38 : 10)

  // the playhead is a line of its own, so that it moves without painting the sheet again
  const movePlayhead = () => {
    if (!surface || !head.current || !surface.layout.lines.length) return
    const frame = place()
    if (playing && following.current) surface.follow(frame)
    const { x, y } = surface.placeOf(frame)
    head.current.style.transform = `translate(${x - 1}px, ${y - 5}px)`
    head.current.style.height = `${headHeight(surface)}px`
  }
  useFrames(movePlayhead, playing)
  useEffect(() => {
    if (!surface) return
    surface.onPainted = () => {
      movePlayhead()
      placeGrip.current?.()
      placeEnds.current?.()
      placeOverview.current?.()
    }
    surface.onPainted()
  })
  useEffect(() => {
    if (playing) {
      following.current = true
      setAway(false)
    }
  }, [playing])

  // words in the page's own text, once it has come to rest
  useEffect(() => {
    if (!surface) return
    let timer: ReturnType<typeof setTimeout>
    const settle = () => {
      keptNow.set(`${owner}/top`, surface.firstVisible)
      clearTimeout(timer)
      timer = setTimeout(() => {
        if (mirror.current && surface.layout.lines.length) mirrorWords(mirror.current, surface, shownModel.current)
      }, 180)
    }
    surface.onScrolled = settle
    settle()
    return () => clearTimeout(timer)
  }, [surface, owner, model.words, look])

  const stray = useCallback(() => {
    following.current = false
    if (playing) setAway(true)
  }, [playing])

  useEffect(() => {
    const element = scroller.current!
    let resting: ReturnType<typeof setTimeout>
    const onWheel = (event: WheelEvent) => {
      if (!surface) return
      event.preventDefault()
      if (event.ctrlKey) {
        const { y } = local(event, element)
        const hit = surface.hit(local(event, element).x, y)
        const anchor = { frame: hit.frame, y: surface.placeOf(hit.frame).y }
        // the view follows at once, the application hears of it when the wheel rests
        surface.setLook(zoomed(surface.look, Math.exp(clamp(event.deltaY, -120, 120) * 0.0022)), anchor)
        clearTimeout(resting)
        resting = setTimeout(() => latest.current.onLook(surface.look), 150)
        return
      }
      stray()
      surface.scrollBy(event.deltaY * (event.deltaMode === 1 ? 32 : 1))
    }
    element.addEventListener('wheel', onWheel, { passive: false })
    return () => element.removeEventListener('wheel', onWheel)
  }, [surface, stray])

  const wordStretch = (hit: Hit): Stretch => {
    const word = model.words[hit.word]
    return word ? { from: word.at, to: word.end } : { from: hit.frame, to: hit.frame }
  }

  /** A pause is chosen like a word: from where one ends to where the next begins. */
  const pauseAt = (frame: Frames): Stretch => {
    const next = firstWhere(model.words.length, (i) => model.words[i].at > frame)
    return { from: model.words[next - 1]?.end ?? 0, to: model.words[next]?.at ?? model.length }
  }

  const phrase = (index: number): Stretch => {
    let first = index
    let last = index
    while (first > 0 && !model.words[first - 1].phraseEnd) first--
    while (last < model.words.length - 1 && !model.words[last].phraseEnd) last++
    return { from: model.words[first].at, to: model.words[last].end }
  }

  const edgeNear = (x: number, y: number): 'from' | 'to' | undefined => {
    if (!surface || !model.selection) return undefined
    for (const edge of ['from', 'to'] as const) {
      const place = surface.placeOf(model.selection[edge], edge === 'to')
      if (Math.abs(place.x - x) <= EDGE_REACH && y >= place.y - 4 && y <= place.y + surface.look.waveHeight + 4) return edge
    }
    return undefined
  }

  /** The playhead has a grip below its line. */
  const gripNear = (x: number, y: number): boolean => {
    if (!surface?.layout.lines.length) return false
    const head = surface.placeOf(place())
    return Math.abs(head.x - x) <= GRIP_REACH && Math.abs(head.y + headHeight(surface) - y) <= GRIP_REACH
  }

  const markNear = (x: number, y: number): string | undefined =>
    onMoveMark &&
    model.marks.find(({ at }) => {
      const place = surface!.placeOf(at)
      return Math.abs(place.x - x) <= EDGE_REACH && y >= place.y - 12 && y <= place.y
    })?.id

  const onPointerDown = (event: PointerEvent<HTMLDivElement>) => {
    // a right click means what is selected, or where it is
    if (surface && event.button === 2) {
      const { x, y } = local(event, scroller.current!)
      const { frame } = surface.hit(x, y)
      if (!model.selection || frame < model.selection.from || frame >= model.selection.to) onPlace(frame)
    }
    if (!surface || event.button !== 0 || event.clientX > scroller.current!.getBoundingClientRect().left + scroller.current!.clientWidth)
      return
    const { x, y } = local(event, scroller.current!)
    const hit = surface.hit(x, y)
    scroller.current!.focus({ preventScroll: true })
    if (event.pointerType !== 'touch') event.currentTarget.setPointerCapture(event.pointerId)
    const edge = edgeNear(x, y)
    if (event.shiftKey) {
      const other = model.selection ?? { from: place(), to: place() }
      const at = hit.on === 'words' ? wordStretch(hit) : { from: hit.frame, to: hit.frame }
      onSelect({ from: Math.min(other.from, at.from), to: Math.max(at.to, at.from < other.from ? other.to : at.to) })
      return
    }
    const scrub = event.altKey || gripNear(x, y)
    if (scrub) {
      if (event.altKey) onScrub(hit.frame)
      drag.current = { from: hit.frame, word: false, moved: false, more: false, x, y, scrub }
      event.currentTarget.setPointerCapture(event.pointerId)
      return
    }
    drag.current = {
      point: onMovePoint && surface.pointNear(x, y, GRIP_REACH)?.at,
      mark: markNear(x, y),
      from: edge ? model.selection![edge === 'from' ? 'to' : 'from'] : hit.frame,
      word: hit.on === 'words',
      moved: false,
      more: event.ctrlKey || event.metaKey,
      x,
      y,
      edge,
    }
  }

  const extend = (x: number, y: number) => {
    const now = drag.current!
    const hit = surface!.hit(x, y)
    let { from, to } = { from: Math.min(now.from, hit.frame), to: Math.max(now.from, hit.frame) }
    if (now.word && !now.edge) {
      const first = surface!.wordAt(from)
      const last = surface!.wordAt(to)
      if (first >= 0) from = model.words[first].at
      if (last >= 0) to = model.words[last].end
    }
    if (to > from) onSelect({ from, to })
  }

  /** Where a point comes to lie, on the line that it stands on. */
  const pointAt = (line: number, x: number, y: number): LevelPoint => {
    const dB = surface!.levelAt(y, line)
    // held to the level as recorded where it is near to it
    return { at: surface!.hit(x, y).frame, dB: Math.abs(dB) < 0.8 ? 0 : dB }
  }

  const onPointerMove = (event: PointerEvent<HTMLDivElement>) => {
    const element = scroller.current!
    const { x, y } = local(event, element)
    const now = drag.current
    if (!now) {
      element.style.cursor = gripNear(x, y)
        ? 'grab'
        : onMovePoint && surface?.pointNear(x, y, GRIP_REACH)
          ? 'move'
          : edgeNear(x, y) || (surface && markNear(x, y))
            ? 'ew-resize'
            : 'text'
      return
    }
    if (!now.moved && Math.hypot(x - now.x, y - now.y) < 4) return
    if (!now.moved && event.pointerType === 'touch') event.currentTarget.setPointerCapture(event.pointerId)
    if (!now.moved && !now.edge && !now.mark && now.point === undefined && !now.scrub) onBegin(now.more)
    now.moved = true
    if (now.mark) return
    if (now.point !== undefined) {
      const { line } = surface!.placeOf(now.point)
      surface!.dragged = { at: now.point, to: pointAt(line, x, y) }
      return surface!.paintSoon()
    }
    if (y < 24) surface!.scrollBy(-12)
    if (y > element.clientHeight - 24) surface!.scrollBy(12)
    if (now.scrub) onScrub(surface!.hit(x, y).frame)
    else extend(x, y)
  }

  const onPointerUp = (event: PointerEvent<HTMLDivElement>) => {
    const now = drag.current
    drag.current = null
    if (!now || !surface) return
    const { x, y } = local(event, scroller.current!)
    const hit = surface.hit(x, y)
    if (now.scrub) return onScrub(null)
    const { dragged } = surface
    surface.dragged = null
    if (now.moved && dragged) onMovePoint?.(dragged.at, dragged.to)
    if (now.moved && now.mark) onMoveMark?.(now.mark, hit.frame)
    if (now.moved) return
    const { count, time, at } = taps.current
    const again = event.timeStamp - time < AGAIN_MS && Math.hypot(at.x - x, at.y - y) < 8
    taps.current = { count: again ? count + 1 : 1, time: event.timeStamp, at: { x, y } }
    const nick =
      onNick &&
      model.nicks.find(({ at }) => {
        const place = surface.placeOf(at)
        return place.line === hit.line && Math.abs(place.x - x) < 9
      })
    const choose = (stretch: Stretch) => {
      onBegin(now.more)
      onSelect(stretch)
    }
    if (nick) onNick(nick.at)
    else if (now.more && hit.on !== 'margin') {
      if (!onUnchoose(hit.frame)) choose(hit.word >= 0 ? wordStretch(hit) : pauseAt(hit.frame))
    } else if (taps.current.count === 2 && hit.word >= 0) choose(wordStretch(hit))
    else if (taps.current.count === 2 && hit.on === 'words') choose(pauseAt(hit.frame))
    else if (taps.current.count >= 3 && hit.word >= 0) choose(phrase(hit.word))
    else if (!now.edge) onPlace(hit.on === 'margin' ? surface.layout.lines[hit.line].from : hit.frame)
  }

  return (
    <div className="relative flex min-h-44 min-w-0 flex-1">
      {surface && (
        <Overview ref={placeOverview} surface={surface} model={model} place={place} playing={playing} onPlace={onPlace} onStray={stray} />
      )}
      <div
        ref={scroller}
        tabIndex={0}
        role="region"
        aria-label={label}
        data-own-space
        className="relative min-w-0 flex-1 touch-pan-y overflow-x-hidden overflow-y-auto outline-offset-[-2px] select-none"
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={onPointerUp}
        onPointerCancel={() => {
          if (drag.current?.scrub) onScrub(null)
          if (surface) surface.dragged = null
          drag.current = null
        }}
        onTouchMove={stray}
      >
        <div className="sticky top-0 z-10 h-0">
          <canvas ref={canvas} className="block" aria-hidden />
          <div ref={head} className="pointer-events-none absolute top-0 left-0 w-[2px] bg-cut" data-testid="playhead">
            <span className="absolute -bottom-[5px] -left-[4px] size-[10px] rounded-full border-2 border-paper bg-cut" />
          </div>
          {surface && onMovePassage && model.selection && model.selection.to > model.selection.from && (
            <PassageGrip
              ref={placeGrip}
              surface={surface}
              model={model}
              selection={model.selection}
              element={() => scroller.current!}
              onDrop={onMovePassage}
            />
          )}
          {surface && onMoveEnd && (
            <EndGrips ref={placeEnds} surface={surface} model={model} element={() => scroller.current!} onDrop={onMoveEnd} />
          )}
          {children}
        </div>
        <div ref={spacer} />
        <div ref={mirror} lang={language} className="pointer-events-none absolute inset-0 opacity-0" data-testid="words" />
      </div>
      <p className="sr-only" role="status" lang={language}>
        {inWords(model)}
      </p>
      {away && (
        <button
          type="button"
          onClick={() => {
            following.current = true
            setAway(false)
            surface?.reveal(place(), true)
          }}
          className="absolute bottom-4 left-1/2 -translate-x-1/2 rounded-full border border-rule bg-paper-lit px-4 py-1.5 text-[13px] shadow-md"
        >
          To the playhead <CommandKey id="play.follow" />
        </button>
      )}
    </div>
  )
}

const local = (event: { clientX: number; clientY: number }, element: HTMLElement) => {
  const box = element.getBoundingClientRect()
  return { x: event.clientX - box.left, y: event.clientY - box.top }
}

import { useCallback, useEffect, useImperativeHandle, useRef, useState } from 'react'
import { clamp, RATE } from '../../core/time'
import { useFrames } from '../sound/usePlayer'
import type { SheetLook } from './paint/model'
import { keptNow } from '../ui/useKept'
import { EndGrips } from './EndGrips'
import { Overview } from './Overview'
import { PassageGrip } from './PassageGrip'
import { inWords, mirrorWords } from './readAloud'
import { TOP } from './paint/metrics'
import { headHeight } from './near'
import type { SheetProps } from './props'
import { SheetSurface } from './surface'
import { local, useGestures } from './useGestures'
import { CommandKey } from '../commands/CommandButton'

/** A tape or a piece as lines of print. One selects in it, and acts. */

const FEWEST_SECONDS = 1
const MOST_SECONDS = 120

/** Seconds a line, within what a Sheet can show. */
export const zoomed = (look: SheetLook, by: number): SheetLook => ({
  ...look,
  framesPerLine: Math.round(clamp(look.framesPerLine * by, FEWEST_SECONDS * RATE, MOST_SECONDS * RATE)),
})

export function Sheet(props: SheetProps) {
  const { ref, owner, label, language, model, look, onLook, onPlace, onMovePassage, onMoveEnd, place, playing, children } = props
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
  const placeGrip = useRef<() => void>(null)
  const placeEnds = useRef<() => void>(null)
  const placeOverview = useRef<() => void>(null)
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

  // the playhead is a line of its own, so that it moves without painting the sheet again
  const movePlayhead = () => {
    if (!surface || !head.current || !surface.layout.lines.length) return
    const frame = place()
    if (playing && following.current) surface.follow(frame)
    const { x, y } = surface.placeOf(frame)
    head.current.style.transform = `translate(${x - 1}px, ${y - 5}px)`
    head.current.style.height = `${headHeight({ surface, model })}px`
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

  const gestures = useGestures(surface, scroller, props)

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
        {...gestures}
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
          className={`absolute bottom-4 left-1/2 -translate-x-1/2 rounded-full border border-rule bg-paper-lit px-4 py-1.5
            text-[13px] shadow-md`}
        >
          To the playhead <CommandKey id="play.follow" />
        </button>
      )}
    </div>
  )
}

import { useCallback, useEffect, useLayoutEffect, useRef, type CSSProperties, type RefObject } from 'react'
import { firstWhere } from '../../core/search'
import { RATE, type Frames } from '../../core/time'
import type { Handlers } from '../commands/commands'
import { useKept } from '../ui/useKept'
import { PIXELS } from './laid/pixels'

/** Pixels a second, between a page of which all is on the screen and one second that fills it. */
const STEPS = [0.5, 1, 2, 4, PIXELS, 14, 28, 56, 112, 224, 448]
/** Rows that are lower than their script show as much of it as there is room for. */
const FAR = PIXELS - 0.5

/** Pixels a second; `whole`: as many as put all of the page on the screen, whatever its script asks for. */
interface Look {
  second: number
  whole: boolean
}

const USUAL: Look = { second: PIXELS, whole: false }

interface OnPage {
  owner: string
  content: RefObject<HTMLElement | null>
  /** How long the page is. */
  length: Frames
}

/** What stays where it is on the screen while a page is zoomed: a block, how far into it, and how far down the view that is. */
interface Held {
  id: string
  share: number
  down: number
}

/** How tall a second of a page is, in fixed steps from all of it on the screen to one second. Rows take it from the style. */
export function useZoom({ owner, content, length }: OnPage) {
  const [{ second, whole }, setLook] = useKept<Look>(`${owner}/look`, USUAL)
  const [before, setBefore] = useKept<Look | null>(`${owner}/lookBefore`, null)
  const held = useRef<Held | null>(null)

  /** Around the middle of the view, or around a place of the screen. */
  const zoom = useCallback(
    (to: Look, at?: number) => {
      const view = content.current
      if (!view || (to.second === second && to.whole === whole)) return
      held.current = heldAt(view, at ?? view.clientHeight / 2)
      setBefore({ second, whole })
      setLook(to)
    },
    [content, second, whole, setLook, setBefore],
  )
  useLayoutEffect(() => {
    const { current: hold } = held
    const view = content.current
    const row = hold && document.getElementById(hold.id)
    held.current = null
    if (view && row) view.scrollTop = row.offsetTop + hold.share * row.offsetHeight - hold.down
  }, [second, whole, content])

  const fitting = () => Math.max(0.1, ((content.current?.clientHeight ?? 600) - 8) / Math.max(1, length / RATE))
  const most = () => content.current?.clientHeight ?? 640
  const step = (by: 1 | -1, at?: number) => {
    const steps = [...STEPS.filter((one) => one > fitting() * 1.2 || one >= PIXELS), most()].filter((one) => one <= most())
    const now = whole ? 0 : second
    const next = by > 0 ? steps.find((one) => one > now * 1.01) : steps.findLast((one) => one < now * 0.99)
    if (next) zoom({ second: next, whole: false }, at)
    else if (by < 0) zoom({ second: fitting(), whole: true }, at)
  }
  // a wheel is listened to beside React, which cannot keep the browser from zooming itself
  const turn = useRef(step)
  turn.current = step
  useEffect(() => {
    const view = content.current
    const onWheel = (event: WheelEvent) => {
      if (!view || !(event.ctrlKey || event.metaKey)) return
      event.preventDefault()
      turn.current(event.deltaY < 0 ? 1 : -1, event.clientY - view.getBoundingClientRect().top)
    }
    view?.addEventListener('wheel', onWheel, { passive: false })
    return () => view?.removeEventListener('wheel', onWheel)
  }, [content])

  const commands: Handlers = {
    'view.zoomIn': () => step(1),
    'view.zoomOut': () => step(-1),
    'view.zoomWhole': () => zoom({ second: fitting(), whole: true }),
    'view.zoomHome': () => zoom(USUAL),
    'view.zoomBack': { unable: before === null ? 'It was not zoomed.' : null, run: () => before && zoom(before) },
  }
  return {
    second,
    far: whole || second < FAR,
    near: !whole && second > PIXELS,
    style: { '--second': `${second}px` } as CSSProperties,
    commands,
  }
}

function heldAt(view: HTMLElement, down: number): Held | null {
  const y = view.scrollTop + down
  const rows = view.querySelectorAll<HTMLElement>('section[id^=block-]')
  const row = rows[firstWhere(rows.length, (i) => rows[i].offsetTop > y) - 1]
  return row ? { id: row.id, share: Math.min(1, (y - row.offsetTop) / Math.max(1, row.offsetHeight)), down } : null
}

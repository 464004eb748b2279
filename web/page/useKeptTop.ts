import { useCallback, useLayoutEffect, useRef, type RefObject } from 'react'
import { keptNow } from '../ui/useKept'

/** A page that was not scrolled for so long stands still. */
const STILL_MS = 80

/** How far a page is scrolled: by a block and how many pixels of it lie above the view, so that it holds when rows before it grow. */
interface Top {
  block: string
  above: number
}

const rowsOf = (content: HTMLElement) => [...content.querySelectorAll<HTMLElement>('section[id^=block-]')]

/**
 * Scrolls a page to where it was left. Rows get their full height only when the words of their actualities are there, so the place
 * is held while they grow, until somebody scrolls, clicks or presses a key. Returns what is to be called at each scroll.
 */
export function useKeptTop(content: RefObject<HTMLElement | null>, owner: string, ready: boolean): () => void {
  const restoring = useRef(false)
  useLayoutEffect(() => {
    const view = content.current
    const kept = keptNow.get<Top | null>(`${owner}/top`, null)
    if (!ready || !view || !kept) return
    const restore = () => {
      const row = rowsOf(view).find((one) => one.id === kept.block)
      if (row) view.scrollTop = row.offsetTop + kept.above
    }
    const watch = new ResizeObserver(restore)
    const taken = new AbortController()
    const release = () => {
      restoring.current = false
      watch.disconnect()
      taken.abort()
    }
    restoring.current = true
    restore()
    for (const row of rowsOf(view)) watch.observe(row)
    for (const kind of ['wheel', 'pointerdown', 'keydown', 'touchstart'] as const) {
      globalThis.addEventListener(kind, release, { capture: true, passive: true, signal: taken.signal })
    }
    return release
  }, [content, owner, ready])
  const due = useRef(0)
  return useCallback(() => {
    clearTimeout(due.current)
    // looked up once it stands still: a long page has hundreds of rows
    due.current = window.setTimeout(() => {
      const view = content.current
      if (!ready || !view || restoring.current) return
      const first = rowsOf(view).find((row) => row.offsetTop + row.offsetHeight > view.scrollTop)
      if (first) keptNow.set(`${owner}/top`, { block: first.id, above: view.scrollTop - first.offsetTop } satisfies Top)
    }, STILL_MS)
  }, [content, owner, ready])
}

import { useEffect, type RefObject } from 'react'
import { watchRows } from './laid/watchRows'

/** The top of the view, as a strip of it. */
const TOP = '0px 0px -99% 0px'

/**
 * Marks the row that lies across the top of the view with `data-across`, whose words stay in view then (web/style.css). One at a
 * time: what stays in view is painted as layers of its own, and with those of every row a long page could not be scrolled smoothly.
 */
export function useAcross(content: RefObject<HTMLElement | null>, wanted: boolean): void {
  useEffect(() => {
    const view = content.current
    if (!view || !wanted) return
    const watch = new IntersectionObserver(
      (entries) => {
        for (const { target, isIntersecting } of entries) target.toggleAttribute('data-across', isIntersecting)
      },
      { root: view, rootMargin: TOP },
    )
    const end = watchRows(view, watch)
    return () => {
      end()
      for (const row of view.querySelectorAll('[data-across]')) row.removeAttribute('data-across')
    }
  }, [content, wanted])
}

import { useEffect, type RefObject } from 'react'

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
    const rows = () => view.querySelectorAll('section')
    for (const row of rows()) watch.observe(row)
    // rows of a long page come and go
    const made = new MutationObserver((changes) => {
      for (const { addedNodes } of changes) for (const node of addedNodes) if (node instanceof HTMLElement) watch.observe(node)
    })
    made.observe(view, { childList: true })
    return () => {
      made.disconnect()
      watch.disconnect()
      for (const row of rows()) row.removeAttribute('data-across')
    }
  }, [content, wanted])
}

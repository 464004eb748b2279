import { useLayoutEffect, useState, type RefObject } from 'react'

/** How wide an element is, in pixels; Infinity before it is there. */
export function useWidth(element: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(Infinity)
  useLayoutEffect(() => {
    if (!element.current) return
    const watch = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width))
    watch.observe(element.current)
    return () => watch.disconnect()
  }, [element])
  return width
}

import { useEffect, useState, type RefObject } from 'react'

/** As wide as a lane is where there is room, and as narrow as it gets, in pixels. */
const [WIDEST, NARROWEST] = [64, 24]
/** Of the width of a page all lanes together take no more than this: the rest is for the script. */
const SHARE = 0.27

export const laneWidth = (count: number, page: number): number =>
  Math.max(NARROWEST, Math.min(WIDEST, Math.floor((page * SHARE) / Math.max(1, count))))

/** How wide each lane of a page is, in pixels. */
export function useLaneWidth(content: RefObject<HTMLElement | null>, count: number): number {
  const [page, setPage] = useState(1000)
  useEffect(() => {
    const element = content.current!
    const watch = new ResizeObserver(() => setPage(element.clientWidth))
    watch.observe(element)
    return () => watch.disconnect()
  }, [content])
  return laneWidth(count, page)
}

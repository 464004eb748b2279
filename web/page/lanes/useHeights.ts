import { useCallback, useEffect, useState, type RefObject } from 'react'
import type { Layout } from '../../../core/page/timing'
import { RATE, type Frames } from '../../../core/time'
import { PIXELS } from '../laid/pixels'

interface Rung {
  at: Frames
  end: Frames
  top: number
  bottom: number
}

/** Where times of a page stand on the screen, in pixels from the top of the page, and back. */
export interface Heights {
  yOf(frame: Frames): number
  frameAt(y: number): Frames
  /** Where the last block ends. */
  bottom: number
}

/** Measured from the rows, whose heights follow their script, whenever these or the page change. */
export function useHeights(content: RefObject<HTMLElement | null>, layout: Layout): Heights {
  const [rungs, setRungs] = useState<readonly Rung[]>([])
  const measure = useCallback(() => {
    const found = layout.placed.flatMap(({ block, at, words }): Rung[] => {
      const row = globalThis.document.getElementById(`block-${block.id}`)
      return row ? [{ at, end: at + words, top: row.offsetTop, bottom: row.offsetTop + row.offsetHeight }] : []
    })
    setRungs((before) => (JSON.stringify(before) === JSON.stringify(found) ? before : found))
  }, [layout])
  useEffect(() => {
    measure()
    const watch = new ResizeObserver(measure)
    if (content.current) for (const row of content.current.querySelectorAll('section')) watch.observe(row)
    return () => watch.disconnect()
  }, [measure, content])
  const last = rungs.at(-1)
  return {
    bottom: last?.bottom ?? 0,
    yOf: (frame) => {
      const rung = rungs.findLast((one) => one.at <= frame) ?? rungs[0]
      if (!rung) return (frame / RATE) * PIXELS
      if (rung === last && frame > rung.end) return rung.bottom + ((frame - rung.end) / RATE) * PIXELS
      const share = Math.max(0, Math.min(1, (frame - rung.at) / Math.max(1, rung.end - rung.at)))
      return rung.top + share * (rung.bottom - rung.top)
    },
    frameAt: (y) => {
      const rung = rungs.findLast((one) => one.top <= y) ?? rungs[0]
      if (!rung) return Math.max(0, Math.round((y / PIXELS) * RATE))
      if (rung === last && y > rung.bottom) return Math.round(rung.end + ((y - rung.bottom) / PIXELS) * RATE)
      const share = Math.max(0, Math.min(1, (y - rung.top) / Math.max(1, rung.bottom - rung.top)))
      return Math.round(rung.at + share * (rung.end - rung.at))
    },
  }
}

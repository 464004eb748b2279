import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type RefObject } from 'react'
import type { Layout } from '../../../core/page/timing'
import { firstWhere } from '../../../core/search'
import { RATE, type Frames } from '../../../core/time'
import { watchRows } from '../laid/watchRows'

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

interface Measured {
  rungs: readonly Rung[]
  second: number
}

const NOT_YET: Measured = { rungs: [], second: 1 }

/** Measured from the rows, whose heights follow their script, whenever these or the page change. `second`: in pixels, below the last. */
export function useHeights(content: RefObject<HTMLElement | null>, layout: Layout, second: number): Heights {
  const [measured, setMeasured] = useState(NOT_YET)
  /** How tall each row was when it was last measured: one that was made anew, as tall as before, moves nothing. */
  const known = useRef(new Map<string, number>())
  const measure = useCallback(() => {
    const rungs = layout.placed.flatMap(({ block, at, words }): Rung[] => {
      const row = globalThis.document.getElementById(`block-${block.id}`)
      if (!row) return []
      const { id, offsetTop: top, offsetHeight } = row
      known.current.set(id, offsetHeight)
      return [{ at, end: at + words, top, bottom: top + offsetHeight }]
    })
    setMeasured((before) => (before.second === second && same(before.rungs, rungs) ? before : { rungs, second }))
  }, [layout, second])
  const latest = useRef(measure)
  // before anything is painted: what lies beside the rows is drawn once for each step of a zoom
  useLayoutEffect(() => {
    latest.current = measure
    measure()
  }, [measure])
  useEffect(() => {
    const watch = new ResizeObserver((entries) => {
      const isNew = ({ target, borderBoxSize: [{ blockSize }] }: ResizeObserverEntry) =>
        // a row that has gone says so too; what took its place speaks for itself
        target.isConnected && !(Math.abs(blockSize - (known.current.get(target.id) ?? NaN)) < 1)
      if (entries.some(isNew)) latest.current()
    })
    return content.current ? watchRows(content.current, watch) : undefined
  }, [content])
  return useMemo(() => heightsOf(measured), [measured])
}

const same = (some: readonly Rung[], others: readonly Rung[]): boolean =>
  some.length === others.length &&
  some.every(({ at, end, top, bottom }, i) => {
    const other = others[i]
    return at === other.at && end === other.end && top === other.top && bottom === other.bottom
  })

function heightsOf({ rungs, second }: Measured): Heights {
  const last = rungs.at(-1)
  /** Between two that belong together, as far as a value lies between two others. */
  const between = (value: number, [a, b]: readonly [number, number], [from, to]: readonly [number, number]) =>
    from + Math.max(0, Math.min(1, (value - a) / Math.max(1, b - a))) * (to - from)
  return {
    bottom: last?.bottom ?? 0,
    yOf: (frame) => {
      const index = Math.max(0, firstWhere(rungs.length, (i) => rungs[i].at > frame) - 1)
      const [rung, next] = [rungs[index], rungs[index + 1]]
      if (!rung) return (frame / RATE) * second
      if (frame <= rung.end) return between(frame, [rung.at, rung.end], [rung.top, rung.bottom])
      return next ? between(frame, [rung.end, next.at], [rung.bottom, next.top]) : rung.bottom + ((frame - rung.end) / RATE) * second
    },
    frameAt: (y) => {
      const index = Math.max(0, firstWhere(rungs.length, (i) => rungs[i].top > y) - 1)
      const [rung, next] = [rungs[index], rungs[index + 1]]
      if (!rung) return Math.max(0, Math.round((y / second) * RATE))
      if (y <= rung.bottom) return Math.round(between(y, [rung.top, rung.bottom], [rung.at, rung.end]))
      return Math.round(next ? between(y, [rung.bottom, next.top], [rung.end, next.at]) : rung.end + ((y - rung.bottom) / second) * RATE)
    },
  }
}

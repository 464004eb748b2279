import { useRef } from 'react'
import type { Layout } from '../../core/page/timing'
import type { Frames } from '../../core/time'
import { useFrames } from '../sound/usePlayer'

/** The line across the bars where the page plays, or would. */
export function PagePlayhead({ layout, place, playing }: { layout: Layout; place: () => Frames; playing: boolean }) {
  const line = useRef<HTMLDivElement>(null)
  useFrames(() => {
    if (!line.current) return
    const row = layout.placed.filter((one) => one.at <= place()).at(-1)
    const element = row && globalThis.document.getElementById(`block-${row.block.id}`)
    line.current.style.opacity = element ? '1' : '0'
    if (!element || !row) return
    const share = Math.min(1, (place() - row.at) / Math.max(1, row.words))
    line.current.style.transform = `translateY(${element.offsetTop + share * element.offsetHeight}px)`
  }, playing)
  return (
    <div
      ref={line}
      className="pointer-events-none absolute top-0 right-0 z-10 h-[2px] w-[var(--bars)] bg-cut opacity-0 max-[860px]:w-[76px]"
      data-testid="page-playhead"
    />
  )
}

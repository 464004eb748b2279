import { useEffect, useRef, useState } from 'react'
import type { Plan } from '../../../core/render/plan'
import type { Frames } from '../../../core/time'
import { peakCache } from '../../sound/peakCache'
import { Wave } from '../../sound/wave'

interface Props {
  plan: Plan
  from: Frames
  to: Frames
  scale: number
  tone: 'ink' | 'tape'
}

/** Bars are drawn before they come into view, from so far on. */
const NEAR = '400px 0px'

/** Sound as a standing bar, as tall as its row: time runs down. A long page has hundreds; those are there that are in view. */
export function Bar(props: Props) {
  const box = useRef<HTMLSpanElement>(null)
  const [seen, setSeen] = useState(false)
  useEffect(() => {
    const element = box.current!
    const sight = new IntersectionObserver((entries) => setSeen(entries[entries.length - 1].isIntersecting), {
      root: element.closest('[data-testid=page]'),
      rootMargin: NEAR,
    })
    sight.observe(element)
    return () => sight.disconnect()
  }, [])
  return (
    <span ref={box} className="absolute inset-0">
      {seen && <Drawn {...props} />}
    </span>
  )
}

/** A bar that is taller than this is drawn as far as it is in view, and so far beyond, in pixels. */
const TALL = 3000
const BEYOND = 800
/** While its height goes on changing, what is drawn is stretched; it is drawn anew when that has rested for so long, in ms. */
const REST = 80
/** Half the width of a bar that is full, as a share of half its box. */
const FULL = 0.94
/** The narrowest that it is, where all is still. */
const STILL = 0.015
/** So many rows are one outline: the browser paints those that are in view. */
const PART = 256

/**
 * Its wave as an outline, and not on a canvas: each canvas would be a layer of its own, with another one for all that lies over it,
 * and a long page could not be scrolled or zoomed smoothly.
 */
function Drawn({ plan, from, to, scale, tone }: Props) {
  const box = useRef<SVGSVGElement>(null)
  useEffect(() => {
    const element = box.current!
    const parent = element.parentElement!
    const view = element.closest<HTMLElement>('[data-testid=page]')
    const wave = new Wave(plan)
    let due = 0
    let rests: ReturnType<typeof setTimeout> | undefined
    let height = parent.clientHeight
    /** What of the bar is drawn, in pixels from its top. */
    let drawn = { top: 0, bottom: 0 }
    const inView = () => {
      if (!view || height <= TALL) return { top: 0, bottom: height }
      const above = view.getBoundingClientRect().top - parent.getBoundingClientRect().top
      return { top: Math.max(0, above - BEYOND), bottom: Math.min(height, above + view.clientHeight + BEYOND) }
    }
    const draw = () => {
      due = 0
      const { top, bottom } = (drawn = inView())
      if (bottom <= top) return
      element.style.top = `${(100 * top) / height}%`
      element.style.height = `${(100 * (bottom - top)) / height}%`
      const rows = Math.max(1, Math.round((bottom - top) * devicePixelRatio))
      const per = (to - from) / Math.max(1, Math.round(height * devicePixelRatio))
      const first = from + Math.round(top * devicePixelRatio) * per
      element.setAttribute('viewBox', `-1 0 2 ${rows}`)
      const parts: SVGPathElement[] = []
      for (let row = 0; row < rows; row += PART) {
        const part = document.createElementNS('http://www.w3.org/2000/svg', 'path')
        part.setAttribute('d', outline(wave, { first, per, scale }, row, Math.min(rows, row + PART)))
        parts.push(part)
      }
      element.replaceChildren(...parts)
    }
    const later = () => {
      due ||= requestAnimationFrame(draw)
    }
    const onScroll = () => {
      if (height <= TALL) return
      const { top, bottom } = inView()
      if (Math.abs(top - drawn.top) > BEYOND / 2 || Math.abs(bottom - drawn.bottom) > BEYOND / 2) later()
    }
    draw()
    const stop = peakCache.onChange(later)
    const watch = new ResizeObserver(([{ contentRect }]) => {
      if (contentRect.height === height) return
      const stretches = height <= TALL && contentRect.height <= TALL
      height = contentRect.height
      clearTimeout(rests)
      if (stretches) rests = setTimeout(later, REST)
      else later()
    })
    watch.observe(parent)
    view?.addEventListener('scroll', onScroll, { passive: true })
    return () => {
      cancelAnimationFrame(due)
      clearTimeout(rests)
      stop()
      watch.disconnect()
      view?.removeEventListener('scroll', onScroll)
    }
  }, [plan, from, to, scale])
  return (
    <svg
      ref={box}
      preserveAspectRatio="none"
      className="pointer-events-none absolute inset-x-0 w-full"
      fill={`var(--${tone})`}
      fillOpacity={0.85}
      data-testid="bar"
      aria-hidden
    />
  )
}

/** The outline of some rows of a wave, from `row` to `end`; a row is `per` frames, and the top one begins at `first`. */
function outline(wave: Wave, { first, per, scale }: { first: number; per: number; scale: number }, row: number, end: number): string {
  const column = new Float64Array(3)
  let right = ''
  let left = ''
  for (let at = row; at < end; at++) {
    wave.column(first + at * per, first + (at + 1) * per, per, column)
    const half = Math.max(STILL, Math.min(1, Math.max(-column[0], column[1]) * scale) * FULL).toFixed(3)
    right += `H${half}V${at + 1}`
    left = `H-${half}V${at}${left}`
  }
  return `M0 ${row}${right}${left}H0Z`
}

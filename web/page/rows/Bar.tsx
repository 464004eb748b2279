import { useEffect, useRef, useState } from 'react'
import type { Plan } from '../../../core/render/plan'
import type { Frames } from '../../../core/time'
import { peakCache } from '../../sound/peakCache'
import { Wave } from '../../sound/wave'
import { colour, useTheme } from '../../ui/theme'

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

function Drawn({ plan, from, to, scale, tone }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { theme } = useTheme()
  useEffect(() => {
    const element = canvas.current!
    const parent = element.parentElement!
    const view = element.closest<HTMLElement>('[data-testid=page]')
    const wave = new Wave(plan)
    let due = 0
    let rests: ReturnType<typeof setTimeout> | undefined
    let { width, height } = parent.getBoundingClientRect()
    /** What of the bar is drawn, in pixels from its top. */
    let drawn = { top: 0, bottom: 0 }
    const inView = () => {
      if (!view || height <= TALL) return { top: 0, bottom: height }
      const above = view.getBoundingClientRect().top - parent.getBoundingClientRect().top
      return { top: Math.max(0, above - BEYOND), bottom: Math.min(height, above + view.clientHeight + BEYOND) }
    }
    const draw = () => {
      due = 0
      const dpr = devicePixelRatio
      const { top, bottom } = (drawn = inView())
      if (bottom <= top) return
      element.style.top = `${(100 * top) / height}%`
      element.style.height = `${(100 * (bottom - top)) / height}%`
      element.width = Math.round(width * dpr)
      element.height = Math.round((bottom - top) * dpr)
      const context = element.getContext('2d')!
      context.fillStyle = colour(tone)
      const per = (to - from) / Math.max(1, Math.round(height * dpr))
      const first = from + Math.round(top * dpr) * per
      const middle = element.width / 2
      const column = new Float64Array(3)
      for (let row = 0; row < element.height; row++) {
        wave.column(first + row * per, first + (row + 1) * per, per, column)
        const size = Math.max(0.5, Math.min(1, Math.max(-column[0], column[1]) * scale) * (middle - 2))
        context.globalAlpha = 0.85
        context.fillRect(middle - size, row, 2 * size, 1)
      }
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
      if (contentRect.width === width && contentRect.height === height) return
      const stretches = contentRect.width === width && height <= TALL && contentRect.height <= TALL
      ;({ width, height } = contentRect)
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
  }, [plan, from, to, scale, tone, theme])
  return <canvas ref={canvas} className="absolute inset-x-0 w-full" aria-hidden />
}

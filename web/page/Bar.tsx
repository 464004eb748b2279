import { useEffect, useRef } from 'react'
import type { Plan } from '../../core/render/plan'
import type { Frames } from '../../core/time'
import { peakCache } from '../sound/peakCache'
import { Wave } from '../sound/wave'
import { colour, useTheme } from '../ui/theme'

/** Sound as a standing bar, as tall as its row: time runs down. */
export function Bar({ plan, from, to, scale, tone }: { plan: Plan; from: Frames; to: Frames; scale: number; tone: 'ink' | 'tape' }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { theme } = useTheme()
  useEffect(() => {
    const element = canvas.current!
    const wave = new Wave(plan)
    const draw = () => {
      const box = element.parentElement!.getBoundingClientRect()
      const dpr = devicePixelRatio
      element.width = Math.round(box.width * dpr)
      element.height = Math.round(box.height * dpr)
      const context = element.getContext('2d')!
      context.fillStyle = colour(tone)
      const per = (to - from) / Math.max(1, element.height)
      const middle = element.width / 2
      const column = new Float64Array(3)
      for (let row = 0; row < element.height; row++) {
        wave.column(from + row * per, from + (row + 1) * per, per, column)
        const size = Math.max(0.5, Math.min(1, Math.max(-column[0], column[1]) * scale) * (middle - 2))
        context.globalAlpha = 0.85
        context.fillRect(middle - size, row, 2 * size, 1)
      }
    }
    draw()
    const stop = peakCache.onChange(draw)
    const watch = new ResizeObserver(draw)
    watch.observe(element.parentElement!)
    return () => {
      stop()
      watch.disconnect()
    }
  }, [plan, from, to, scale, tone, theme])
  return <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden />
}

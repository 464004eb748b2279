import { useEffect, useRef } from 'react'
import type { Plan } from '../../core/render/plan'
import { peakCache } from '../sound/peakCache'
import { Wave } from '../sound/wave'
import { colour, useTheme } from '../ui/theme'

/** A short stretch of sound as a small wave. */
export function WaveStrip({
  plan,
  from,
  to,
  width = 150,
  height = 26,
}: {
  plan: Plan
  from: number
  to: number
  width?: number
  height?: number
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { theme } = useTheme()
  useEffect(() => {
    const paint = () => {
      const element = canvas.current
      const context = element?.getContext('2d')
      if (!element || !context) return
      const wave = new Wave(plan)
      const column = new Float64Array(3)
      const each = plan.length / element.width
      context.clearRect(0, 0, element.width, element.height)
      for (let x = 0; x < element.width; x++) {
        wave.column(x * each, (x + 1) * each, each, column)
        const high = Math.min(1, Math.max(column[1], -column[0]) * 2.2)
        const inside = x * each >= from && x * each < to
        context.fillStyle = colour(inside ? 'tape' : 'grain')
        context.fillRect(x, (element.height / 2) * (1 - high), 1, Math.max(1, element.height * high))
      }
    }
    paint()
    return peakCache.onChange(paint)
  }, [plan, from, to, theme])
  return <canvas ref={canvas} width={width} height={height} aria-hidden className="shrink-0" style={{ width, height }} />
}

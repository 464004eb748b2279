import { useQuery } from '@tanstack/react-query'
import type { TapeInfo } from '../../contract/tapes'
import type { MendStep } from '../../core/mend/chain'
import { NOISE_BAND_HERTZ } from '../../core/mend/noise'
import type { Side } from '../../core/tape/tape'
import { RATE, type Stretch } from '../../core/time'
import { bandsOf } from '../sound/hear'
import { planWith } from './triedPlan'

interface Props {
  tape: TapeInfo
  sides: readonly Side[]
  side: number
  steps: readonly MendStep[]
  /** What is looked at: the first few seconds of it. */
  over: Stretch
}

const MOST = 5 * RATE
/** Of the drawing, which is stretched to the width of its column; pixels high. */
const [WIDE, HIGH] = [250, 96]
const [LOWEST, HIGHEST] = [50, 20_000]
/** dB from the top of the box to its bottom. */
const RANGE = 90
const MARKS: readonly (readonly [number, string])[] = [
  [100, '100 Hz'],
  [1000, '1 kHz'],
  [10_000, '10 kHz'],
]
const x = (hertz: number): number => (Math.log(hertz / LOWEST) / Math.log(HIGHEST / LOWEST)) * WIDE

/** The spectrum before and after, one over the other, and the noise that was learnt under them. */
export function SpectrumBox({ tape, sides, side, steps, over }: Props) {
  const to = Math.min(over.to, over.from + MOST)
  const bands = (tried: readonly MendStep[], what: string) => ({
    queryKey: ['spectrum', tape.id, side, what, tried, over.from, to],
    enabled: to > over.from,
    staleTime: Infinity,
    retry: false,
    placeholderData: (before: number[] | undefined) => before,
    queryFn: ({ signal }: { signal: AbortSignal }) => bandsOf({ plan: planWith(tape, sides, side, tried), from: over.from, to }, signal),
  })
  const before = useQuery(bands([], 'before')).data
  const after = useQuery(bands(steps, 'after')).data
  const learnt = steps.find((step) => step.kind === 'noise' && !step.off)
  if (!before || !after) return <div style={{ height: HIGH + 16 }} />
  const top = Math.max(...before, ...after) + 6
  const line = (levels: readonly number[]) =>
    levels.flatMap((level, band) => {
      const hertz = NOISE_BAND_HERTZ[band]
      if (hertz < LOWEST || hertz > HIGHEST) return []
      return `${x(hertz).toFixed(1)},${Math.min(HIGH, ((top - level) / RANGE) * HIGH).toFixed(1)}`
    })
  const area = (levels: readonly number[]) => `0,${HIGH} ${line(levels).join(' ')} ${WIDE},${HIGH}`
  return (
    <figure>
      <div className="relative" style={{ height: HIGH }}>
        <svg
          viewBox={`0 0 ${WIDE} ${HIGH}`}
          preserveAspectRatio="none"
          className="size-full"
          role="img"
          aria-label="Spectrum before and after, 50 Hz to 20 kHz"
          data-testid="mend-spectrum"
        >
          {MARKS.map(([hertz]) => (
            <line key={hertz} x1={x(hertz)} x2={x(hertz)} y1={0} y2={HIGH} className="stroke-rule" vectorEffect="non-scaling-stroke" />
          ))}
          {learnt?.kind === 'noise' && learnt.learnt && <polygon points={area(learnt.learnt)} className="fill-rule" />}
          <polyline
            points={line(before).join(' ')}
            fill="none"
            className="stroke-faint"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
          <polyline
            points={line(after).join(' ')}
            fill="none"
            className="stroke-tape"
            strokeWidth={1.5}
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        {MARKS.map(([hertz, name]) => (
          <span
            key={hertz}
            className="absolute bottom-0.5 -translate-x-1/2 text-[10px] whitespace-nowrap text-soft"
            style={{ left: `${(x(hertz) / WIDE) * 100}%` }}
            aria-hidden
          >
            {name}
          </span>
        ))}
      </div>
      <figcaption className="flex gap-3 text-[11.5px] text-faint">
        <span>before</span>
        <span className="text-tape">after</span>
        {learnt?.kind === 'noise' && learnt.learnt && <span>grey: the noise learnt</span>}
      </figcaption>
    </figure>
  )
}

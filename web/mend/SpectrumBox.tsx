import { NOISE_BAND_HERTZ } from '../../core/mend/noise'

interface Props {
  before: readonly number[]
  after: readonly number[]
  /** Noise as it was learnt. */
  learnt: readonly number[] | undefined
}

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
export function SpectrumBox({ before, after, learnt }: Props) {
  const top = Math.max(...before, ...after) + 6
  const line = (levels: readonly number[]) =>
    levels.flatMap((level, band) => {
      const hertz = NOISE_BAND_HERTZ[band]
      if (hertz < LOWEST || hertz > HIGHEST) return []
      return `${x(hertz).toFixed(1)},${Math.min(HIGH, ((top - level) / RANGE) * HIGH).toFixed(1)}`
    })
  const area = (levels: readonly number[]) => `0,${HIGH} ${line(levels).join(' ')} ${WIDE},${HIGH}`
  return (
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
        {learnt && <polygon points={area(learnt)} className="fill-rule" />}
        <polyline points={line(before).join(' ')} fill="none" className="stroke-faint" strokeWidth={1} vectorEffect="non-scaling-stroke" />
        <polyline points={line(after).join(' ')} fill="none" className="stroke-tape" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
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
  )
}

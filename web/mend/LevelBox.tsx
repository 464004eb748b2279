const HIGH = 40
/** dBFS at the bottom of the box and at its top. */
const [LOWEST, HIGHEST] = [-72, 0]

const y = (level: number): number => HIGH * (1 - (Math.max(LOWEST, Math.min(HIGHEST, level)) - LOWEST) / (HIGHEST - LOWEST))
const line = (levels: readonly number[]): string => levels.map((level, i) => `${i},${y(level).toFixed(1)}`).join(' ')

/** How loud a stretch is from moment to moment, before and after, one over the other. */
export function LevelBox({ before, after }: { before: readonly number[]; after: readonly number[] }) {
  return (
    <svg
      viewBox={`0 0 ${before.length - 1} ${HIGH}`}
      preserveAspectRatio="none"
      className="mt-2 w-full border-y border-rule"
      style={{ height: HIGH }}
      role="img"
      aria-label="Level before and after, over the stretch that is looked at"
      data-testid="mend-level"
    >
      <polyline points={line(before)} fill="none" className="stroke-faint" strokeWidth={1} vectorEffect="non-scaling-stroke" />
      <polyline points={line(after)} fill="none" className="stroke-tape" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
    </svg>
  )
}

import { clock, type Stretch } from '../../core/time'

/** Where a recording will be muted: each stretch can be left as it is. */
export function MuteList({
  stretches,
  keep,
  onKeep,
}: {
  stretches: readonly Stretch[]
  keep: readonly Stretch[]
  onKeep: (keep: Stretch[]) => void
}) {
  if (!stretches.length) return null
  const isKept = (one: Stretch) => keep.some(({ from, to }) => from === one.from && to === one.to)
  const muted = stretches.filter((one) => !isKept(one))
  const length = muted.reduce((sum, { from, to }) => sum + to - from, 0)
  return (
    <details className="col-start-2 col-end-5 text-[13px]">
      <summary className="cursor-pointer text-soft hover:text-ink">
        Muted in {muted.length} {muted.length === 1 ? 'place' : 'places'}, {clock(length)} in all
      </summary>
      <div className="flex gap-4 py-1 text-tape">
        <button type="button" className="hover:underline" onClick={() => onKeep([])}>
          Mute all
        </button>
        <button type="button" className="hover:underline" onClick={() => onKeep([...stretches])}>
          Mute none
        </button>
      </div>
      <ul className="max-h-40 columns-3 overflow-y-auto max-[1100px]:columns-2">
        {stretches.map((one) => (
          <li key={one.from}>
            <label className="flex cursor-pointer items-center gap-1.5 py-0.5">
              <input
                type="checkbox"
                className="accent-[var(--tape)]"
                checked={!isKept(one)}
                onChange={({ target }) =>
                  onKeep(target.checked ? keep.filter(({ from, to }) => from !== one.from || to !== one.to) : [...keep, one])
                }
              />
              {clock(one.from)} to {clock(one.to)}
            </label>
          </li>
        ))}
      </ul>
    </details>
  )
}

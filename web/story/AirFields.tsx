import { useState } from 'react'
import { airDay, airClock } from './airTime'

const input = 'h-9 rounded-md border border-rule bg-paper-lit px-2.5 text-[14px] text-ink focus:border-tape focus:outline-none'

/** The day and the time at which a story airs; the time is typed as one likes (18:20, 1820, 6:20 pm). What is wrong stands below. */
export function AirFields({
  airs,
  wrong,
  onChange,
}: {
  airs: string
  wrong?: string
  onChange: (typed: { day: string; time: string }) => void
}) {
  const [typed, setTyped] = useState({ day: airDay(airs), time: airClock(airs) })
  const put = (part: Partial<typeof typed>) => {
    const now = { ...typed, ...part }
    setTyped(now)
    onChange(now)
  }
  return (
    <fieldset className="flex min-w-0 flex-col gap-1">
      <legend className="mb-1 text-[12px] text-faint">Airs</legend>
      <div className="flex gap-2">
        <input
          type="date"
          aria-label="Day it airs"
          className={`${input} min-w-0 flex-1`}
          value={typed.day}
          onChange={(event) => put({ day: event.target.value })}
        />
        <input
          aria-label="Time it airs"
          className={`${input} w-20`}
          value={typed.time}
          placeholder="17:52"
          aria-invalid={Boolean(wrong)}
          onChange={(event) => put({ time: event.target.value })}
        />
      </div>
      {wrong && (
        <p role="alert" className="text-[13px] text-cut-ink">
          {wrong}
        </p>
      )}
    </fieldset>
  )
}

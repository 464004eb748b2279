import { setCallsByThemselves, useCallsByThemselves } from './callsByThemselves'

/** Calls may record by themselves as they are picked up, where the reporter asks for it. */
export function CallChoice() {
  const { on } = useCallsByThemselves()
  return (
    <label className="flex items-start gap-2 border-t border-rule pt-4 text-[14px]">
      <input
        type="checkbox"
        className="mt-1 accent-[var(--tape)]"
        checked={on}
        onChange={(event) => setCallsByThemselves(event.target.checked)}
      />
      <span>
        Record each call as it is picked up
        <span className="block text-[13px] text-soft">Whoever calls must be told that they are recorded. You are reminded of it.</span>
      </span>
    </label>
  )
}

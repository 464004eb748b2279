import { CommandKey } from '../commands/CommandButton'
import { Choice } from '../ui/parts'
import { SLOT_NAMES, type useSettings } from './useSettings'

interface Props {
  settings: ReturnType<typeof useSettings>
  hearing: 'all' | 'away' | 'off'
  onHearing: (hearing: 'all' | 'away' | 'off') => void
  equal: boolean
  onEqual: (equal: boolean) => void
  /** By how much what is heard is turned so that it is as loud as the original, in dB. */
  matched: number
}

/** What is heard while something is tried: the original, one of up to four settings, or only what is taken away. */
export function SettingsRow({ settings: { slots, active, choose }, hearing, onHearing, equal, onEqual, matched }: Props) {
  const free = slots.length < SLOT_NAMES.length
  return (
    <div className="space-y-2 border-t border-rule py-2" data-testid="mend-settings">
      <div className="flex flex-wrap items-center gap-1">
        <Slot name="Original" on={active === null} onClick={() => choose(null)} />
        {slots.map((_, slot) => (
          <Slot key={slot} name={SLOT_NAMES[slot]} on={active === slot} onClick={() => choose(slot)} />
        ))}
        {free && active !== null && (
          <button
            type="button"
            className="px-1.5 whitespace-nowrap text-tape hover:underline"
            title={`A copy of ${SLOT_NAMES[active]}, to be changed and compared`}
            onClick={() => choose(slots.length)}
          >
            copy to {SLOT_NAMES[slots.length]}
          </button>
        )}
      </div>
      <Choice
        label="Heard"
        value={hearing}
        onChange={onHearing}
        options={[
          ['all', 'Mended'],
          ['away', 'What goes'],
          ['off', 'As it was'],
        ]}
      />
      {slots.length > 1 && (
        <label className="flex items-center gap-1.5">
          <input type="checkbox" className="accent-[var(--ink)]" checked={equal} onChange={() => onEqual(!equal)} />
          At equal loudness
          {equal && matched !== 0 && (
            <span className="text-faint">
              {matched > 0 ? '+' : '−'}
              {Math.abs(matched).toFixed(1)} dB
            </span>
          )}
        </label>
      )}
      <p className="flex flex-wrap items-center gap-x-1.5 gap-y-1 text-faint">
        <span className="whitespace-nowrap">
          <CommandKey id="mend.next" /> hears the next
        </span>
        <span className="whitespace-nowrap">
          <CommandKey id="mend.apply" /> applies
        </span>
      </p>
    </div>
  )
}

function Slot({ name, on, onClick }: { name: string; on: boolean; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`min-w-7 rounded border px-1.5 py-0.5 ${on ? 'border-ink bg-ink text-paper' : 'border-rule hover:border-ink'}`}
      onClick={onClick}
    >
      {name}
    </button>
  )
}

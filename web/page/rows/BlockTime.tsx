import { createContext, use } from 'react'
import type { Placed } from '../../../core/page/timing'
import { clock, RATE, type Frames } from '../../../core/time'

/** When the blocks of a page begin: it changes for all that follow at nearly every act, and nothing else of them does. */
export interface Times {
  rows: ReadonlyMap<string, Placed>
  slot: Frames
  /** When a block must begin for the page to end with its slot, in words; null: when it does begin is shown. */
  backtime: ((row: Placed) => string) | null
}

export const TimesContext = createContext<Times>({ rows: new Map(), slot: 0, backtime: null })

/** `gap`: how long after the block above it begins; below 0 it overlaps that. */
export function BlockTime({ block, gap }: { block: string; gap: Frames }) {
  const { rows, slot, backtime } = use(TimesContext)
  const row = rows.get(block)
  const at = row?.at ?? 0
  return (
    <span
      className={`max-[860px]:text-[11.5px] max-[860px]:tracking-tight ${slot > 0 && at >= slot ? 'text-cut-ink' : ''}`}
      data-testid="block-time"
    >
      {backtime && row ? backtime(row) : clock(at)}
      {gap !== 0 && (
        <span className="block text-[11px] text-faint" title={gap > 0 ? 'Room before it' : 'It begins before the block above has ended'}>
          {gap > 0 ? '+' : '−'}
          {(Math.abs(gap) / RATE).toFixed(1)} s
        </span>
      )}
    </span>
  )
}

/** Where the slot ends, if that is within a block: beside its script, not through it. */
export function SlotEnd({ block }: { block: string }) {
  const { rows, slot } = use(TimesContext)
  const { at = 0, words = 0 } = rows.get(block) ?? {}
  if (!(slot > 0 && slot >= at && slot < at + words)) return null
  return (
    <div className="pointer-events-none absolute right-0 left-0 z-10" style={{ top: `${((slot - at) / Math.max(1, words)) * 100}%` }}>
      <span className="absolute left-0 w-[86px] border-t-2 border-cut max-[860px]:w-[60px]" />
      <span className="absolute right-0 w-[150px] border-t-2 border-cut max-[860px]:w-[84px]" />
      <span
        data-testid="slot-end"
        className="absolute right-2 -translate-y-full rounded-t bg-cut-ink px-1.5 text-[11px] font-semibold text-paper"
      >
        slot ends {clock(slot)}
      </span>
    </div>
  )
}

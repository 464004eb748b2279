import type { MouseEvent } from 'react'
import { MOST_MARGIN } from '../../core/tidy/margins'
import { isPause } from '../../core/tidy/outlook'
import { RATE, toFrames } from '../../core/time'
import { parseFigure } from '../../core/typed'
import { CommandButton } from '../commands/CommandButton'
import { FigureInput } from '../ui/FigureInput'
import { marginInWords } from './useMargins'
import type { Tidy } from './useTidy'

const keepFocus = (event: MouseEvent) => event.preventDefault()
const seconds = (text: string): number | null => {
  const typed = parseFigure(text)
  return typed !== null && typed > 0 && typed <= 10 ? typed : null
}

/** For all of a kind: how much more stays at the edges of what goes, and how long pauses are left. What was applied can follow. */
export function Margins({ tidy }: { tidy: Tidy }) {
  const { margins, places } = tidy
  if (!places.some(({ proposes }) => 'goes' in proposes)) return null
  const { edge, left, short, others } = margins
  return (
    <div className="mt-3 text-[12px] text-soft" data-testid="tidy-margins">
      <p className="flex items-center gap-1.5">
        <span className="flex-1">{marginInWords(edge)}</span>
        <CommandButton id="tidy.marginLess" label="Less" disabled={edge <= -MOST_MARGIN}>
          −
        </CommandButton>
        <CommandButton id="tidy.marginMore" label="More" disabled={edge >= MOST_MARGIN}>
          +
        </CommandButton>
      </p>
      {places.some(isPause) && (
        <label className="mt-1.5 flex items-center gap-1.5">
          <span className="flex-1">Leave all of them</span>
          <FigureInput
            label="Length that all of these are left, in seconds"
            value={left === null ? '' : (left / RATE).toFixed(2)}
            placeholder="as found"
            read={seconds}
            noun="length"
            hint="0.35, in seconds"
            onKeep={(typed) => margins.set({ left: toFrames(typed) })}
            onEmpty={() => margins.set({ left: null })}
            className="w-20 border-rule bg-paper px-1.5 py-0.5 text-right placeholder:text-faint"
          />
          s
        </label>
      )}
      {short > 0 && <p className="mt-1">{short === 1 ? 'One is' : `${short} are`} too short for that, and stay as found.</p>}
      {others > 0 && (
        <button type="button" className="mt-1.5 text-tape hover:underline" onMouseDown={keepFocus} onClick={margins.setOthers}>
          Change the {others} applied, too
        </button>
      )}
    </div>
  )
}

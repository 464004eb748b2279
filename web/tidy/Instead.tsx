import { leaving, leftOf, levelOf, turnedBy } from '../../core/tidy/changes'
import { RATE, toFrames } from '../../core/time'
import { parseFigure } from '../../core/typed'
import { CommandKey } from '../commands/CommandButton'
import { FigureInput } from '../ui/FigureInput'
import type { Place } from './useKinds'
import type { Tidy } from './useTidy'

const LINK = 'text-soft hover:text-ink hover:underline'
const FIELD = 'w-14 border-rule bg-paper px-1.5 py-0.5 text-right'

/** What may be done at a place instead of what is proposed: another figure, turned down, or muted. */
export function Instead({ tidy, place }: { tidy: Tidy; place: Place }) {
  const left = leftOf(place)
  const level = levelOf(place)
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-[12px] text-soft" data-testid="tidy-instead">
      {left !== null && (
        <label className="flex items-center gap-1.5">
          Leave
          <FigureInput
            label="Length of the pause in seconds"
            value={(left / RATE).toFixed(2)}
            read={parseFigure}
            noun="length"
            hint="0.35, in seconds"
            onKeep={(seconds) => tidy.change(leaving(place, toFrames(seconds)))}
            className={FIELD}
          />
          s <CommandKey id="join.gapShorter" /> <CommandKey id="join.gapLonger" />
        </label>
      )}
      {level !== null ? (
        <label className="flex items-center gap-1.5">
          By
          <FigureInput
            label="Level in dB"
            value={String(level).replace('-', '−')}
            read={parseFigure}
            noun="level"
            hint="-9, in dB"
            onKeep={(dB) => tidy.change(turnedBy(place, dB))}
            className={FIELD}
          />
          dB <CommandKey id="level.softer" /> <CommandKey id="level.louder" />
        </label>
      ) : (
        'goes' in place.proposes && (
          <button type="button" className={LINK} onClick={() => tidy.change(turnedBy(place, -9))}>
            Turn down <CommandKey id="level.softer" />
          </button>
        )
      )}
      {place.proposes.do !== 'mute' && (
        <button type="button" className={LINK} onClick={tidy.mute}>
          Mute <CommandKey id="edit.mute" />
        </button>
      )}
      {tidy.changed && (
        <button type="button" className={LINK} onClick={() => tidy.change(null)}>
          As proposed
        </button>
      )}
    </div>
  )
}

import { clock, type Frames } from '../../../core/time'
import { panText, parsePan } from '../../../core/typed'
import { FigureInput } from '../../ui/FigureInput'
import type { PanStop } from '../../../core/page/story'

interface Props {
  stops: readonly PanStop[]
  /** The place of the page at which a stop counts. */
  onPage: (at: Frames) => Frames
  /** Another place for a stop; none for one that is removed. The first one there is, where nothing was said yet. */
  onSet: (index: number, to: number | null) => void
}

/** Where a sound is heard between left and right: one row where it stays, one for each place to which it moves. */
export function PanRows({ stops, onPage, onSet }: Props) {
  const rows = stops.length ? stops : [{ at: 0, to: 0 }]
  return rows.map(({ at, to }, i) => (
    <div key={at} className="flex items-baseline justify-between gap-2 border-b border-rule py-1.5">
      <span>{i ? `Pan at ${clock(onPage(at))}` : 'Pan'}</span>
      <span className="flex items-baseline gap-2 whitespace-nowrap">
        {i > 0 && (
          <button type="button" className="text-[12px] text-tape hover:underline" onClick={() => onSet(i, null)}>
            remove
          </button>
        )}
        <FigureInput
          label={i ? `Pan, place ${i + 1}` : 'Pan'}
          value={panText(to)}
          read={parsePan}
          noun="place"
          hint="30 left, 30 right or middle"
          onKeep={(value) => onSet(i, value)}
          className="w-[88px] border-transparent bg-transparent px-1 text-right font-semibold hover:border-rule"
        />
      </span>
    </div>
  ))
}

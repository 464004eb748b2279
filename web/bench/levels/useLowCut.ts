import { toast } from 'sonner'
import { LOW_CUT, lowCutIn, setLowCut } from '../../../core/edits/lowCut'
import { overEach } from '../../../core/edits/several'
import type { Stretch } from '../../../core/time'
import type { Bench } from '../bench'

/** What rumbles lies below this, and no voice does, in hertz. */
const USUAL = 80

const NOTHING = 'Select the passage that rumbles.'

/** The frequency that was set last is set by the key. */
const lastSet = (): number => Math.min(LOW_CUT.most, Math.max(LOW_CUT.least, Number(localStorage.lowCut) || USUAL))

/** A low cut over what is selected: the same key sets it and takes it away; its frequency is typed in the level panel. */
export function useLowCut({ live, selected, act }: Bench, passages: readonly Stretch[]) {
  const set = (hertz: number | null) => {
    if (!passages.length) return void toast(NOTHING)
    if (hertz !== null) localStorage.lowCut = String(hertz)
    const steps = overEach(live.body, passages, (piece, stretch) => setLowCut(piece, stretch, hertz))
    act(steps, hertz === null ? 'low cut off' : `low cut ${hertz} Hz`)
  }
  const there = passages.some((one) => lowCutIn(live.body, one) !== null)
  return {
    /** Below how many hertz what is selected is cut, or null; and what sets that. */
    lowCut: { hertz: selected && lowCutIn(live.body, selected), set },
    commands: {
      'level.lowCut': {
        run: () => set(passages.some((one) => lowCutIn(live.body, one) !== null) ? null : lastSet()),
        title: there ? 'Low cut off' : `Low cut, ${lastSet()} Hz`,
        unable: passages.length ? null : NOTHING,
        on: there,
      },
    },
  }
}

import { toast } from 'sonner'
import { clipLength, type ActualityStep } from '../../../core/edits/actuality'
import { asRecorded, fadesOff, patchesOff } from '../../../core/edits/asRecorded'
import type { Bench } from '../bench'

/** What was done comes off again, one kind at a time: over what is selected, or in all of the piece. */
export function useTakingOff({ live, factsOf, selected, setChosen, act }: Bench) {
  const now = () => live.body
  const over = () => selected ?? { from: 0, to: clipLength(now()) }
  const off = (steps: ActualityStep[], label: string, none: string) => {
    if (!steps.length) return void toast(none, { duration: 2000 })
    act(steps, label)
  }
  return {
    'off.patches': () => off(patchesOff(now(), over()), 'patches off', 'Nothing is patched there.'),
    'off.fades': () =>
      off(
        fadesOff(now(), over(), (tape) => factsOf(tape).frames),
        'plain fades',
        'The fades there are plain already.',
      ),
    'off.all': () => {
      if (!selected) return void toast('Select the passage to reset.')
      const steps = asRecorded(now(), selected)
      if (!steps.length) return void toast('Its ends are not in order on one tape: select less.')
      act(steps, 'as recorded')
      setChosen(null)
    },
  }
}

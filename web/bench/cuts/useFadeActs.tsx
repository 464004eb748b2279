import { useState } from 'react'
import { toast } from 'sonner'
import type { EndFade } from '../../../core/edits/actuality'
import { cuts, edits, type Edit } from '../../../core/edits/editList'
import { overlap, setEndFade, setFade, setFades, type CrossFade } from '../../../core/edits/fades'
import type { Frames } from '../../../core/time'
import { keysInWords } from '../../commands/keys'
import type { Bench } from '../bench'
import { FadesDialog } from './FadesDialog'
import { keepOwnFades, ownFades } from '../../joins/ownFades'
import { cutNear } from '../cutNear'

/** Crossfades, overlaps, and the fades at the ends. `cut`: the one that is worked on; `step`: by how much a key changes a fade. */
export function useFadeActs({ live, piece, factsOf, setChosen, act }: Bench, chosen: Edit | undefined, step: Frames) {
  const [open, setOpen] = useState(false)
  const now = () => live.body
  const framesOf = (tape: string) => factsOf(tape).frames
  const here = () => chosen && edits(now().spans).find(({ at }) => at === chosen.at)
  const noJoin = () => void toast(`Choose a join first: click one, or press ${keysInWords('join.previous', 'join.next')}.`)

  const fade = (wanted: (join: CrossFade) => CrossFade) => {
    const cut = here()
    if (!cut) return noJoin()
    const steps = setFade(cut, wanted(cut.join), framesOf)
    if (steps.length) act(steps, 'crossfade')
    else toast('The crossfade can’t get any longer or shorter.', { duration: 1500 })
  }
  const overlapBy = (by: Frames) => {
    const cut = here()
    if (!cut) return noJoin()
    const steps = overlap(now(), cut, by)
    if (!steps.length) return void toast(by > 0 ? 'There is nothing left to overlap.' : 'They no longer overlap.', { duration: 1500 })
    act(steps, by > 0 ? 'overlap' : 'less overlap')
    setChosen(cutNear(now(), cut.at)?.at ?? null)
  }
  const everywhere = (wanted: CrossFade) => {
    const { steps, shortened, left } = setFades(cuts(now().spans), wanted, framesOf)
    if (steps.length) act(steps, 'crossfades, all')
    const count = (n: number, text: string) => (n ? `, ${n} ${text}` : '')
    const done = steps.length ? `Set at ${steps.length} ${steps.length === 1 ? 'join' : 'joins'}` : 'Nothing to change'
    toast(`${done}${count(shortened, 'shortened to fit')}${count(left, 'unchanged')}.`)
  }
  const end = (which: 'fadeIn' | 'fadeOut', value: EndFade | null) => {
    const steps = setEndFade(now(), which, value)
    if (steps.length) act(steps, which === 'fadeIn' ? 'fade in' : 'fade out')
  }

  const dialog = open && (
    <FadesDialog
      piece={piece}
      cut={here() ?? null}
      joins={piece.spans.length - 1}
      own={ownFades()}
      onJoin={(wanted) => fade(() => wanted)}
      onAll={everywhere}
      onEnd={end}
      onOwn={(fades) => {
        keepOwnFades(fades)
        toast('Saved in this browser for new cuts and pieces.')
      }}
      onClose={() => setOpen(false)}
    />
  )
  const commands = {
    'join.fades': () => setOpen(true),
    'join.fadeShorter': () => fade(({ fade: length, shape }) => ({ fade: Math.max(0, length - step), shape })),
    'join.fadeLonger': () => fade(({ fade: length, shape }) => ({ fade: length + step, shape })),
    'join.shape': () => fade(({ fade: length, shape }) => ({ fade: length, shape: shape === 'power' ? 'gain' : 'power' })),
    'join.overlapLess': () => overlapBy(-2 * step),
    'join.overlapMore': () => overlapBy(2 * step),
  }
  return { dialog, overlapBy, fadeTo: (length: Frames) => fade(({ shape }) => ({ fade: length, shape })), commands }
}

import { toast } from 'sonner'
import { clipLength, type ActualityStep, type Offcut } from '../../../core/edits/actuality'
import { joinAt, listLength, slice } from '../../../core/edits/editList'
import { unsplit } from '../../../core/edits/fades'
import { mute, muted } from '../../../core/edits/mute'
import { dropOffcut, offcutsOf, takeBack } from '../../../core/edits/offcuts'
import { besidePhrase, movePassage, putIn } from '../../../core/edits/order'
import { RATE, type Frames, type Stretch } from '../../../core/time'
import { copied, type Bench } from '../bench'
import { withPlacedJoins } from '../../joins/placedJoins'
import { overlaps } from '../../../core/stretches'

/** The order of what is said: passages moved, copied, set aside, split, muted. `chosen`: the join that is worked on. */
export function useOrderActs(
  { live, factsOf, wordsOf, kept, selected, passages, place, goTo, setChosen, act }: Bench,
  chosen: Frames | null,
) {
  const now = () => live.body
  const placed = (steps: ActualityStep[], places: readonly Frames[]) => withPlacedJoins(now(), steps, places, factsOf, wordsOf)

  /** Moves a passage to before what stands at a place; what is moved stays selected. */
  const moveTo = (passage: Stretch, to: Frames, label: string) => {
    const steps = movePassage(now(), passage, to)
    if (!steps.length) return
    const length = passage.to - passage.from
    const later = to > passage.from
    const at = later ? to - length : to
    const better = kept.some((word) => word.at >= passage.from - 1 && word.end <= passage.to + 1)
      ? placed(
          steps,
          [later ? passage.from : passage.to, at, at + length].filter((one) => one > 0),
        )
      : Promise.resolve(null)
    // the selection goes along with what is moved
    void live.actAtOnce(steps, { label }, better)
    goTo(at)
  }
  /** To before the phrase before it, or behind the one after it. */
  const movePhrase = (by: 1 | -1) => {
    if (!selected) return void toast('Select the passage to move.')
    const to = besidePhrase(kept, selected, by, clipLength(now()) - now().tail)
    if (to === null) return void toast(by < 0 ? 'It is already first.' : 'It is already last.', { duration: 1500 })
    moveTo(selected, to, by < 0 ? 'move earlier' : 'move later')
  }

  const copy = () => {
    if (!passages.length) return
    copied.spans = passages.flatMap(({ from, to }) => slice(now().spans, from, to))
    toast(`${(listLength(copied.spans) / RATE).toFixed(1)} s copied.`, { duration: 1500 })
  }
  const paste = () => {
    if (!copied.spans.length) return void toast('Nothing is copied yet.')
    act(putIn(now(), copied.spans, place()), 'paste')
  }

  const split = () => {
    const at = place()
    if (at <= 0 || at >= clipLength(now()) || joinAt(now().spans, at)) return void toast('Can’t split here.')
    act([{ type: 'replace', from: at, to: at, insert: [], after: { fade: 0, shape: 'gain', origin: 'split', heard: true } }], 'split')
    setChosen(at)
  }
  const rejoin = () => {
    const steps = chosen === null ? [] : unsplit(now(), chosen)
    if (!steps.length) return void toast('Something was taken out at this join. Only a split can be rejoined.')
    act(steps, 'join again')
    setChosen(null)
  }

  const switchMute = () => {
    const [first] = muted(now())
    const here = muted(now()).find(({ from, to }) => place() >= from && place() < to)
    const over = passages.length ? passages : here ? [here] : []
    if (!over.length)
      return void toast(
        first ? 'Select a passage to mute, or move the playhead into a muted one to unmute it.' : 'Select a passage to mute.',
      )
    const silent = muted(now()).some((one) => over.some((passage) => overlaps(one, passage)))
    live.actEach(
      over.map((passage) => (body) => mute(body, passage, !silent)),
      { label: silent ? 'unmute' : 'mute' },
    )
  }

  const bringBack = (offcut: Offcut) => {
    const at = place()
    const steps = takeBack(now(), offcut, at)
    const length = offcut.spans.reduce((sum, span) => sum + span.to - span.from, 0)
    void live.actAtOnce(
      steps,
      { label: 'take back' },
      placed(
        steps,
        [at, at + length].filter((one) => one > 0 && one < clipLength(now()) + length),
      ),
    )
    setChosen(at === 0 ? length : at)
  }
  const bringBackLast = () => {
    const last = offcutsOf(now()).at(-1)
    if (last) bringBack(last)
    else toast('This piece has no offcuts.')
  }

  return {
    moveTo,
    bringBack,
    drop: (offcut: Offcut) => act(dropOffcut(offcut), 'remove an offcut'),
    switchMute,
    unmute: (stretch: Stretch) => act(mute(now(), stretch, false), 'unmute'),
    commands: {
      'page.up': { run: () => movePhrase(-1), title: 'Move the passage earlier', unable: selected ? null : 'Select the passage to move.' },
      'page.down': { run: () => movePhrase(1), title: 'Move the passage later', unable: selected ? null : 'Select the passage to move.' },
      'edit.copy': copy,
      'edit.paste': paste,
      'edit.split': split,
      'edit.unsplit': rejoin,
      'edit.takeBack': bringBackLast,
    },
  }
}

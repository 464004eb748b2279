import { mapPosition, type ActualityStep } from '../../core/edits/actuality'
import type { Frames } from '../../core/time'
import type { LiveDocument } from '../documents/liveDocument'

/** A place of a piece that goes along with every edit until it is asked for: what was found before waiting is not where it was after it. */
export function followPlace(live: LiveDocument<'actuality'>, at: Frames): () => Frames {
  let place = at
  const end = live.onSteps((steps) => (place = (steps as ActualityStep[]).reduce((position, step) => mapPosition(step, position), place)))
  return () => {
    end()
    return place
  }
}

/** Does things that wait for sound one after another: each finds the piece as the one before left it. */
export function inTurn(): (act: () => Promise<void>) => Promise<void> {
  let last = Promise.resolve()
  return (act) => (last = last.then(act, act))
}

import { overlapsAny } from '../stretches'
import type { Stretch } from '../time'
import type { Found, Looked } from './finder'

/**
 * What goes on a tape of several sides goes through all of them, so that they stay in step. Where another side speaks there,
 * only the side that it is on is muted instead.
 */
export function throughSides(looked: Looked, found: readonly Found[]): Found[] {
  const { heard, sides } = looked
  if (!heard || heard.length < 2) return [...found]
  return found.map((one): Found => {
    if (!('goes' in one.proposes)) return one
    const side = one.side ?? sides.indexOf(one.speaker ?? '')
    if (side < 0) return one
    const { goes } = one.proposes
    return othersSpeak(looked, side, goes) ? { ...one, side, proposes: { do: 'mute' } } : one
  })
}

/** Whether another side speaks over a place. */
export const othersSpeak = ({ heard }: Looked, side: number, place: Stretch): boolean =>
  Boolean(heard?.some((one, i) => i !== side && overlapsAny(one.voices, place)))

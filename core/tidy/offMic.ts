import { onSides } from './bySound'
import type { Finder } from './finder'
import { milliseconds, type Frames } from '../time'

/**
 * A voice that is heard faintly on somebody else's side, or a listener's “mm” under an answer: it is far softer than what that
 * side says itself, and another side speaks at the time. The side is muted there.
 */

/** Bleed is let go of a little before and behind. */
const AROUND: Frames = milliseconds(20)
/** So much of it lies under what another side says. */
const UNDER = 0.8

export const offMic: Finder = (looked) => ({
  setting: { unit: 'dB', least: 6, most: 30, step: 1, usual: 12 },
  find: (softer) =>
    looked.heard && looked.heard.length > 1
      ? onSides(looked, (side, index) => {
          const own = side.level ?? -Infinity
          return side.phrases.flatMap(({ from, to, level }) => {
            if (level > own - softer) return []
            const under = looked.heard!.reduce((sum, other, i) => {
              if (i === index) return sum
              return sum + other.voices.reduce((all, one) => all + Math.max(0, Math.min(one.to, to) - Math.max(one.from, from)), 0)
            }, 0)
            if (under < UNDER * (to - from)) return []
            return [{ from: Math.max(0, from - AROUND), to: to + AROUND, proposes: { do: 'mute' as const }, sure: 0.8 }]
          })
        })
      : [],
})

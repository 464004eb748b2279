import type { Stretch } from '../time'
import type { Looked } from './finder'

/**
 * How loud a take is, in dBFS, by the phrases of it that were heard: those of the side on which it is loudest. Null where nobody has
 * listened yet, or nothing is heard there.
 */
export function levelOf({ heard }: Pick<Looked, 'heard'>, { from, to }: Stretch): number | null {
  const sides = (heard ?? []).flatMap(({ phrases }) => {
    let [power, frames] = [0, 0]
    for (const phrase of phrases) {
      const within = Math.min(to, phrase.to) - Math.max(from, phrase.from)
      if (within <= 0 || phrase.level === -Infinity) continue
      power += within * 10 ** (phrase.level / 10)
      frames += within
    }
    return frames ? [10 * Math.log10(power / frames)] : []
  })
  return sides.length ? Math.max(...sides) : null
}

/** By how much one of several takes is turned to be as loud as they are on average, in dB; 0 where that is not known. */
export function toOneLevel(looked: Pick<Looked, 'heard'>, takes: readonly Stretch[], take: Stretch): number {
  const levels = takes.map((one) => levelOf(looked, one)).filter((level) => level !== null)
  const own = levelOf(looked, take)
  if (own === null || levels.length < 2) return 0
  return levels.reduce((sum, level) => sum + level, 0) / levels.length - own
}

import { milliseconds, type Frames } from '../time'
import type { Dictionary } from './pronounce'
import { pronounced } from './pronounce'
import { spoken } from './spoken'

/** The sound that a word ends with, and how long such sounds last. */

/** In ARPAbet, by the first way in which it is said; null for a text that nothing is said of. */
export function lastSound(text: string, dictionary: Dictionary): string | null {
  const word = spoken(text).at(-1)
  if (word === undefined) return null
  const [way = pronounced(word).join(' ')] = dictionary(word)
  return way.trim().split(' ').at(-1) ?? null
}

/**
 * Breathed sounds, which noise hides first, and how long they go on with nothing of them heard; a voiced one is never
 * wholly hidden: inherent durations of Klatt's rules (Allen, Hunnicutt and Klatt, From Text to Speech, 1987).
 */
const BREATHED: Readonly<Record<string, Frames>> = {
  F: milliseconds(100),
  TH: milliseconds(90),
  S: milliseconds(105),
  SH: milliseconds(105),
  CH: milliseconds(70),
  HH: milliseconds(80),
  Z: 0,
  ZH: 0,
}
/** A stop at a word's end has nothing after it but its release. */
const STOPS = new Set(['P', 'T', 'K', 'B', 'D', 'G'])
const RELEASE: Frames = milliseconds(40)

/** How long a last sound goes on where nothing of it is heard any more; null for one that dies away as it is heard to. */
export function lastsUnheard(sound: string | null): { kind: 'breathed' | 'stop'; length: Frames } | null {
  if (sound === null) return null
  if (Object.hasOwn(BREATHED, sound)) return { kind: 'breathed', length: BREATHED[sound] }
  return STOPS.has(sound) ? { kind: 'stop', length: RELEASE } : null
}

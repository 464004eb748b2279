import { LOOK } from '../hearing/levels'
import type { Stretch } from '../time'

/** What one source of a conversation caught: the mean square of each look (20 ms), all on one clock. */
export interface Caught {
  looks: ArrayLike<number>
  /** It holds several voices mixed, and is heard only where nobody speaks who has a microphone of their own. */
  mixed: boolean
}

/** Looks before the first sound and after the last in which a side is open: 120 ms and 300 ms. */
const AHEAD = 6
const AFTER = 15
/** A side that would be closed for less than this stays open: 0.6 s. */
const SHORTEST = 30
/**
 * A speaker is heard on their own microphone where it is this close to the source that is loudest, each against the level
 * of its own speech.
 */
const CLOSE_DB = 10
export const OVER_FLOOR_DB = 8
/** So far below its own speaker's level there is nothing to open for. */
const SOFTEST_DB = -32

const dB = (power: number): number => 10 * Math.log10(power + 1e-12)

/**
 * Where each side gives way to its room, so that every voice is heard once: on its own microphone,
 * without what the others' microphones caught of it. Each is measured against the level of its own
 * speaker, so that a loud neighbour is not taken for a soft owner. Opens early enough for a first
 * consonant.
 */
export function hushes(sides: readonly Caught[]): Stretch[][] {
  const count = Math.max(0, ...sides.map(({ looks }) => looks.length))
  const all = sides.map((side) => ({ side, ...levelsOf(side.looks, count) }))
  const active = new Map(sides.filter(({ mixed }) => !mixed).map((side) => [side, new Uint8Array(count)]))
  for (let i = 0; i < count; i++) {
    const loudest = Math.max(...all.map(({ levels, speech }) => levels[i] - speech))
    for (const { side, levels, speech, floor } of all) {
      if (side.mixed) continue
      const against = levels[i] - speech
      if (levels[i] > floor + OVER_FLOOR_DB && against > SOFTEST_DB && against > loudest - CLOSE_DB) active.get(side)![i] = 1
    }
  }
  const spoken = new Uint8Array(count)
  const open = new Map([...active].map(([side, looks]) => [side, widened(looks)]))
  for (const looks of open.values()) looks.forEach((on, i) => (spoken[i] |= on))
  return sides.map((side) => (side.mixed ? stretches(spoken, 1, 1) : stretches(open.get(side)!, 0, SHORTEST)))
}

/** Levels of the looks, of the room and of whoever speaks into it: what a twentieth of the sound over the room is above. */
export function levelsOf(looks: ArrayLike<number>, count: number): { levels: Float32Array; floor: number; speech: number } {
  const levels = Float32Array.from({ length: count }, (_, i) => dB(looks[i] ?? 0))
  const sorted = [...levels].filter((level) => level > -100).sort((a, b) => a - b)
  const floor = sorted[Math.floor(sorted.length * 0.1)] ?? -120
  const over = sorted.filter((level) => level > floor + OVER_FLOOR_DB)
  return { levels, floor, speech: over[Math.floor(over.length * 0.95)] ?? 0 }
}

/** Each run a little earlier and later, and short gaps in it closed. */
function widened(looks: Uint8Array): Uint8Array {
  const out = new Uint8Array(looks.length)
  for (let i = 0; i < looks.length; i++) if (looks[i]) out.fill(1, Math.max(0, i - AHEAD), i + AFTER + 1)
  for (const { from, to } of runs(out, 0)) if (to - from < SHORTEST) out.fill(1, from, to)
  return out
}

function runs(looks: Uint8Array, value: number): { from: number; to: number }[] {
  const found: { from: number; to: number }[] = []
  for (let i = 0, start = -1; i <= looks.length; i++) {
    const on = i < looks.length && looks[i] === value
    if (on && start < 0) start = i
    if (!on && start >= 0) {
      found.push({ from: start, to: i })
      start = -1
    }
  }
  return found
}

const stretches = (looks: Uint8Array, value: number, shortest: number): Stretch[] =>
  runs(looks, value)
    .filter(({ from, to }) => to - from >= shortest)
    .map(({ from, to }) => ({ from: from * LOOK, to: to * LOOK }))

/** How far a microphone's speaker stands out from its room, in dB: of several that caught one speaker the best has most. */
export const clarity = (looks: ArrayLike<number>): number => {
  const { speech, floor } = levelsOf(looks, looks.length)
  return speech - floor
}

/** How alike the ups and downs of two sources' levels must be, where 1 is wholly. */
const SAME_VOICE = 0.8

/**
 * Whether two sources caught one and the same voice from near by: over their rooms their levels, in dB,
 * rise and fall together. A microphone that only caught the bleed of a voice has its own speaker besides.
 */
export function sameVoice(a: ArrayLike<number>, b: ArrayLike<number>): boolean {
  const count = Math.min(a.length, b.length)
  const [one, other] = [a, b].map((looks) => {
    const { levels, floor } = levelsOf(looks, count)
    const over = levels.map((level) => Math.max(0, level - floor - OVER_FLOOR_DB))
    const mean = over.reduce((sum, level) => sum + level, 0) / (count || 1)
    return over.map((level) => level - mean)
  })
  const product = (x: Float32Array, y: Float32Array) => x.reduce((sum, level, i) => sum + level * y[i], 0)
  const power = Math.sqrt(product(one, one) * product(other, other))
  return power > 0 && product(one, other) / power > SAME_VOICE
}

import { milliseconds, type Frames, type Stretch } from '../time'

/**
 * A click or a digital glitch is bridged with what sounded a little before or after it, some periods
 * of the voice away, where the wave agrees best: waveform substitution (Goodman, Lockhart, Wasem and
 * Wong, 1986).
 */

/** What is longer is a spot to be patched. */
export const LONGEST_BRIDGE: Frames = milliseconds(60)
const COMPARED = milliseconds(8)
/** From the highest voice's period to some periods of a low one. */
const [NEAREST, FURTHEST] = [milliseconds(2.5), milliseconds(45)]

/** `spot` and the answer in frames of `sound`; null where there is too little sound around it. */
export function bridge(sound: Float32Array, { from, to }: Stretch): Stretch | null {
  const length = to - from
  const around = [sound.subarray(Math.max(0, from - COMPARED), from), sound.subarray(to, to + COMPARED)]
  let best: { by: Frames; like: number } | null = null
  for (const side of [-1, 1])
    for (let away = length + NEAREST; away <= length + FURTHEST; away++) {
      const by = side * away
      if (from + by - COMPARED < 0 || to + by + COMPARED > sound.length) continue
      const like = alike(around[0], sound, from - around[0].length + by) + alike(around[1], sound, to + by) - away / FURTHEST / 50
      if (!best || like > best.like) best = { by, like }
    }
  return best && { from: from + best.by, to: to + best.by }
}

/** Normalised correlation of a few samples with those that begin at `start`. */
function alike(few: Float32Array, sound: Float32Array, start: Frames): number {
  let [product, own, other] = [0, 1e-9, 1e-9]
  for (let i = 0; i < few.length; i++) {
    product += few[i] * sound[start + i]
    own += few[i] ** 2
    other += sound[start + i] ** 2
  }
  return product / Math.sqrt(own * other)
}

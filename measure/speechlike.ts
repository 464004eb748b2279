import { random } from '../core/sound/random'
import { RATE, type Frames } from '../core/time'
import type { Word } from '../core/tape/words'

/** Made-up tape from a fixed seed: bursts like syllables with pauses between them, over a room's noise. */

const VOCABULARY = (
  'the boat night quay harbour nobody told us and they would be standing on a board with engine running council ' +
  'says eleven minutes island mother nurses shift fish plant ferry counted passengers regatta moorings'
).split(' ')

/** Words with times for a tape of so many frames. */
export function words(length: Frames, count: number, seed = 1): Word[] {
  const next = random(seed)
  const share = length / count
  const out: Word[] = []
  for (let i = 0; i < count; i++) {
    const from = Math.round(i * share + share * 0.02)
    const text = VOCABULARY[Math.floor(next() * VOCABULARY.length)]
    const stop = next() < 0.09
    const long = Math.min(0.94, 0.45 + 0.4 * next())
    out.push({
      text: stop ? `${text}.` : text,
      from,
      to: Math.round(from + share * (stop ? long * 0.7 : long)),
      speaker: Math.floor(i / 60) % 2 ? 'Piet Aldous' : 'Tamsin Roe',
    })
  }
  return out
}

/** Frames of such a tape, in blocks, to be written as they come. */
export function* sound(length: Frames, said: readonly Word[], seed = 2): Generator<Float32Array> {
  const next = random(seed)
  let word = 0
  let phase = 0
  for (let at = 0; at < length; at += RATE) {
    const block = new Float32Array(Math.min(RATE, length - at))
    for (let i = 0; i < block.length; i++) {
      const frame = at + i
      while (word < said.length && said[word].to <= frame) word++
      const now = said[word]
      let sample = (next() - 0.5) * 0.004
      if (now && frame >= now.from) {
        const t = (frame - now.from) / (now.to - now.from)
        phase += (2 * Math.PI * (110 + 20 * Math.sin(word))) / RATE
        sample += 0.35 * Math.sin(Math.PI * t) * (Math.sin(phase) + 0.5 * Math.sin(2 * phase) + 0.3 * (next() - 0.5))
      }
      block[i] = sample
    }
    yield block
  }
}

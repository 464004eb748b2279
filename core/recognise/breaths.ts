import { BANDS, LOOK_STEP, SoundLooks } from '../align/bands'
import { milliseconds, type Frames, type Stretch } from '../time'

/**
 * Breaths in the pauses between words: stretches of noise without a voice, out of the room and
 * under the talk. What lies against a word and is short is the word's own end, and no breath.
 */

const STEP = milliseconds(10) / LOOK_STEP
/** From here on, some 1 kHz, a breath has its noise; below lie voices and rumble. */
const HIGH = 5
const SHORTEST = milliseconds(110)
const LONGEST = milliseconds(900)
/** Two parts of one breath may lie so far apart. */
const GAP = milliseconds(40)
const OVER_ROOM = 6
const UNDER_TALK = 6
/** What sounds on so near to a word goes with it, unless it goes on for long. */
const TAIL = milliseconds(30)
const LONG = milliseconds(200)
/** A word's own sound may reach so far beyond it, and so many looks of a voice beyond that are a bump. */
const BESIDE = milliseconds(60)
const VOICED = 3

/** `words` in order; both in frames of `sound`. */
export function breathsBetween(sound: Float32Array, words: readonly Stretch[]): Stretch[] {
  const looks = new SoundLooks(sound)
  const high: number[] = []
  const noisy: boolean[] = []
  for (let i = 0; i < looks.count; i += STEP) {
    const bands = looks.bands(i)
    high.push(mean(bands, HIGH, BANDS))
    noisy.push(mean(bands, HIGH, BANDS) > mean(bands, 0, HIGH) - 3)
  }
  const at = (frame: Frames): number => Math.min(high.length, Math.round(frame / milliseconds(10)))
  const inWord = words.flatMap(({ from, to }) => high.slice(at(from), at(to))).sort((a, b) => a - b)
  if (!inWord.length) return []
  const room = [...high].sort((a, b) => a - b)[Math.floor(high.length / 10)]
  const talk = inWord[Math.floor(inWord.length * 0.6)]

  const found: Stretch[] = []
  let end = 0
  for (const next of [...words, { from: sound.length, to: sound.length }]) {
    const runs: Stretch[] = []
    let voiced = 0
    for (let i = at(end); i < at(next.from); i++) {
      if (!noisy[i] && high[i] > room + OVER_ROOM && milliseconds(10 * i) - end > BESIDE && next.from - milliseconds(10 * i) > BESIDE)
        voiced++
      if (!noisy[i] || high[i] < room + OVER_ROOM || high[i] > talk - UNDER_TALK) continue
      const [from, to] = [milliseconds(10 * i), milliseconds(10 * (i + 1))]
      const last = runs[runs.length - 1]
      if (last && from - last.to <= GAP) last.to = to
      else runs.push({ from, to })
    }
    const length = ({ from, to }: Stretch) => to - from
    const own = (run: Stretch) => (end > 0 && run.from - end <= TAIL) || (next.from < sound.length && next.from - run.to < milliseconds(5))
    // somebody speaks there whom nobody wrote down: what hisses is a sound of theirs
    if (voiced <= VOICED) found.push(...runs.filter((run) => length(run) >= (own(run) ? LONG : SHORTEST) && length(run) <= LONGEST))
    end = Math.max(end, next.to)
  }
  return found
}

function mean(bands: Float32Array, from: number, to: number): number {
  let sum = 0
  for (let i = from; i < to; i++) sum += bands[i]
  return sum / (to - from)
}

import { speak, type Voice } from '../demo/speech'
import { random } from '../core/sound/random'
import { milliseconds, RATE, toFrames, type Frames } from '../core/time'
import { heardBy, type Microphone } from './conversation'
import { sentenceOf, type Truth } from './spoken'

/**
 * Voices whose sentences die away as those of people do: the last sound of each is drawn out and sinks, and now and
 * then a breath follows. The voices are synthetic (flite).
 */

/** A word has ended where it is so far below its own loudest, or lost in the quietest of rooms (so far below speech), in dB. */
const BELOW_OWN = 40
const QUIET_ROOM = 45
/** What stands so far over the room is plainly heard, in dB. */
const OVER_ROOM = 6
const LOOK: Frames = milliseconds(10)

export interface Decaying {
  sound: Float32Array
  truth: Truth[]
  /** For each last word of a sentence: its index, and the last frame of it that stands 6 dB over the room. */
  ends: { word: number; last: Frames }[]
}

interface Part {
  samples: Float32Array
  words: Truth[]
  /** The last word alone, without breath or room, as it lies in `samples`. */
  lastWord: { from: Frames; to: Frames }
}

/** The last 40 ms of a sound drawn out over `length` frames while they sink by `fall` dB. */
function drawnOut(end: Float32Array, length: Frames, fall: number, next: () => number): Float32Array {
  const period = periodOf(end)
  const out = new Float32Array(length)
  for (let i = 0; i < length; i++) {
    // a voice goes on with its last period, a hiss with its last moments in any order
    const at = period ? end.length - period + (i % period) : Math.floor(next() * end.length)
    out[i] = end[at] * 10 ** (-(fall * i) / length / 20)
  }
  return out
}

/** The period of a voice in frames, 0 where there is none (autocorrelation). */
function periodOf(sound: Float32Array): Frames {
  let best = 0
  let most = 0.5
  for (let lag = milliseconds(2.5); lag <= Math.min(milliseconds(12), sound.length / 2); lag++) {
    let [both, one, other] = [0, 1e-12, 1e-12]
    for (let i = lag; i < sound.length; i++) {
      both += sound[i] * sound[i - lag]
      one += sound[i] ** 2
      other += sound[i - lag] ** 2
    }
    const like = both / Math.sqrt(one * other)
    if (like > most) [best, most] = [lag, like]
  }
  return best
}

function partOf(voice: Voice, text: string, next: () => number): Part {
  const { samples, words } = speak(voice, text)
  const last = words[words.length - 1]
  const cut = Math.min(samples.length - milliseconds(12), last.to - milliseconds(8))
  const tail = drawnOut(samples.slice(cut - milliseconds(40), cut), toFrames(0.05 + 0.17 * next()), 30 + 12 * next(), next)
  const breath =
    next() < 0.4 ? { after: toFrames(0.06 + 0.2 * next()), length: toFrames(0.15 + 0.25 * next()), level: 0.004 + 0.008 * next() } : null
  const all = new Float32Array(cut + tail.length + (breath ? breath.after + breath.length : 0))
  all.set(samples.subarray(0, cut))
  all.set(tail, cut)
  if (breath)
    for (let i = 0; i < breath.length; i++)
      all[cut + tail.length + breath.after + i] += breath.level * Math.sin((Math.PI * i) / breath.length) * (2 * next() - 1)
  return { samples: all, words: words.map((word) => ({ ...word })), lastWord: { from: last.from, to: cut + tail.length } }
}

const levelOf = (sound: Float32Array, from: Frames, to: Frames): number => {
  let power = 0
  for (let i = from; i < to; i++) power += (sound[i] ?? 0) ** 2
  return 10 * Math.log10(power / Math.max(1, to - from) + 1e-12)
}

/** Sentences of one voice for so many seconds, heard by a microphone in a room. */
export function decaying(voice: Voice, seconds: number, seed: number, mic: Microphone): Decaying {
  const next = random(seed)
  const parts: (Part & { at: Frames })[] = []
  let at = toFrames(0.6)
  while (at < seconds * RATE) {
    const part = partOf(voice, sentenceOf(next), next)
    parts.push({ ...part, at })
    at += part.samples.length + toFrames(0.45 + next())
  }
  const dry = new Float32Array(at)
  for (const { samples, at: from } of parts) dry.set(samples, from)
  const sound = heardBy([dry], mic)
  const room = levelOf(sound, 0, toFrames(0.4))
  const quietRoom = levelOf(dry, 0, dry.length) - QUIET_ROOM
  const truth: Truth[] = []
  const ends: Decaying['ends'] = []
  for (const { words, lastWord, at: from } of parts) {
    const looks = Array.from({ length: Math.floor((lastWord.to - lastWord.from) / LOOK) }, (_, i) =>
      levelOf(dry, from + lastWord.from + i * LOOK, from + lastWord.from + (i + 1) * LOOK),
    )
    const top = Math.max(...looks)
    const end = (least: number) => from + lastWord.from + (looks.findLastIndex((level) => level >= least) + 1) * LOOK
    truth.push(...words.map((word) => ({ ...word, from: from + word.from, to: from + word.to })))
    truth[truth.length - 1].to = end(Math.max(top - BELOW_OWN, quietRoom))
    ends.push({ word: truth.length - 1, last: Math.min(truth[truth.length - 1].to, end(room + OVER_ROOM)) })
  }
  return { sound, truth, ends }
}

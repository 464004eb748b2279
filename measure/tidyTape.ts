import { random } from '../core/sound/random'
import { factor } from '../core/sound/level'
import type { Word } from '../core/tape/words'
import { milliseconds, RATE, toFrames, type Frames, type Stretch } from '../core/time'
import { sentenceOf } from './spoken'

/**
 * Made tapes that say where everything is: a synthetic voice with pauses of its own and some that are far too long, fillers,
 * beginnings said twice, sentences said again, breaths, clicks, thumps, spots that are too loud and phrases that are too soft;
 * in a room, with noise. All is drawn from a seed.
 */

export const TIDY_KINDS = ['pauses', 'fillers', 'stumbles', 'retakes', 'breaths', 'clicks', 'pops', 'loud', 'soft', 'holes'] as const
export type TidyKind = (typeof TIDY_KINDS)[number]

/** Says a phrase, so many times slower than usual: its samples, and its words in frames of them. */
export type Say = (text: string, slower?: number) => { samples: Float32Array; words: readonly (Stretch & { text: string })[] }

export interface TidyTape {
  sound: Float32Array
  words: Word[]
  truth: Record<TidyKind, Stretch[]>
}

const FILLERS = ['um', 'uh', 'er', 'uhm']
/** Pauses from here on are long ones, in seconds; those that are natural end below. */
export const [NATURAL, LONG] = [0.6, 1.1]
/** Level of the voice, RMS in dBFS: there is room for a shout above it. */
const VOICE = -32

const rms = (samples: Float32Array): number => Math.sqrt(samples.reduce((sum, x) => sum + x * x, 0) / Math.max(1, samples.length))

/** White noise through a two-pole resonance at `hertz`, as wide as `width`, added to `out`. */
function resonate(out: Float32Array, next: () => number, hertz: number, width: number, level: number): void {
  const r = Math.exp((-Math.PI * width) / RATE)
  const [a1, a2] = [2 * r * Math.cos((2 * Math.PI * hertz) / RATE), -r * r]
  let [y1, y2] = [0, 0]
  for (let i = 0; i < out.length; i++) {
    const y = (2 * next() - 1) * (1 - r) + a1 * y1 + a2 * y2
    y2 = y1
    y1 = y
    out[i] += level * y
  }
}

/** A cut within speech, as a person would make it: no edge that clicks. */
function faded(samples: Float32Array): Float32Array {
  const [out, length] = [samples.slice(), milliseconds(4)]
  for (let i = 0; i < length && i < out.length; i++) {
    out[i] *= i / length
    out[out.length - 1 - i] *= i / length
  }
  return out
}

const toLevel = (samples: Float32Array, dB: number): Float32Array => {
  const gain = factor(dB) / Math.max(1e-9, rms(samples))
  return samples.map((x) => x * gain)
}

/** A breath in: noise in the bands of a throat, that swells and stops. */
function breath(next: () => number, length: Frames): Float32Array {
  const out = new Float32Array(length)
  resonate(out, next, 500 + 300 * next(), 400, 0.5)
  resonate(out, next, 1300 + 600 * next(), 500, 1)
  resonate(out, next, 2600 + 800 * next(), 900, 0.7)
  resonate(out, next, 4500 + 1500 * next(), 2500, 0.6)
  const top = 0.55 + 0.25 * next()
  return out.map((x, i) => {
    const t = i / length
    return x * (t < top ? Math.sin((Math.PI / 2) * (t / top)) ** 1.5 : Math.cos((Math.PI / 2) * ((t - top) / (1 - top))) ** 0.7)
  })
}

/** A cough: a hard burst, and the voice after it. */
function cough(next: () => number): Float32Array {
  const out = new Float32Array(milliseconds(220 + 120 * next()))
  resonate(out, next, 700, 900, 1)
  resonate(out, next, 2200, 2500, 1.2)
  return out.map((x, i) => x * Math.min(1, i / 240) * Math.exp((-3.2 * i) / out.length))
}

/** Lips or tongue: a ping of a few milliseconds; or a tick of the wire, a few samples long. */
function click(next: () => number): Float32Array {
  if (next() < 0.35) return Float32Array.from({ length: 2 + Math.floor(3 * next()) }, (_, i) => (i % 2 ? -0.7 : 1))
  const hertz = 1800 + 3500 * next()
  const decay = milliseconds(0.5 + 1.3 * next())
  return Float32Array.from({ length: 6 * decay }, (_, i) => Math.sin((2 * Math.PI * hertz * i) / RATE) * Math.exp(-i / decay))
}

/** Low end pushed by a p, or by a hand on the microphone. */
function thump(next: () => number): { samples: Float32Array; length: Frames } {
  const hertz = 38 + 40 * next()
  const rise = milliseconds(6 + 8 * next())
  const decay = milliseconds(22 + 20 * next())
  const samples = Float32Array.from(
    { length: rise + 6 * decay },
    (_, i) => Math.sin((2 * Math.PI * hertz * i) / RATE) * (i < rise ? i / rise : Math.exp(-(i - rise) / decay)),
  )
  // 20 dB down is where it ends
  return { samples, length: rise + Math.round(2.3 * decay) }
}

/** A sound without what nobody hears at its ends: a voice tells where it ends, not where it has died away. */
function audible(samples: Float32Array): Float32Array {
  const step = RATE / 100
  const loud = Array.from({ length: Math.floor(samples.length / step) }, (_, i) => rms(samples.subarray(i * step, (i + 1) * step)))
  const least = Math.max(...loud) * factor(-26)
  return samples.slice(loud.findIndex((one) => one > least) * step, (loud.findLastIndex((one) => one > least) + 1) * step)
}

/** A filler as people say it: wavering a little, never quite at one pitch. */
function wavered(samples: Float32Array, next: () => number): Float32Array {
  const [depth, turns, phase] = [0.006 + 0.012 * next(), 3 + 3 * next(), 6 * next()]
  const out: number[] = []
  for (let at = 0; at < samples.length - 1;) {
    const whole = Math.floor(at)
    out.push(samples[whole] + (at - whole) * (samples[whole + 1] - samples[whole]))
    at += 1 + depth * Math.sin(phase + (turns * 2 * Math.PI * out.length) / RATE)
  }
  return Float32Array.from(out)
}

/** A small room: four combs and an all-pass (Schroeder 1962). */
function inRoom(sound: Float32Array, seconds: number, wet: number): Float32Array {
  const out = Float32Array.from(sound)
  for (const delay of [1423, 1777, 2011, 2311]) {
    const back = 10 ** ((-3 * delay) / (seconds * RATE))
    const line = new Float32Array(delay)
    for (let i = 0, k = 0; i < sound.length; i++, k = (k + 1) % delay) {
      const late = line[k]
      line[k] = sound[i] + back * late
      out[i] += wet * late
    }
  }
  return out
}

export interface TidyOrder {
  say: Say
  seed: number
  minutes: number
  /** How far the noise lies below the voice, in dB. */
  noise: number
  /** How long the room rings, in seconds; 0 for none. */
  room: number
}

export function tidyTape({ say, seed, minutes, noise, room }: TidyOrder): TidyTape {
  const next = random(seed)
  const between = (low: number, high: number) => low + (high - low) * next()
  const layers: { samples: Float32Array; at: Frames }[] = []
  const words: Word[] = []
  const truth = Object.fromEntries(TIDY_KINDS.map((kind): [TidyKind, Stretch[]] => [kind, []])) as TidyTape['truth']
  const breaths: (Stretch & { dB: number })[] = []
  let at = toFrames(0.8)
  /** Whether a long pause came before: its silence ends where the next word begins. */
  let rested = false
  /** Whether the last sentence was a soft one: two in a row would be no soft phrase among others. */
  let softly = false

  const lay = (samples: Float32Array, from = at): Stretch => {
    layers.push({ samples, at: from })
    return { from, to: from + samples.length }
  }
  /** A phrase without the silence that the voice puts around it, `dB` over the voice's level. */
  const speak = (text: string, dB = 0, what?: Word['what']): Stretch => {
    const { samples, words: said } = say(text)
    const [from, to] = [said[0].from, said[said.length - 1].to]
    const lies = lay(toLevel(faded(samples.subarray(from, to)), VOICE + dB))
    words.push(
      ...said.map((word) => ({ text: word.text, from: at + word.from - from, to: at + word.to - from, ...(what ? { what } : {}) })),
    )
    at = lies.to
    return lies
  }
  const wait = (seconds: number) => void (at += toFrames(seconds))
  const filler = () => {
    // about twice as long as the same sound within a word (Clark and Fox Tree 2002; Shriberg 2001)
    const { samples, words: said } = say(FILLERS[Math.floor(next() * FILLERS.length)], between(1.5, 2.3))
    const sound = wavered(audible(samples.subarray(said[0].from, said[0].to)), next)
    // some glide out of the word before, or into the next one
    const glides = next()
    const over = milliseconds(12)
    if (glides < 0.25) at -= over
    else wait(between(0.1, 0.3))
    const lies = lay(toLevel(faded(sound), VOICE - between(0, 4)))
    words.push({ text: said[0].text, ...lies, what: 'filler' })
    truth.fillers.push(lies)
    at = lies.to
    if (glides >= 0.25 && glides < 0.5) at -= over
    else wait(between(0.1, 0.3))
  }
  const phrase = () => sentenceOf(next).split(' ')
  const said: { text: string; lies: Stretch }[] = []

  while (at < minutes * 60 * RATE) {
    const sentence = phrase()
    const cut = 2 + Math.floor(next() * (sentence.length - 4))
    const roll = next()
    if (roll < 0.2) {
      speak(sentence.slice(0, cut).join(' '))
      filler()
      speak(sentence.slice(cut).join(' '))
    } else if (roll < 0.32) {
      const again = Math.max(0, cut - 1 - Math.floor(next() * 2))
      if (again) speak(sentence.slice(0, again).join(' '))
      truth.stumbles.push(speak(sentence.slice(again, cut).join(' ')))
      wait(between(0.08, 0.2))
      speak(sentence.slice(again).join(' '))
    } else if (roll < 0.42) {
      // a sentence said again, whole or as far as it went
      const whole = next() < 0.5
      truth.retakes.push(speak((whole ? sentence : sentence.slice(0, Math.max(4, sentence.length - 3))).join(' ')))
      wait(between(0.4, NATURAL))
      speak(sentence.join(' '))
    } else if (roll < 0.48) truth.loud.push(speak(sentence.join(' '), between(11, 18)))
    else if (roll < 0.54 && !rested) {
      wait(0.2)
      truth.loud.push(lay(toLevel(cough(next), VOICE + between(10, 20))))
      at += milliseconds(400)
      speak(sentence.join(' '))
    } else if (roll < 0.62 && !softly) {
      truth.soft.push(speak(sentence.join(' '), -between(9, 14)))
    } else {
      const lies = speak(sentence.join(' '))
      said.push({ text: sentence.join(' '), lies })
    }
    softly = truth.soft.at(-1)?.to === at
    const pause = next() < 0.2 ? between(LONG, LONG + 1.4) : between(0.25, NATURAL)
    const lies = { from: at, to: at + toFrames(pause) }
    rested = pause >= LONG
    if (rested) truth.pauses.push(lies)
    const inside = next()
    if (pause < LONG && pause > 0.32 && inside < 0.8) {
      const dB = between(-30, -12)
      const length = toFrames(between(0.2, Math.min(0.45, pause - 0.08)))
      const gap = next() < 0.3 ? milliseconds(5) : milliseconds(between(20, 60))
      breaths.push({ ...lay(toLevel(breath(next, length), VOICE + dB), lies.to - gap - length), dB })
    }
    at = lies.to
  }
  // clicks, thumps and holes lie anywhere, but not in each other
  const end = at
  const taken: Stretch[] = [...truth.loud]
  const place = (length: Frames): Frames | null => {
    const from = Math.round(between(RATE, end - 2 * RATE))
    const around = { from: from - RATE / 5, to: from + length + RATE / 5 }
    if (taken.some((one) => one.from < around.to && around.from < one.to)) return null
    taken.push(around)
    return from
  }
  for (let i = 0; i < minutes * 6; i++) {
    const sound = click(next)
    const from = place(sound.length)
    if (from === null) continue
    const top = factor(VOICE + between(6, 16))
    truth.clicks.push(
      lay(
        sound.map((x) => x * top),
        from,
      ),
    )
  }
  for (const word of words) {
    if (!/^[pb]/.test(word.text) || next() < 0.5) continue
    const { samples, length } = thump(next)
    const top = factor(VOICE + between(8, 18))
    lay(
      samples.map((x) => x * top),
      word.from,
    )
    truth.pops.push({ from: word.from, to: word.from + length })
  }
  for (let i = 0; i < minutes * 3; i++) {
    const { samples, length } = thump(next)
    const from = place(length)
    if (from === null || truth.pops.some((one) => Math.abs(one.from - from) < RATE / 3)) continue
    const top = factor(VOICE + between(8, 18))
    lay(
      samples.map((x) => x * top),
      from,
    )
    truth.pops.push({ from, to: from + length })
  }
  const dry = new Float32Array(end + RATE)
  for (const { samples, at: from } of layers) for (let i = 0; i < samples.length; i++) dry[from + i] += samples[i]
  const sound = room ? inRoom(dry, room, 0.06) : dry
  const level = Math.sqrt(3) * factor(VOICE - noise)
  for (let i = 0; i < sound.length; i++) sound[i] += level * (2 * next() - 1)
  for (let i = 0; i < minutes * 3; i++) {
    const length = milliseconds(between(3, 60))
    const from = place(length)
    if (from === null) continue
    sound.fill(0, from, from + length)
    truth.holes.push({ from, to: from + length })
  }
  const middle = breaths.map(({ dB }) => dB).sort((a, b) => a - b)[Math.floor(breaths.length / 2)]
  truth.breaths = breaths.filter(({ dB }) => dB > middle).map(({ from, to }) => ({ from, to }))
  // the last pause has nothing behind it
  truth.pauses = truth.pauses.filter(({ to }) => to < words[words.length - 1].to)
  for (const kind of TIDY_KINDS) truth[kind].sort((a, b) => a.from - b.from)
  return { sound, words, truth }
}

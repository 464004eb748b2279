import { spawnSync } from 'node:child_process'
import { speak } from '../demo/speech'
import { Ear } from '../core/hearing/ear'
import { random } from '../core/sound/random'
import type { Word } from '../core/tape/words'
import { FINDERS } from '../core/tidy/finders'
import type { FinderName, Found, Looked } from '../core/tidy/finder'
import { milliseconds, RATE, toFrames, type Stretch } from '../core/time'
import { percentile, report } from './figure'
import { requirePackages } from '../scripts/machine'
import { sentenceOf, VOICES } from './spoken'

/**
 * What finders find, on tapes that say where everything is: sentences of three synthetic voices, with pauses of their own,
 * some of them far too long, with fillers, and with beginnings said twice; once clean and once in noise at 20 dB. With the
 * true words, and for pauses from the sound alone as well, beside ffmpeg's silencedetect at the setting that is best for it.
 */

requirePackages('flite')
const SEEDS = [901, 902]
const MINUTES = 4
/** An edge counts as right within this. */
const RIGHT = milliseconds(50)
const FILLERS = ['um', 'uh', 'er']
/** Pauses from here on are long ones, in seconds; those that are natural end below. */
const [NATURAL, LONG] = [0.6, 1.1]

interface Made {
  sound: Float32Array
  words: Word[]
  truth: Record<FinderName, Stretch[]>
}

function make(voice: (typeof VOICES)[number], seed: number, noise: number): Made {
  const next = random(seed)
  const pieces: { samples: Float32Array; at: number }[] = []
  const words: Word[] = []
  const truth: Made['truth'] = { pauses: [], fillers: [], stumbles: [] }
  let at = toFrames(0.5)
  const say = (text: string, what?: Word['what']): Stretch => {
    const { samples, words: said } = speak(voice, text)
    const [from, to] = [said[0].from, said[said.length - 1].to]
    // without the silence that the voice puts around it
    pieces.push({ samples: samples.subarray(from, to), at })
    words.push(
      ...said.map((word) => ({ text: word.text, from: at + word.from - from, to: at + word.to - from, ...(what ? { what } : {}) })),
    )
    const lies = { from: at, to: at + to - from }
    at = lies.to
    return lies
  }
  const wait = (seconds: number) => void (at += toFrames(seconds))
  while (at < MINUTES * 60 * RATE) {
    const sentence = sentenceOf(next).split(' ')
    const cut = 2 + Math.floor(next() * (sentence.length - 4))
    const roll = next()
    if (roll < 0.25) {
      say(sentence.slice(0, cut).join(' '))
      wait(0.1 + 0.2 * next())
      truth.fillers.push(say(FILLERS[Math.floor(next() * FILLERS.length)], 'filler'))
      wait(0.1 + 0.2 * next())
      say(sentence.slice(cut).join(' '))
    } else if (roll < 0.45) {
      const again = Math.max(0, cut - 1 - Math.floor(next() * 2))
      const before = sentence.slice(0, again)
      if (before.length) say(before.join(' '))
      truth.stumbles.push(say(sentence.slice(again, cut).join(' ')))
      wait(0.08 + 0.12 * next())
      say(sentence.slice(again).join(' '))
    } else say(sentence.join(' '))
    const pause = next() < 0.2 ? LONG + 1.4 * next() : 0.25 + (NATURAL - 0.25) * next()
    if (pause >= LONG) truth.pauses.push({ from: at, to: at + toFrames(pause) })
    wait(pause)
  }
  const sound = new Float32Array(at)
  for (const { samples, at: from } of pieces) sound.set(samples, from)
  const power = sound.reduce((sum, sample) => sum + sample * sample, 0) / sound.length
  const level = Math.sqrt(3 * power) * 10 ** (-noise / 20)
  for (let i = 0; i < sound.length; i++) sound[i] += level * (2 * next() - 1)
  // the last pause has nothing behind it
  const end = words[words.length - 1].to
  truth.pauses = truth.pauses.filter(({ to }) => to < end)
  return { sound, words, truth }
}

const speechIn = (sound: Float32Array): Stretch[] => {
  const ear = new Ear(1, false)
  for (let from = 0; from < sound.length; from += RATE) ear.add([sound.subarray(from, Math.min(sound.length, from + RATE))])
  return ear.finish().speech
}

/** F1 of what was found against the truth: an edge may be off by so much. */
class Score {
  private right = 0
  private found = 0
  private true = 0
  readonly off: number[] = []

  add(found: readonly Stretch[], truth: readonly Stretch[]): void {
    this.found += found.length
    this.true += truth.length
    for (const one of truth) {
      const match = found.find(({ from, to }) => Math.abs(from - one.from) <= RIGHT && Math.abs(to - one.to) <= RIGHT)
      if (!match) continue
      this.right++
      this.off.push(Math.abs(match.from - one.from), Math.abs(match.to - one.to))
    }
  }

  get f1(): number {
    return (2 * this.right) / Math.max(1, this.found + this.true)
  }
}

/** The silences that ffmpeg finds below a level, in dB, and longer than so many seconds. */
function silences(sound: Float32Array, dB: number, seconds: number): Stretch[] {
  const { stderr } = spawnSync(
    'ffmpeg',
    [
      '-hide_banner',
      '-f',
      'f32le',
      '-ar',
      String(RATE),
      '-ac',
      '1',
      '-i',
      'pipe:0',
      '-af',
      `silencedetect=n=${dB}dB:d=${seconds}`,
      '-f',
      'null',
      '-',
    ],
    { input: Buffer.from(sound.buffer), maxBuffer: 1 << 28 },
  )
  const times = [...String(stderr).matchAll(/silence_(start|end): ([\d.]+)/g)]
  return times.flatMap(([, which, at], i): Stretch[] =>
    which === 'start' && times[i + 1] ? [{ from: toFrames(Number(at)), to: toFrames(Number(times[i + 1][2])) }] : [],
  )
}

const tapes = SEEDS.flatMap((seed, s) =>
  VOICES.flatMap((voice, v) => [60, 20].map((noise, n) => make(voice, seed * 10 + v + 100 * (s + n), noise))),
)
const looked = (words: readonly Word[], speech: readonly Stretch[], frames: number): Looked => ({
  tape: 'made',
  frames,
  words,
  speech,
  language: 'en',
})
const find = (name: FinderName, of: Looked): Found[] => {
  const ready = FINDERS[name](of)
  return ready.find(ready.setting?.usual ?? 0)
}
const scores = { pauses: new Score(), fillers: new Score(), stumbles: new Score(), wave: new Score() }
const left: number[] = []
const own: number[] = []
let [kept, all] = [0, 0]
for (const { sound, words, truth } of tapes) {
  const of = looked(words, [], sound.length)
  const found = { pauses: find('pauses', of), fillers: find('fillers', of), stumbles: find('stumbles', of) }
  for (const name of ['pauses', 'fillers', 'stumbles'] as const) scores[name].add(found[name], truth[name])
  scores.wave.add(find('pauses', looked([], speechIn(sound), sound.length)), truth.pauses)
  // words that nothing was to happen to
  const gone = [...truth.fillers, ...truth.stumbles]
  const cuts = [...found.pauses, ...found.fillers, ...found.stumbles].flatMap(({ proposes }) => ('goes' in proposes ? proposes.goes : []))
  for (const word of words) {
    if (gone.some(({ from, to }) => word.from >= from && word.to <= to)) continue
    all++
    if (!cuts.some(({ from, to }) => Math.min(to, word.to) - Math.max(from, word.from) >= milliseconds(10))) kept++
  }
  for (const { from, to, proposes } of found.pauses) if ('goes' in proposes) left.push(to - from - (proposes.goes.to - proposes.goes.from))
  for (const [i, word] of words.slice(1).entries()) {
    const gap = word.from - words[i].to
    if (gap >= toFrames(0.12) && gap < toFrames(NATURAL)) own.push(gap)
  }
}
/** At how long a silence is a pause, of which theirs is the best. */
const SHORTEST = [0.6, 0.7, 0.8, 0.9, 1]
const best = Math.max(
  ...[-60, -50, -45, -40, -35, -30].flatMap((dB) => {
    const theirs = tapes.map(({ sound }) => silences(sound, dB, SHORTEST[0]))
    return SHORTEST.map((seconds) => {
      const score = new Score()
      for (const [i, { truth }] of tapes.entries())
        score.add(
          theirs[i].filter(({ from, to }) => to - from >= toFrames(seconds)),
          truth.pauses,
        )
      return score.f1
    })
  }),
)
const spread = (values: readonly number[]): number => percentile(values, 0.75) - percentile(values, 0.25)
report({ measure: 'tidy', name: 'tidy.pause', value: scores.pauses.f1, unit: 'F1 with true words, edges within 50 ms' })
report({
  measure: 'tidy',
  name: 'tidy.pause.wave',
  value: scores.wave.f1,
  unit: 'F1 from the sound alone',
  peer: 'silencedetect',
  peerValue: best,
})
report({ measure: 'tidy', name: 'tidy.pause.vs', value: scores.pauses.f1 - best, unit: 'F1 over silencedetect at its best setting' })
report({ measure: 'tidy', name: 'tidy.filler.words', value: scores.fillers.f1, unit: 'F1 with true words' })
report({ measure: 'tidy', name: 'tidy.stumble', value: scores.stumbles.f1, unit: 'F1 with true words' })
report({
  measure: 'tidy',
  name: 'tidy.edge',
  value: percentile(scores.wave.off, 0.5) / (RATE / 1000),
  unit: 'ms, median, of pauses from the sound alone',
})
report({ measure: 'tidy', name: 'tidy.kept', value: kept / all, unit: `of ${all} words untouched by 10 ms or more after all is applied` })
report({
  measure: 'tidy',
  name: 'tidy.cadence',
  value: spread(left) / spread(own),
  unit: 'spread of shortened pauses over that of the speaker’s own',
})

// an hour, of one tape after the other
const hour: Word[] = []
for (let at = 0; at < 3600 * RATE;)
  for (const { words, sound } of tapes) {
    hour.push(...words.map((word) => ({ ...word, from: at + word.from, to: at + word.to })))
    at += sound.length
  }
const long = looked(hour, [], hour[hour.length - 1].to + RATE)
const began = performance.now()
const ready = (Object.keys(FINDERS) as FinderName[]).map((name) => FINDERS[name](long))
for (const one of ready) one.find(one.setting?.usual ?? 0)
report({
  measure: 'tidy',
  name: 'tidy.hour',
  value: (performance.now() - began) / 1000,
  unit: `s, all finders so far, ${hour.length} words`,
})
const turns = Array.from({ length: 200 }, (_, i) => {
  const start = performance.now()
  ready[0].find(0.3 + i / 100)
  return performance.now() - start
})
report({
  measure: 'tidy',
  name: 'tidy.turn',
  value: percentile(turns, 0.95),
  unit: 'ms, p95, to find anew while a figure is turned on an hour; not yet to paint',
})

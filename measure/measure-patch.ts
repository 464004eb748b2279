import { looksOf } from '../core/patch/sound'
import { twins, type FoundBy } from '../core/patch/twins'
import { random } from '../core/sound/random'
import type { Word } from '../core/tape/words'
import { toFrames, type Frames, type Stretch } from '../core/time'
import { speak, type Voice } from '../demo/speech'
import { requirePackages } from '../scripts/machine'
import { heardBy } from './conversation'
import { percentile, report } from './figure'
import { VOICES } from './spoken'

/**
 * Words that were spoilt while they were said, each of which the same voice says once more on the
 * tape among other words; another voice says it too, which is no twin. The voices are synthetic (flite).
 */

requirePackages('flite')
const measure = 'patch'

const TARGETS = (
  'harbour captain council island passengers mother engine letter weather winter timetable company seven fishermen ' +
  'window evening brother ticket doctor morning'
).split(' ')
const OTHERS = (
  'and they would be on the quay with us before anybody in this boat had a light when nobody came across for her ' +
  'or asked about it again'
).split(' ')
const OTHER_VOICE: Voice[] = [VOICES[1], VOICES[2], VOICES[0], VOICES[1], VOICES[2]]
const OWN_VOICE: Voice[] = [VOICES[0], VOICES[1], VOICES[2], { ...VOICES[0], pitch: 0.95 }, { ...VOICES[1], pitch: 1.06 }]

interface Talk {
  sound: Float32Array
  words: Word[]
}

function shuffled<T>(list: readonly T[], next: () => number): T[] {
  const out = [...list]
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(next() * (i + 1))
    ;[out[i], out[j]] = [out[j], out[i]]
  }
  return out
}

/** Each target twice by one voice and once by another, two in a sentence, among other words. */
function talk(own: Voice, other: Voice, seed: number): Talk {
  const next = random(seed)
  const filler = (count: number) => Array.from({ length: count }, () => OTHERS[Math.floor(next() * OTHERS.length)])
  const pairs = (list: readonly string[]) =>
    Array.from({ length: list.length / 2 }, (_, i) => [...filler(2), list[2 * i], ...filler(2), list[2 * i + 1], ...filler(1)].join(' '))
  const said = [...shuffled(TARGETS, next), ...shuffled(TARGETS, next)]
  const sentences = shuffled(
    [
      ...pairs(said).map((text) => ({ voice: own, name: 'own', text })),
      ...pairs(shuffled(TARGETS, next)).map((text) => ({ voice: other, name: 'other', text })),
    ],
    next,
  )
  const parts: { samples: Float32Array; at: Frames }[] = []
  const words: Word[] = []
  let at = toFrames(0.6)
  for (const { voice, name, text } of sentences) {
    const spoken = speak(voice, `${text}.`)
    words.push(
      ...spoken.words.map((word): Word => ({ text: word.text, from: at + word.from, to: at + word.to, speaker: name, checked: true })),
    )
    parts.push({ samples: spoken.samples, at })
    at += spoken.samples.length + toFrames(0.25 + 0.5 * next())
  }
  const clean = new Float32Array(at)
  for (const part of parts) clean.set(part.samples, part.at)
  const sound = heardBy([clean], {
    heard: [{ metres: 0, level: 0 }],
    decay: 0.4,
    wet: 0.3,
    noise: 38,
    hum: 0,
    phone: false,
    seed,
    noiseSeed: seed + 1,
  })
  return { sound, words }
}

const rms = (sound: Float32Array): number => Math.sqrt(sound.reduce((sum, sample) => sum + sample * sample, 0) / sound.length)

/** What spoils a word: a knock at the microphone, a cough, sound that was lost. */
const SPOILERS: Record<string, (sound: Float32Array, next: () => number) => void> = {
  knock(sound) {
    const loud = 6 * rms(sound)
    for (let i = 0; i < sound.length; i++) sound[i] += loud * Math.exp(-i / 2400) * Math.sin((2 * Math.PI * 70 * i) / 48_000)
  },
  cough(sound, next) {
    const loud = 4 * rms(sound)
    let low = 0
    for (let i = 0; i < sound.length; i++) {
      low += 0.25 * (next() * 2 - 1 - low)
      sound[i] += loud * 2 * low * Math.sin((Math.PI * (i + 0.5)) / sound.length)
    }
  },
  lost(sound) {
    sound.fill(0)
  },
}

const tally = { words: 0, sound: 0, all: 0 }
const times: number[] = []
const missed: string[] = []
const talks: Talk[] = []
for (const [t, own] of OWN_VOICE.entries()) {
  const { sound: clean, words } = (talks[t] = talk(own, OTHER_VOICE[t], 200 + t))
  const next = random(900 + t)
  for (const [i, target] of TARGETS.entries()) {
    const same = words.filter((word) => word.speaker === 'own' && word.text.replace('.', '') === target)
    const [spoilt, twin] = next() < 0.5 ? same : [same[1], same[0]]
    const length = spoilt.to - spoilt.from
    const covered = Math.round(length * (0.4 + 0.3 * next()))
    const from = spoilt.from + Math.round((length - covered) * next())
    const bad: Stretch = { from, to: from + covered }
    const sound = clean.slice()
    const kind = Object.keys(SPOILERS)[i % 3]
    SPOILERS[kind](sound.subarray(bad.from, bad.to), next)
    // a hand selects a little more than is bad
    const spot: Stretch = { from: bad.from - toFrames(0.01 * next()), to: bad.to + toFrames(0.01 * next()) }
    const looks = looksOf(sound)
    const soundOf = ({ from: a, to: b }: Stretch) => ({ sound: sound.subarray(a, Math.min(b, sound.length)), start: a })
    const found = (known: readonly Word[]): number =>
      twins(spot, known, looks, soundOf, () => true, 12).findIndex(({ laid }) => laid.from < twin.to && laid.to > twin.from)
    const began = performance.now()
    const byWords = found(words)
    times.push(performance.now() - began)
    const bySound = found([])
    tally.all++
    if (byWords >= 0 && byWords < 3) tally.words++
    if (bySound >= 0 && bySound < 3) tally.sound++
    else
      missed.push(
        `${target} (${kind}, ${Math.round((100 * covered) / length)} %): ${bySound < 0 ? 'not found' : `as number ${bySound + 1}`}`,
      )
  }
}
/** The same talks over and over: how long it takes hangs on how much there is. */
function long(talks: readonly Talk[], frames: Frames): Talk {
  const sound = new Float32Array(frames)
  const words: Word[] = []
  for (let at = 0, t = 0; at < frames; t++) {
    const part = talks[t % talks.length]
    const from = at
    sound.set(part.sound.subarray(0, frames - from), from)
    words.push(...part.words.map((word) => ({ ...word, from: word.from + from, to: word.to + from })).filter(({ to }) => to <= frames))
    at += part.sound.length
  }
  return { sound, words }
}

const hour = long(talks, toFrames(3600))
const soundOfHour = ({ from, to }: Stretch) => ({ sound: hour.sound.subarray(from, Math.min(to, hour.sound.length)), start: from })
const beganLooking = performance.now()
const looksOfHour = looksOf(hour.sound)
const looked = performance.now() - beganLooking
const seeking = (known: readonly Word[], by: FoundBy): number[] =>
  Array.from({ length: 20 }, (_, i) => {
    const { from, to } = hour.words[Math.round(((i + 0.5) / 20) * hour.words.length)]
    const began = performance.now()
    twins({ from, to }, known, looksOfHour, soundOfHour, () => true, 12, by)
    return performance.now() - began
  })

if (process.env.PATCH_MISSED) console.error(missed.join('\n'))
const unit = `of ${tally.all} spoilt words, the true twin among the first three`
report({ measure, name: 'patch.words', value: tally.words, unit: `${unit}, with a transcript; synthetic voices` })
report({ measure, name: 'patch.sound', value: tally.sound, unit: `${unit}, without one` })
report({ measure, name: 'patch.find.p95', value: percentile(times, 0.95), unit: 'ms for a tape of some two minutes, its looks known' })
report({ measure, name: 'patch.hour.looks', value: looked / 1000, unit: 's for the looks of an hour, made once for each tape' })
report({
  measure,
  name: 'patch.hour.words',
  value: percentile(seeking(hour.words, 'words'), 0.5),
  unit: 'ms to find by words on an hour, its looks known, the median of 20 words',
})
report({
  measure,
  name: 'patch.hour.sound',
  value: percentile(seeking([], 'sound'), 0.5),
  unit: 'ms by sound alone, which is asked for after it',
})

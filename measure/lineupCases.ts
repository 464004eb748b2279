import { lineUp } from '../core/lineup/lineUp'
import { random, scramble } from '../core/sound/random'
import { RATE, toFrames } from '../core/time'
import { conversation, heardBy, minutes, recorded, sourceOf, speakersIn, type Microphone, type Phrases } from './conversation'

/** Recordings of made-up conversations by machines that stand in various ways, and what lining them up makes of them. */

/** Minutes that each voice has to say: more than half of the longest conversation, twice over. */
export const SAID = 6
export const PAIRS = 20
/** Recordings that lie on one clock, an hour each. */
export const HOURS = 3

export interface PairResult {
  /** Why it was not lined up; empty if it was. */
  refused: string
  /** How far off it lies at five places, in ms. */
  off: number[]
  about: string
}

const KINDS = ['one room, two recorders', 'a microphone each, with bleed', 'own track and the call', 'a telephone on the table'] as const

/** Numbers of one case, always the same. */
function drawing(what: string, i: number) {
  const next = random(scramble(what, i))
  return { next, between: (low: number, high: number) => low + (high - low) * next() }
}

function microphones(kind: (typeof KINDS)[number], seed: number): [Microphone, Microphone] {
  const { next, between } = drawing('microphones', seed)
  const mic = (heard: [number, number][], more: Partial<Microphone> = {}): Microphone => ({
    heard: heard.map(([metres, level]) => ({ metres, level })),
    decay: between(0.15, 0.7),
    wet: between(0.3, 1),
    noise: between(10, 40),
    hum: next() < 0.3 ? 50 : 0,
    phone: false,
    seed: seed + Math.floor(next() * 1000),
    noiseSeed: 1 + Math.floor(next() * 1e9),
    ...more,
  })
  switch (kind) {
    case 'one room, two recorders':
      return [
        mic([
          [between(0.4, 1), 0],
          [between(0.4, 1), between(-6, 6)],
        ]),
        mic([
          [between(0.4, 1), between(-12, 0)],
          [between(0.4, 1), 0],
        ]),
      ]
    case 'a microphone each, with bleed': {
      const apart = between(0.8, 1.5)
      const bleed = between(-25, -12)
      return [
        mic([
          [0.2, 0],
          [apart, bleed],
        ]),
        mic([
          [apart, bleed],
          [0.2, 0],
        ]),
      ]
    }
    case 'own track and the call':
      return [
        mic(
          [
            [0.1, 0],
            [0.1, -90],
          ],
          { wet: 0.2 },
        ),
        mic(
          [
            [0, -3],
            [0, 0],
          ],
          { wet: 0.4, phone: true },
        ),
      ]
    case 'a telephone on the table':
      return [
        mic([
          [0.3, 0],
          [0.8, -4],
        ]),
        mic(
          [
            [between(0.5, 1), -14],
            [between(0.5, 1), -14],
          ],
          { noise: 10, wet: 1 },
        ),
      ]
  }
}

const VOICES = 6

/** Two recordings of one conversation, and how far from the truth they are lined up. */
export function together(folder: string, i: number): PairResult {
  const voices = spoken(folder)
  const { next, between } = drawing('together', i)
  const kind = KINDS[i % 4]
  const length = toFrames(between(150, 300))
  const drift = between(-60e-6, 60e-6)
  const tracks = conversation([voices[i % VOICES], voices[(i + 1 + (i % 3)) % VOICES]], length, scramble('said', i), i * 13)
  const [one, other] = microphones(kind, i)
  const [start, begin] = next() < 0.5 ? [0, toFrames(between(0, 30))] : [toFrames(between(0, 30)), 0]
  const first = recorded(heardBy(tracks, one), start, 0, length - start - RATE)
  const second = recorded(heardBy(tracks, other), begin, drift, Math.floor((length - begin) / (1 + drift)) - RATE)
  const found = lineUp(sourceOf(first), sourceOf(second))
  const noises = [one, other].map(({ noise }) => noise.toFixed(0)).join(' and ')
  const about = `${i} ${kind}, ${Math.round(second.length / RATE)} s, noise ${noises} dB, ${(drift * 1e6).toFixed(0)} ppm`
  if (!found.belongs) return { refused: found.reason, off: [], about }
  return {
    refused: '',
    off: offAt(second.length, found.onto, { offset: begin - start, drift }),
    about: `${about}: ${found.agree} of ${found.compared} places`,
  }
}

/** How far two lines lie apart at five places of a recording, in ms. */
export const offAt = (frames: number, found: { offset: number; drift: number }, truth: { offset: number; drift: number }): number[] =>
  Array.from({ length: 5 }, (_, k) => (frames * (k + 0.5)) / 5).map(
    (place) => Math.abs(found.offset - truth.offset + place * (found.drift - truth.drift)) / (RATE / 1000),
  )

/** Two conversations of the same people in the same room on two days; every fifth time the same words are said again. */
export function apart(folder: string, i: number): PairResult {
  const voices = spoken(folder)
  const length = toFrames(drawing('apart', i).between(150, 300))
  const [one, other] = microphones(KINDS[i % 4], i)
  const again = i % 5 === 4
  const pair = [voices[i % VOICES], voices[(i + 1) % VOICES]]
  // what is said on the other day is the other half of what a voice has to say: nothing is said on both
  const half = (which: 0 | 1) => pair.map((phrases) => phrases.filter((_, k) => k % 2 === which))
  const first = heardBy(conversation(half(0), length, scramble('one day', i), i), one)
  const second = heardBy(conversation(half(again ? 0 : 1), length, scramble('another day', i), i), {
    ...other,
    seed: one.seed,
    hum: one.hum,
  })
  const found = lineUp(sourceOf(first), sourceOf(second))
  return { refused: found.belongs ? '' : found.reason, off: [], about: `${i}${again ? ' said again' : ''}` }
}

/** Where one of the three lies on the first one's clock. */
export const lies = (which: number) => ({ offset: toFrames([0, 11.3, 4.7][which]), drift: [0, 43e-6, -57e-6][which] })

/** One of three recordings of an hour's conversation, a machine at each end of the table and one between. */
export function hour(folder: string, which: number): Float32Array {
  const voices = spoken(folder)
  const tracks = conversation([voices[0], voices[1]], minutes(61), 8)
  const mic: Microphone = {
    heard: [
      { metres: [0.3, 0.7, 1.2][which], level: 0 },
      { metres: [1.2, 0.7, 0.3][which], level: 0 },
    ],
    decay: 0.4,
    wet: 0.5,
    noise: 25,
    hum: 0,
    phone: false,
    seed: 60 + which,
    noiseSeed: 70 + which,
  }
  const { offset, drift } = lies(which)
  return recorded(heardBy(tracks, mic), offset, drift, minutes(60))
}

let all: Phrases[] | undefined
const spoken = (folder: string): Phrases[] => (all ??= speakersIn(folder, SAID))

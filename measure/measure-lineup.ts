import { lineUp } from '../core/lineup/lineUp'
import { random } from '../core/sound/random'
import { RATE, toFrames } from '../core/time'
import { requirePackages } from '../scripts/machine'
import { conversation, heardBy, minutes, recorded, sourceOf, speakers, type Microphone } from './conversation'
import { percentile, report } from './figure'

/**
 * Twenty pairs of recordings that belong together and twenty that do not, with synthetic voices.
 * Where microphones stand apart the sound's own way to them is part of the error, as it is in life.
 */

requirePackages('flite')
const voices = speakers(16)
const next = random(77)
const between = (low: number, high: number) => low + (high - low) * next()
const KINDS = ['one room, two recorders', 'a microphone each, with bleed', 'own track and the call', 'a telephone on the table'] as const

function microphones(kind: (typeof KINDS)[number], seed: number): [Microphone, Microphone] {
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
      return [mic([[between(0.4, 1), 0], [between(0.4, 1), between(-6, 6)]]), mic([[between(0.4, 1), between(-12, 0)], [between(0.4, 1), 0]])]
    case 'a microphone each, with bleed': {
      const apart = between(0.8, 1.5)
      const bleed = between(-25, -12)
      return [mic([[0.2, 0], [apart, bleed]]), mic([[apart, bleed], [0.2, 0]])]
    }
    case 'own track and the call':
      return [mic([[0.1, 0], [0.1, -90]], { wet: 0.2 }), mic([[0, -3], [0, 0]], { wet: 0.4, phone: true })]
    case 'a telephone on the table':
      return [mic([[0.3, 0], [0.8, -4]]), mic([[between(0.5, 1), -14], [between(0.5, 1), -14]], { noise: 10, wet: 1 })]
  }
}

const errors: number[] = []
let right = 0
let spent = 0
for (let i = 0; i < 20; i++) {
  const kind = KINDS[i % 4]
  const length = i < 2 ? minutes(61) : toFrames(between(240, 540))
  const drift = between(-60e-6, 60e-6)
  const tracks = conversation([voices[i % 6], voices[(i + 1 + (i % 3)) % 6]], length, 100 + i, i * 13)
  const [one, other] = microphones(kind, i)
  const [start, begin] = next() < 0.5 ? [0, toFrames(between(0, 30))] : [toFrames(between(0, 30)), 0]
  const first = recorded(heardBy(tracks, one), start, 0, length - start - RATE)
  const second = recorded(heardBy(tracks, other), begin, drift, Math.floor((length - begin) / (1 + drift)) - RATE)
  const began = Date.now()
  const found = lineUp(sourceOf(first), sourceOf(second))
  spent += Date.now() - began
  if (!found.belongs) {
    console.log(`// ${i} ${kind}: refused: ${found.reason}`)
    continue
  }
  const places = Array.from({ length: 5 }, (_, k) => (second.length * (k + 0.5)) / 5)
  const off = places.map((place) => Math.abs(found.onto.offset + place * (1 + found.onto.drift) - (begin - start + place * (1 + drift))) / (RATE / 1000))
  if (Math.max(...off) < 50) right++
  errors.push(...off)
  console.log(`// ${i} ${kind}, ${Math.round(second.length / RATE)} s, noise ${one.noise.toFixed(0)} and ${other.noise.toFixed(0)} dB, ${(drift * 1e6).toFixed(0)} ppm: ${found.agree} of ${found.compared} places, off by ${off.map((ms) => ms.toFixed(2)).join(' ')} ms`)
}

let refused = 0
for (let i = 0; i < 20; i++) {
  const length = toFrames(between(240, 540))
  const [one, other] = microphones(KINDS[i % 4], i)
  // the same people in the same room on another day; every fifth pair is the same words said again
  const again = i % 5 === 4
  const pair = [voices[i % 6], voices[(i + 1) % 6]]
  // what is said on the other day is the other half of what a voice has to say: nothing is said on both
  const half = (which: 0 | 1) => pair.map((phrases) => phrases.filter((_, k) => k % 2 === which))
  const first = heardBy(conversation(half(0), length, 300 + i, i), one)
  const second = heardBy(conversation(half(again ? 0 : 1), length, 900 + i, i), { ...other, seed: one.seed, hum: one.hum })
  const found = lineUp(sourceOf(first), sourceOf(second))
  if (found.belongs) console.log(`// ${i}${again ? ' said again' : ''}: taken, ${found.agree} of ${found.compared} places`)
  else {
    refused++
    console.log(`// ${i}${again ? ' said again' : ''}: ${found.reason}`)
  }
}

report({ measure: 'lineup', name: 'lineup.right', value: right, unit: 'of 20 pairs, synthetic voices' })
report({ measure: 'lineup', name: 'lineup.refused', value: refused, unit: 'of 20 pairs that do not belong together' })
report({ measure: 'lineup', name: 'lineup.error', value: percentile(errors, 0.95), unit: 'ms, 95th percentile over five places a pair' })
report({ measure: 'lineup', name: 'lineup.error.most', value: Math.max(...errors), unit: 'ms' })
report({ measure: 'lineup', name: 'lineup.seconds', value: spent / 1000, unit: 's for all twenty, two of them an hour long' })

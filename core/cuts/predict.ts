import { milliseconds, type Frames, type Stretch } from '../time'
import type { Edge } from './edge'
import { jumpBetween, type Jump } from './jump'

/**
 * Whether a join is likely to be heard: its jumps, held against those that the same voice makes
 * where one of its words follows on another.
 */
export interface Prediction {
  /** 0 to 1: how likely it is to be heard. */
  heard: number
  /** What would be heard of it, in a few words; empty where nothing would. */
  why: string
}

/** The jumps that are usual where two words of a speaker meet: mean and spread of level (dB), spectrum (dB) and pitch (semitones). */
export interface Usual {
  level: { mean: number; spread: number }
  spectrum: { mean: number; spread: number }
  pitch: { mean: number; spread: number }
}

/** Of a voice of which too little is known, from some hundred boundaries between words. */
const COMMON: Usual = { level: { mean: 5, spread: 5 }, spectrum: { mean: 5.5, spread: 2 }, pitch: { mean: 1.2, spread: 1.2 } }
const FEWEST = 5
const MOST = 8
const BESIDE = milliseconds(80)
/** Words that follow on one another lie no further apart. */
const TOGETHER = milliseconds(60)

/** Jumps between words that follow on each other, near to a place, in a stretch of sound that begins at frame `start`. */
export function usualIn(sound: Float32Array, start: Frames, words: readonly Stretch[], place: Frames): Usual {
  const meetings = words.flatMap((word, i) => {
    const next = words[i + 1]
    const at = next && Math.abs(next.from - word.to) <= TOGETHER ? Math.round((word.to + next.from) / 2) - start : -1
    return at >= BESIDE && at + BESIDE <= sound.length ? [at] : []
  })
  const nearest = meetings.sort((a, b) => Math.abs(a + start - place) - Math.abs(b + start - place)).slice(0, MOST)
  const jumps = nearest.map((at) => jumpBetween(sound.subarray(at - BESIDE, at), sound.subarray(at, at + BESIDE)))
  if (jumps.length < FEWEST) return COMMON
  const pitches = jumps.flatMap(({ pitch }) => (pitch === null ? [] : [Math.abs(pitch)]))
  return {
    level: spreadOf(
      jumps.map(({ level }) => Math.abs(level)),
      COMMON.level,
    ),
    spectrum: spreadOf(
      jumps.map(({ spectrum }) => spectrum),
      COMMON.spectrum,
    ),
    pitch: pitches.length < FEWEST ? COMMON.pitch : spreadOf(pitches, COMMON.pitch),
  }
}

function spreadOf(values: readonly number[], common: { mean: number; spread: number }) {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length
  const spread = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length)
  return { mean, spread: Math.max(common.spread / 2, spread) }
}

/** Weight of a gap that is e times too long or too short, in spreads. */
const RHYTHM = 1.4
const LEAST_GAP = milliseconds(40)
/** At so many spreads in all, a join is audible in half of the cases. */
const HALF = 1.6

/** `gap` and `natural`: what stands between the words, and what would. */
export function predicted(jump: Jump, usual: Usual, gap: Frames | null, natural: Frames | null): Prediction {
  const over = (value: number, { mean, spread }: { mean: number; spread: number }) => Math.max(-1, (value - mean) / spread)
  const rhythm = gap === null || natural === null ? 0 : Math.log((gap + LEAST_GAP) / (natural + LEAST_GAP))
  const parts = [
    { weight: 0.45 * over(Math.abs(jump.level), usual.level), why: jump.level > 0 ? 'louder after it' : 'softer after it' },
    { weight: 0.6 * over(jump.spectrum, usual.spectrum), why: 'the sound changes colour' },
    {
      weight: jump.pitch === null ? 0 : 0.5 * over(Math.abs(jump.pitch), usual.pitch),
      why: (jump.pitch ?? 0) > 0 ? 'pitch falls, then starts high' : 'pitch drops',
    },
    {
      weight: Math.max(0, RHYTHM * Math.abs(rhythm) - 0.5),
      why: rhythm > 0 ? 'a long gap for this voice' : 'the next word comes too soon',
    },
  ]
  const sum = parts.reduce((all, { weight }) => all + weight, 0)
  const heard = 1 / (1 + Math.exp(-(sum - HALF)))
  const most = parts.reduce((best, one) => (one.weight > best.weight ? one : best))
  return { heard, why: heard >= 0.35 && most.weight > 0.3 ? most.why : '' }
}

/** The jump at a join as it was cut, before any fade. */
export function jumpAt(left: Edge, right: Edge, x: Frames, y: Frames): Jump {
  const side = ({ sound, start }: Edge, from: Frames, to: Frames) => {
    const out = new Float32Array(to - from)
    for (let i = 0; i < out.length; i++) out[i] = sound[from - start + i] ?? 0
    return out
  }
  return jumpBetween(side(left, x - BESIDE, x), side(right, y, y + BESIDE))
}

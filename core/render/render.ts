import { RATE, type Frames, type Stretch } from '../time'
import { rise } from '../sound/fade'
import { factor, lineAt } from '../sound/level'
import type { Plan, Strip } from './plan'
import { stageOf } from './stages'

/**
 * Reads `[from, to)` of one channel of a sound into a run of exactly that many frames; silence
 * where the sound has none. The run may be reused by the reader at the next call.
 */
export type ReadSound = (sound: string, channel: number, from: Frames, to: Frames) => Float32Array

/** Level lines are computed every so many frames of the tape, and run straight between. */
const LINE_GRID = 64
const BUCKET = RATE

/** A plan ready to be pulled from, in blocks of any size and in any order, always to the same frames. */
export interface Renderer {
  readonly plan: Plan
  /** Fills `out[channel]` with `[from, from + out[0].length)`. Needs as many channels as the plan has. */
  pull(from: Frames, out: Float32Array[]): void
  /** The frames of sounds that `[from, to)` is made of. */
  needs(from: Frames, to: Frames): Need[]
}

/** Frames of one channel of a sound. */
export interface Need extends Stretch {
  sound: string
  channel: number
}

export function renderer(plan: Plan, read: ReadSound): Renderer {
  const buckets = new Map<number, number[]>()
  for (const [index, strip] of plan.strips.entries()) {
    const last = Math.floor((strip.at + strip.length - 1) / BUCKET)
    for (let bucket = Math.floor(strip.at / BUCKET); bucket <= last; bucket++) {
      const held = buckets.get(bucket)
      if (held) held.push(index)
      else buckets.set(bucket, [index])
    }
  }
  let gains = new Float64Array(0)

  function sounding(from: Frames, to: Frames): Strip[] {
    const indices = new Set<number>()
    for (let bucket = Math.floor(from / BUCKET); bucket <= Math.floor((to - 1) / BUCKET); bucket++)
      for (const index of buckets.get(bucket) ?? []) indices.add(index)
    return [...indices]
      .sort((a, b) => a - b)
      .map((index) => plan.strips[index])
      .filter((strip) => strip.at < to && strip.at + strip.length > from)
  }

  const stages = (plan.stages ?? []).map(stageOf)
  const back = stages.reduce((sum, stage) => sum + stage.back, 0)
  const ahead = stages.reduce((sum, stage) => sum + stage.ahead, 0)

  /** The sum of all strips, before any stage. */
  function sum(from: Frames, out: Float32Array[]): void {
    const count = out[0].length
    for (const channel of out) channel.fill(0)
    if (gains.length < count) gains = new Float64Array(count)
    for (const strip of sounding(from, from + count)) {
      const a = Math.max(strip.at, from)
      const b = Math.min(strip.at + strip.length, from + count)
      const source = strip.from + a - strip.at
      const samples = read(strip.sound, strip.channel, source, source + b - a)
      const even = gainsOf(strip, a, b, gains)
      for (const [i, channel] of out.entries()) {
        if (strip.pan === 'both' || out.length === 1 || (strip.pan === 'left') === (i === 0)) {
          // a stereo sound heard through one channel is halved, so that it does not clip
          const share = out.length === 1 && strip.pan !== 'both' ? 0.5 : 1
          if (even) addEven(channel, a - from, samples, b - a, strip.gain * share)
          else addShaped(channel, a - from, samples, b - a, gains, share)
        }
      }
    }
  }

  return {
    plan,
    needs: (from, to) =>
      sounding(from - back, to + ahead).map((strip) => {
        const [a, b] = [Math.max(strip.at, from - back), Math.min(strip.at + strip.length, to + ahead)]
        return { sound: strip.sound, channel: strip.channel, from: strip.from + a - strip.at, to: strip.from + b - strip.at }
      }),
    pull(from, out) {
      if (!stages.length) return sum(from, out)
      // each stage takes what it looks back and ahead for off the ends of what it is given
      let wide: Float32Array[] = out.map((channel) => new Float32Array(channel.length + back + ahead))
      sum(from - back, wide)
      for (const [i, stage] of stages.entries()) {
        const length = wide[0].length - stage.back - stage.ahead
        const made = i === stages.length - 1 ? out : wide.map(() => new Float32Array(length))
        stage.process(wide, made)
        wide = made
      }
    },
  }
}

function addEven(out: Float32Array, at: number, samples: Float32Array, count: number, gain: number): void {
  if (gain === 1) for (let i = 0; i < count; i++) out[at + i] += samples[i]
  else for (let i = 0; i < count; i++) out[at + i] += samples[i] * gain
}

function addShaped(out: Float32Array, at: number, samples: Float32Array, count: number, gains: Float64Array, share: number): void {
  for (let i = 0; i < count; i++) out[at + i] += samples[i] * gains[i] * share
}

/** Puts the strip's gain for each frame of `[a, b)` into `gains`; true, and nothing put, where it is even. */
function gainsOf(strip: Strip, a: Frames, b: Frames, gains: Float64Array): boolean {
  const ramps = strip.ramps.filter((ramp) => (ramp.rise ? a < ramp.at + ramp.length : b > ramp.at))
  if (!ramps.length && !strip.line) return true
  gains.fill(strip.gain, 0, b - a)
  if (strip.line) applyLine(strip, a, b, gains)
  for (const ramp of ramps) {
    const first = Math.max(a, ramp.rise ? a : ramp.at)
    const last = Math.min(b, ramp.rise ? ramp.at + ramp.length : b)
    for (let frame = first; frame < last; frame++) {
      const t = (frame - ramp.at + 0.5) / ramp.length
      gains[frame - a] *= rise(ramp.shape, ramp.rise ? t : 1 - t)
    }
  }
  return false
}

function applyLine(strip: Strip, a: Frames, b: Frames, gains: Float64Array): void {
  const offset = strip.from - strip.at
  let frame = a
  while (frame < b) {
    const onTape = frame + offset
    const grid = Math.floor(onTape / LINE_GRID) * LINE_GRID
    const left = factor(lineAt(strip.line!, grid))
    const slope = (factor(lineAt(strip.line!, grid + LINE_GRID)) - left) / LINE_GRID
    const end = Math.min(b, frame + LINE_GRID - (onTape - grid))
    for (; frame < end; frame++) gains[frame - a] *= left + slope * (frame + offset - grid)
  }
}

/** A strip's gain at a place of the plan, for drawing. */
export function gainAt(strip: Strip, at: Frames): number {
  let gain = strip.gain
  if (strip.line) gain *= factor(lineAt(strip.line, at + strip.from - strip.at))
  for (const ramp of strip.ramps) {
    const t = (at - ramp.at) / ramp.length
    gain *= rise(ramp.shape, ramp.rise ? t : 1 - t)
  }
  return gain
}

/** A whole plan at once, for short ones and for tests. */
export function renderAll(plan: Plan, read: ReadSound): Float32Array[] {
  const out = Array.from({ length: plan.channels }, () => new Float32Array(plan.length))
  if (plan.length) renderer(plan, read).pull(0, out)
  return out
}

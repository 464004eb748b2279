import type { Frames, Stretch } from '../time'
import { cellOf, fromCells, mendedCell, readFor, TriedCells, type MendStep, type Read } from '../mend/chain'
import { repaired, repairsWithin, REPAIR_REACH } from '../mend/repair'
import { rise } from '../sound/fade'
import { factor, lineAt } from '../sound/level'
import type { Line, LowCut, Pan, PanPoint, Plan, Strip } from './plan'
import { soundingOf } from './sounding'
import { reachOf } from './stage'
import { stageOf } from './stages'

/**
 * Reads `[from, to)` of one channel of a sound into a run of exactly that many frames; silence
 * where the sound has none. The run may be reused by the reader at the next call.
 */
export type ReadSound = (sound: string, channel: number, from: Frames, to: Frames) => Float32Array

/** So many cells of what is mended as it is rendered are kept. */
const CELLS = 8
/** What was tried before: a plan in which one figure was turned is another plan, and most of it stays. */
const triedCells = new TriedCells()

/** A low cut falls by so many dB an octave. */
const LOW_CUT_SLOPE = 18

/** Level lines are computed every so many frames of their clock, and run straight between. */
const LINE_GRID = 64

/** A plan ready to be pulled from, in blocks of any size and in any order, always to the same frames. */
export interface Renderer {
  readonly plan: Plan
  /**
   * Fills `out[channel]` with `[from, from + out[0].length)`. Needs as many channels as the plan has. What it once read it does not read
   * anew for the next pull that overlaps: where a sound was not at hand, another renderer has to be made.
   */
  pull(from: Frames, out: Float32Array[]): void
  /** How far the stages turned the last pull down, as a factor: 1 where they left all as it was. */
  turned(): number
  /** The frames of sounds that `[from, to)` is made of. */
  needs(from: Frames, to: Frames): Need[]
}

/** Frames of one channel of a sound. */
export interface Need extends Stretch {
  sound: string
  channel: number
}

export function renderer(plan: Plan, read: ReadSound): Renderer {
  const sounding = soundingOf(plan.strips)
  let gains = new Float64Array(0)

  const stages = (plan.stages ?? []).map(stageOf)
  const { back, ahead } = reachOf(stages)

  /** What is being tried, and what is cut below, is made a cell at a time; the last few are kept. */
  const cells = new Map<string, Float32Array>()

  function readStrip(strip: Strip, first: Frames, last: Frames): Float32Array {
    const { sound, channel, repairs, trying, lowCut } = strip
    const within = repairsWithin(repairs, first, last)
    const recorded = (from: Frames, to: Frames) => (trying ? tried(sound, channel, trying, from, to) : read(sound, channel, from, to))
    // what is repaired is told by strips, what is cut by the sound alone: so it comes to the same whichever strip it is made for
    const cut = (from: Frames, to: Frames) => (lowCut ? cutBelow(`${sound} ${channel}`, recorded, lowCut, from, to) : recorded(from, to))
    return within ? repaired(cut, within, first, last) : cut(first, last)
  }

  function tried(
    sound: string,
    channel: number,
    { steps, length, away }: NonNullable<Strip['trying']>,
    from: Frames,
    to: Frames,
  ): Float32Array {
    const make = (cell: Frames): Float32Array => {
      const made = triedCells.make(`${sound} ${channel}`, (a, b) => read(sound, channel, a, b), steps, cell, length)
      return away ? read(sound, channel, cell, cell + made.length).map((sample, i) => sample - made[i]) : made
    }
    return fromCells((cell) => keptCell(`${sound} ${channel} ${cell}`, () => make(cell)), from, to)
  }

  function cutBelow(name: string, heard: Read, { hertz, length }: LowCut, from: Frames, to: Frames): Float32Array {
    const steps: MendStep[] = [{ kind: 'lowCut', hertz, slope: LOW_CUT_SLOPE }]
    return fromCells((cell) => keptCell(`${name} ${cell} below ${hertz}`, () => mendedCell(heard, steps, cell, length)), from, to)
  }

  function keptCell(name: string, make: () => Float32Array): Float32Array {
    let made = cells.get(name)
    if (made) return made
    made = make()
    if (cells.size >= CELLS) cells.delete(cells.keys().next().value!)
    cells.set(name, made)
    return made
  }

  /** The sum of all strips, before any stage. */
  function sum(from: Frames, out: Float32Array[]): void {
    const count = out[0].length
    for (const channel of out) channel.fill(0)
    if (gains.length < count) gains = new Float64Array(count)
    const strips = sounding(from, from + count)
    // where all lies in the middle, one side is worked out for both
    const sides = strips.every(({ pan }) => !pan.moves && pan.left === pan.right) ? out.slice(0, 1) : out
    const monoMix = out.length === 1
    /** Nothing was put from here on. */
    let empty = from
    for (const strip of strips) {
      const a = Math.max(strip.at, from)
      const b = Math.min(strip.at + strip.length, from + count)
      const source = strip.from + a - strip.at
      const samples = readStrip(strip, source, source + b - a)
      for (const run of runsOf(strip, a, b)) {
        const [at, count, skip] = [run.from - from, run.to - run.from, run.from - a]
        if (run.shaped) gainsOf(strip, run.from, run.to, gains)
        for (const [i, channel] of sides.entries()) {
          const heard = monoMix ? mono : i === 0 ? left : right
          const share = heard(strip.pan)
          if (strip.pan.moves)
            addPanned(channel, at, samples, skip, count, run.shaped ? gains : strip.gain, panOf(strip.pan.moves, run.from, run.to, heard))
          else if (!share) continue
          else if (run.shaped) addShaped(channel, at, samples, skip, count, gains, share)
          else if (run.from >= empty && strip.gain === 1 && share === 1) channel.set(samples.subarray(skip, skip + count), at)
          else addEven(channel, at, samples, skip, count, strip.gain, share)
        }
      }
      empty = Math.max(empty, b)
    }
    for (let i = sides.length; i < out.length; i++) out[i].set(sides[0])
  }

  /** Of the last pull: what the next one looks back at has mostly been summed already. */
  let kept: { from: Frames; channels: Float32Array[] } = { from: 0, channels: [] }

  function summed(from: Frames, count: number, length: Frames): Float32Array[] {
    const channels = Array.from({ length: count }, () => new Float32Array(length))
    const last = kept.channels[0]?.length ?? 0
    const known = kept.channels.length === count && from >= kept.from ? Math.max(0, Math.min(length, kept.from + last - from)) : 0
    const skip = from - kept.from
    if (known) channels.forEach((channel, i) => channel.set(kept.channels[i].subarray(skip, skip + known)))
    if (known < length)
      sum(
        from + known,
        channels.map((channel) => channel.subarray(known)),
      )
    kept = { from, channels }
    return channels
  }

  return {
    plan,
    needs: (from, to) =>
      sounding(from - back, to + ahead).map((strip) => {
        const [a, b] = [Math.max(strip.at, from - back), Math.min(strip.at + strip.length, to + ahead)]
        const [first, last] = withReach(strip, strip.from + a - strip.at, strip.from + b - strip.at)
        return { sound: strip.sound, channel: strip.channel, from: first, to: last }
      }),
    turned: () => stages.reduce((product, { least }) => product * least, 1),
    pull(from, out) {
      if (!stages.length) return sum(from, out)
      // each stage takes what it looks back and ahead for off the ends of what it is given
      let wide: readonly Float32Array[] = summed(from - back, out.length, out[0].length + back + ahead)
      for (const [i, stage] of stages.entries()) {
        const length = wide[0].length - stage.back - stage.ahead
        const made = i === stages.length - 1 ? out : wide.map(() => new Float32Array(length))
        stage.process(wide, made)
        wide = made
      }
    },
  }
}

/** What is read of a sound for `[from, to)`: repairs, low cuts and steps that are tried look at what lies around it. */
function withReach({ repairs, trying, lowCut }: Strip, from: Frames, to: Frames): [from: Frames, to: Frames] {
  let [first, last] = [from, to]
  for (const one of repairsWithin(repairs, from, to) ?? []) {
    first = Math.max(0, Math.min(first, one.from - REPAIR_REACH))
    last = Math.max(last, one.to + REPAIR_REACH)
  }
  for (const mended of [lowCut, trying])
    if (mended) [first, last] = [readFor(cellOf(first), mended.length).from, readFor(cellOf(last), mended.length).to]
  return [first, last]
}

type Ears = Pick<Pan, 'left' | 'right'>
const left = (pan: Ears): number => pan.left
const right = (pan: Ears): number => pan.right
/** A stereo sound heard through one channel is halved, so that it does not clip. */
const mono = (pan: Ears): number => (pan.left + pan.right) / 2

/** How loud what moves is through one channel, at each frame of `[a, b)`. Between two points it goes straight. */
function panOf(moves: readonly PanPoint[], a: Frames, b: Frames, heard: (pan: Ears) => number): Float64Array {
  const shares = new Float64Array(b - a)
  let next = moves.findIndex(({ at }) => at > a)
  for (let frame = a; frame < b; frame++) {
    while (next >= 0 && next < moves.length && moves[next].at <= frame) next++
    const to = next < 0 ? undefined : moves[next]
    const from = moves[(to ? next : moves.length) - 1]
    const [start, end] = [heard(from ?? to!), heard(to ?? from)]
    shares[frame - a] = from && to ? start + ((end - start) * (frame - from.at)) / (to.at - from.at) : start
  }
  return shares
}

function addPanned(
  out: Float32Array,
  at: number,
  samples: Float32Array,
  skip: number,
  count: number,
  gains: number | Float64Array,
  shares: Float64Array,
): void {
  for (let i = 0; i < count; i++) out[at + i] += samples[skip + i] * (typeof gains === 'number' ? gains : gains[i]) * shares[i]
}

/** Multiplied in the order in which what is shaped is, so that a frame comes to the same bits whichever run it falls in. */
function addEven(out: Float32Array, at: number, samples: Float32Array, skip: number, count: number, gain: number, share: number): void {
  if (gain === 1 && share === 1) for (let i = 0; i < count; i++) out[at + i] += samples[skip + i]
  else for (let i = 0; i < count; i++) out[at + i] += samples[skip + i] * gain * share
}

function addShaped(
  out: Float32Array,
  at: number,
  samples: Float32Array,
  skip: number,
  count: number,
  gains: Float64Array,
  share: number,
): void {
  for (let i = 0; i < count; i++) out[at + i] += samples[skip + i] * gains[i] * share
}

/** A stretch of a strip in which its gain is one figure, or is shaped by ramps and lines. */
interface Run extends Stretch {
  shaped: boolean
}

/** A strip's `[a, b)` in runs: between its last rise and its first fall it is even, where no line lies on it. */
function runsOf({ ramps, lines }: Strip, a: Frames, b: Frames): Run[] {
  if (lines?.length) return [{ from: a, to: b, shaped: true }]
  let [risen, falls] = [a, b]
  for (const { rise: rises, at, length } of ramps)
    if (rises) risen = Math.max(risen, Math.min(at + length, b))
    else falls = Math.min(falls, Math.max(at, a))
  if (risen >= falls) return [{ from: a, to: b, shaped: true }]
  const runs: Run[] = [{ from: risen, to: falls, shaped: false }]
  if (risen > a) runs.unshift({ from: a, to: risen, shaped: true })
  if (falls < b) runs.push({ from: falls, to: b, shaped: true })
  return runs
}

/** Puts the strip's gain for each frame of `[a, b)` into `gains`. */
function gainsOf(strip: Strip, a: Frames, b: Frames, gains: Float64Array): void {
  gains.fill(strip.gain, 0, b - a)
  for (const line of strip.lines ?? []) applyLine(line, strip, a, b, gains)
  for (const ramp of strip.ramps) {
    const first = Math.max(a, ramp.rise ? a : ramp.at)
    const last = Math.min(b, ramp.rise ? ramp.at + ramp.length : b)
    for (let frame = first; frame < last; frame++) {
      const t = (frame - ramp.at + 0.5) / ramp.length
      gains[frame - a] *= rise(ramp.shape, ramp.rise ? t : 1 - t)
    }
  }
}

function applyLine({ clock, points }: Line, strip: Strip, a: Frames, b: Frames, gains: Float64Array): void {
  const offset = clock === 'sound' ? strip.from - strip.at : 0
  let frame = a
  let grid = Math.floor((a + offset) / LINE_GRID) * LINE_GRID
  let start = factor(lineAt(points, grid))
  while (frame < b) {
    const next = grid + LINE_GRID
    const stop = factor(lineAt(points, next))
    const slope = (stop - start) / LINE_GRID
    const end = Math.min(b, next - offset)
    for (; frame < end; frame++) gains[frame - a] *= start + slope * (frame + offset - grid)
    grid = next
    start = stop
  }
}

/** A strip's gain at a place of the plan, for drawing. */
export function gainAt(strip: Strip, at: Frames): number {
  let gain = strip.gain
  for (const { clock, points } of strip.lines ?? []) gain *= factor(lineAt(points, clock === 'sound' ? at + strip.from - strip.at : at))
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

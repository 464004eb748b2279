import { LRUCache } from 'lru-cache'
import { factor } from '../sound/level'
import { RATE, type Frames, type Stretch } from '../time'
import { withRoom, type AddedRoom } from './addedRoom'
import { toned, type Curve } from './curve'
import { withoutClicks, type Clicks } from './clicks'
import { withoutClipping, type Clipping } from './clipping'
import { softened, type DeEsser } from './deEsser'
import { evened, type Evened } from './evened'
import { quietened, type Expander } from './expander'
import { filterRun, type Filter } from './filter'
import { withoutHum, type Hum } from './hum'
import { withoutMovingNoise, type MovingNoise } from './movingNoise'
import { hearNoise, lessNoise, type Noise, type NoiseHeard } from './noise'
import { withoutPops, type Pops } from './pops'
import { drier, type Reverberation } from './reverberation'
import { coloured, type Telephone } from './telephone'

type Work =
  | Filter
  | Hum
  | Noise
  | MovingNoise
  | Clicks
  | Clipping
  | Pops
  | DeEsser
  | Reverberation
  | Expander
  | Evened
  | Curve
  | Telephone
  | AddedRoom
  | { kind: 'gain'; dB: number }

/**
 * A step of a treatment; one that is `off` is kept, and does nothing. `blend`: how much of what it makes is heard, 0 to 1.
 * `within`: it is done to that stretch of the tape alone, and comes and goes within `SHOULDER` to either side.
 */
export type MendStep = Work & { off?: true; blend?: number; within?: Stretch }

/** 50 ms. */
const SHOULDER: Frames = RATE / 20

/**
 * What remembers, or measures, starts anew on a grid of tape frames, with so much run-up and so much after it: so the same samples
 * come of blocks of any size, in the browser and on the server.
 */
export const GRID: Frames = 4 * RATE
export const RUN_UP: Frames = 0.8 * RATE
/** So many runs of some 2 MB are kept. */
const MOST_RUNS = 24
/** And so many of some 9 MB in which noise was heard. */
const MOST_HEARD = 4
const AFTER: Frames = 0.8 * RATE

/** Frames `[from, to)` of one channel that is `length` long, mended. `read` gives frames as recorded. */
export function mended(read: Read, steps: readonly MendStep[], from: Frames, to: Frames, length: Frames, told?: Told): Float32Array {
  return fromCells((cell) => mendedCell(read, steps, cell, length, told), from, to)
}

/** Where the cell of a frame begins, and what is read for it. */
export const cellOf = (frame: Frames): Frames => Math.floor(Math.max(0, frame) / GRID) * GRID
export const readFor = (cell: Frames, length: Frames): Stretch => ({
  from: Math.max(0, cell - RUN_UP),
  to: Math.min(length, cell + GRID + AFTER),
})

/** One cell of the grid, mended: as many frames as it has of the sound. */
export function mendedCell(read: Read, steps: readonly MendStep[], cell: Frames, length: Frames, told?: Told): Float32Array {
  const { from, to } = readFor(cell, length)
  const run = Float64Array.from(read(from, to))
  for (const step of steps) {
    const found = apply(step, run, from)
    if (told && found) told(step.kind, found.filter((one) => one.from >= cell - from && one.from < cell - from + GRID).length)
  }
  return Float32Array.from(run.subarray(cell - from, Math.min(length, cell + GRID) - from))
}

/** Frames `[from, to)` out of cells; silence where there are none. */
export function fromCells(cellAt: (cell: Frames) => Float32Array, from: Frames, to: Frames): Float32Array {
  const out = new Float32Array(to - from)
  for (let cell = cellOf(from); cell < to; cell += GRID) {
    const made = cellAt(cell)
    const [first, last] = [Math.max(from, cell), Math.min(to, cell + made.length)]
    if (last > first) out.set(made.subarray(first - cell, last - cell), first - from)
  }
  return out
}

export type Read = (from: Frames, to: Frames) => Float32Array

/** A stretch of the tape from frame `from` on as it comes out of some steps, so that the next one can be set by it. */
export function afterSteps(samples: Float32Array, from: Frames, steps: readonly MendStep[]): Float64Array {
  const run = Float64Array.from(samples)
  for (const step of steps) apply(step, run, from)
  return run
}

/**
 * Cells as they come out of each step, kept for when only a later one is turned: then it alone is worked out, and what comes behind it.
 * Where only the dB of a noise are turned, what was heard of that noise is kept, too.
 */
export class TriedCells {
  private readonly runs = new LRUCache<string, Float64Array>({ max: MOST_RUNS })
  private readonly heard = new LRUCache<string, NoiseHeard>({ max: MOST_HEARD })

  /** A cell of a sound that is called `name`; the same samples as `mendedCell` gives. */
  make(name: string, read: Read, steps: readonly MendStep[], cell: Frames, length: Frames): Float32Array {
    const { from, to } = readFor(cell, length)
    const names = steps.map((_, i) => `${name} ${cell} ${JSON.stringify(steps.slice(0, i + 1))}`)
    const known = names.findLastIndex((one) => this.runs.has(one))
    let run = known < 0 ? Float64Array.from(read(from, to)) : this.runs.get(names[known])!
    for (let i = known + 1; i < steps.length; i++) {
      run = run.slice()
      apply(steps[i], run, from, (samples, learnt) => this.hear(names[i - 1] ?? `${name} ${cell}`, samples, learnt))
      this.runs.set(names[i], run)
    }
    return Float32Array.from(run.subarray(cell - from, Math.min(length, cell + GRID) - from))
  }

  /** The noise of a run, which `run` names. */
  private hear(run: string, samples: Float64Array, learnt: Noise['learnt']): NoiseHeard {
    const name = `${run} ${JSON.stringify(learnt)}`
    let heard = this.heard.get(name)
    if (!heard) {
      heard = hearNoise(samples, learnt)
      this.heard.set(name, heard)
    }
    return heard
  }
}

/** Is told how many spots of a cell a step repaired. */
export type Told = (kind: MendStep['kind'], count: number) => void

/** Does one step to a run that begins at frame `from` of the tape, in place; gives the spots that it repaired, where it goes by spots. */
function apply(step: MendStep, run: Float64Array, from: Frames, hear = hearNoise): Stretch[] | void {
  const { off, within, blend = 1 } = step
  if (off || (within && (within.to + SHOULDER <= from || within.from - SHOULDER >= from + run.length))) return
  const dry = blend < 1 || within ? run.slice() : null
  const found = work(step, run, hear)
  if (dry) for (let i = 0; i < run.length; i++) run[i] = dry[i] + blend * shareAt(from + i, within) * (run[i] - dry[i])
  return within ? found?.filter((spot) => spot.to > within.from - from && spot.from < within.to - from) : found
}

/** How much of a step is heard at a frame, from 0 to 1: all of it in its stretch, none beyond the shoulders. */
function shareAt(frame: Frames, within: Stretch | undefined): number {
  if (!within) return 1
  const outside = Math.max(0, within.from - frame, frame + 1 - within.to)
  if (outside >= SHOULDER) return 0
  const t = 1 - outside / SHOULDER
  return t * t * (3 - 2 * t)
}

function work(step: Work, run: Float64Array, hear: typeof hearNoise): Stretch[] | void {
  switch (step.kind) {
    case 'gain': {
      const by = factor(step.dB)
      for (let i = 0; i < run.length; i++) run[i] *= by
      return
    }
    case 'hum':
      return withoutHum(step, run)
    case 'noise':
      return lessNoise(hear(run, step.learnt), step.dB, run)
    case 'movingNoise':
      return withoutMovingNoise(run)
    case 'clicks':
      return withoutClicks(step, run)
    case 'clipping':
      return withoutClipping(step, run)
    case 'pops':
      return withoutPops(step, run)
    case 'deEsser':
      return softened(step, run)
    case 'reverberation':
      return drier(step, run)
    case 'expander':
      return quietened(step, run)
    case 'level':
      return evened(step, run)
    case 'curve':
      return toned(step, run)
    case 'telephone':
      return coloured(step, run)
    case 'addedRoom':
      return withRoom(step, run)
    default:
      return filterRun(step, run)
  }
}

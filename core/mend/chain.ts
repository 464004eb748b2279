import { factor } from '../sound/level'
import { RATE, type Frames, type Stretch } from '../time'
import { filterRun, type Filter } from './filter'
import { withoutHum, type Hum } from './hum'

/** A step of a treatment; one that is `off` is kept, and does nothing. */
export type MendStep = (Filter | Hum | { kind: 'gain'; dB: number }) & { off?: true }

/**
 * What remembers, or measures, starts anew on a grid of tape frames, with so much run-up and so much after it: so the same samples
 * come of blocks of any size, in the browser and on the server.
 */
export const GRID: Frames = 4 * RATE
export const RUN_UP: Frames = RATE
const AFTER: Frames = RATE

/** Frames `[from, to)` of one channel that is `length` long, mended. `read` gives frames as recorded. */
export function mended(read: Read, steps: readonly MendStep[], from: Frames, to: Frames, length: Frames): Float32Array {
  return fromCells((cell) => mendedCell(read, steps, cell, length), from, to)
}

/** Where the cell of a frame begins, and what is read for it. */
export const cellOf = (frame: Frames): Frames => Math.floor(Math.max(0, frame) / GRID) * GRID
export const readFor = (cell: Frames, length: Frames): Stretch => ({
  from: Math.max(0, cell - RUN_UP),
  to: Math.min(length, cell + GRID + AFTER),
})

/** One cell of the grid, mended: as many frames as it has of the sound. */
export function mendedCell(read: Read, steps: readonly MendStep[], cell: Frames, length: Frames): Float32Array {
  const { from, to } = readFor(cell, length)
  const run = Float64Array.from(read(from, to))
  for (const step of steps) if (!step.off) apply(step, run)
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

type Read = (from: Frames, to: Frames) => Float32Array

function apply(step: MendStep, run: Float64Array): void {
  if (step.kind === 'gain') {
    const by = factor(step.dB)
    for (let i = 0; i < run.length; i++) run[i] *= by
  } else if (step.kind === 'hum') withoutHum(step, run)
  else filterRun(step, run)
}

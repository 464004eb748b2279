import type { Frames } from '../time'

/**
 * What is done to the whole of a mix, after the sum. A stage remembers, but only so far: what it makes of a frame depends
 * on so many frames before it and after it, and on nothing else. So a mix that is played from anywhere is the file, to the bit.
 */
export interface Stage {
  /** How far it looks back, and ahead. */
  back: Frames
  ahead: Frames
  /**
   * Fills `out` with frames made of `mix`, which holds as many, with `back` more before and `ahead` more after them. Both have a
   * run for each channel. Every frame is worked out in the same way, wherever a run begins.
   */
  process(mix: readonly Float32Array[], out: readonly Float32Array[]): void
  /** The least gain of the last run, as a factor: 1 where it left all as it was. */
  readonly least: number
}

/** How far stages look that follow each other. */
export const reachOf = (stages: readonly Stage[]): Pick<Stage, 'back' | 'ahead'> => ({
  back: stages.reduce((sum, stage) => sum + stage.back, 0),
  ahead: stages.reduce((sum, stage) => sum + stage.ahead, 0),
})

/** A stage as a plan names it. */
export type StageOrder = CeilingOrder | CompressorOrder

interface CeilingOrder {
  kind: 'ceiling'
  /** No sample goes beyond this, in dBFS. */
  dB: number
  /** Nor does the wave between them: then it is in dBTP. */
  between?: true
}

interface CompressorOrder {
  kind: 'compressor'
  /** What is louder than this is turned down, in dBFS (root mean square over 50 ms). */
  dB: number
  /** So many dB above it come out as 1. */
  ratio: number
}

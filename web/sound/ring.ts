/**
 * The ring of shared memory between the rendering worker and the audio worklet. Counters run on
 * and wrap at 32 bits; the place in the ring is the counter's low part.
 */
export const RING_FRAMES = 1 << 18
export const RING_MASK = RING_FRAMES - 1

/** Places in the control words. */
export const WRITTEN = 0
export const READ = 1
/** 1 while it is to sound. */
export const RUNNING = 2
/** The counter at which the sound ends, where `ENDING` is 1. */
export const END = 3
export const ENDING = 4
/** Blocks that went out without sound because none was there in time. */
export const MISSED = 5
/** Highest level of left and right since last taken, as float bits. */
export const PEAK_LEFT = 6
export const PEAK_RIGHT = 7
const WORDS = 8

export interface Ring {
  control: Int32Array
  left: Float32Array
  right: Float32Array
}

export interface RingMemory {
  control: SharedArrayBuffer
  samples: SharedArrayBuffer
}

export const makeRingMemory = (): RingMemory => ({
  control: new SharedArrayBuffer(WORDS * 4),
  samples: new SharedArrayBuffer(RING_FRAMES * 8),
})

export const ringOn = ({ control, samples }: RingMemory): Ring => ({
  control: new Int32Array(control),
  left: new Float32Array(samples, 0, RING_FRAMES),
  right: new Float32Array(samples, RING_FRAMES * 4, RING_FRAMES),
})

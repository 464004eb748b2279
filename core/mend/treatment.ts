/** What can be done to the sound of a side. What it makes is a rendition; the tape itself stays as it was recorded. */
export type Treatment =
  /** Its wave is turned over. */
  { kind: 'polarity' }

/**
 * Treats a run of frames of one channel in place. Frame for frame: what comes out lies where it came from, and is the same
 * however long the runs are.
 */
export function treat(_treatment: Treatment, samples: Float32Array): void {
  for (let i = 0; i < samples.length; i++) samples[i] = -samples[i]
}

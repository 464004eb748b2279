import type { Frames } from '../time'
import { mended, type MendStep, type Told } from './chain'

/** What can be done to the sound of a side. What it makes is a rendition; the tape itself stays as it was recorded. */
export type Treatment =
  /** Its wave is turned over. */
  | { kind: 'polarity' }
  /** Steps of mending, one after the other. */
  | { kind: 'chain'; steps: MendStep[] }
  /** It was treated in another program, and came back as a file of that name. */
  | { kind: 'outside'; file: string }

/**
 * Frames `[from, to)` of one channel that is `length` long, treated; `read` gives frames as recorded. Frame for frame: what
 * comes out lies where it came from, and is the same however it is asked for. `told`: is told what was repaired. Throws where it was
 * made in another program: its sound cannot be made again.
 */
export function treated(
  treatment: Treatment,
  read: (from: Frames, to: Frames) => Float32Array,
  from: Frames,
  to: Frames,
  length: Frames,
  told?: Told,
): Float32Array {
  if (treatment.kind === 'outside') throw new Error('what was made in another program cannot be made again')
  return treatment.kind === 'polarity' ? read(from, to).map((sample) => -sample) : mended(read, treatment.steps, from, to, length, told)
}

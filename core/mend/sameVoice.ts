import type { MendStep } from './chain'

/** What is known of a voice on a tape: levels in dBFS. */
export interface VoiceLevels {
  speechLevel: number
  /** Of the room behind it. */
  floor: number
  peak: number
}

/** Rooms are alike where they lie within so much of each other under the voice, in dB. */
const ALIKE = 8

/** Whether a voice was recorded alike on two tapes, as far as its room tells. */
export const alike = (a: VoiceLevels, b: VoiceLevels): boolean => Math.abs(a.speechLevel - a.floor - (b.speechLevel - b.floor)) < ALIKE

/**
 * Steps of one tape as they suit the same voice on another: what is told by a level lies as far from its own average as it did.
 * What was done to one passage alone is left out.
 */
export function shifted(steps: readonly MendStep[], from: VoiceLevels, to: VoiceLevels): MendStep[] {
  const tenth = (dB: number) => Math.round(10 * dB) / 10
  const by = to.speechLevel - from.speechLevel
  return steps
    .filter(({ within }) => !within)
    .map((step): MendStep => {
      switch (step.kind) {
        case 'level':
          return { ...step, average: tenth(step.average + by), least: tenth(step.least + by) }
        case 'expander':
        case 'deEsser':
          return { ...step, from: tenth(step.from + by) }
        case 'clipping':
          // it is cut off where that tape is loudest
          return { ...step, at: Math.round(100 * (step.at + to.peak - from.peak)) / 100 }
        default:
          return step
      }
    })
}

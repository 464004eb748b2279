import { levelOf, smoothed, squaresOf, turn } from './looks'

/** What lies under a voice is so many dB softer in its pauses, with slow shoulders; never silence. */
export interface Expander {
  kind: 'expander'
  /** How much softer, in dB. */
  dB: number
  /** Level from which on somebody speaks, in dBFS. */
  from: number
}

/** A voice is let through so long before it comes and after it goes, and it takes as long to either side, in looks of 20 ms. */
const HELD = 10
const SHOULDER = 10

/** Makes pauses of a run softer, in place. */
export function quietened({ dB, from }: Expander, samples: Float64Array): void {
  const speaks = squaresOf(samples).map((square) => (levelOf(square) >= from ? 1 : 0))
  const open = speaks.map((_, look) => (speaks.subarray(Math.max(0, look - HELD), look + HELD + 1).some((one) => one === 1) ? 0 : -dB))
  turn(samples, smoothed(open, new Float64Array(open.length).fill(1), SHOULDER))
}

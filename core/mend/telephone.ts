import { encode, SAMPLES } from '../sound/g711'
import { filterRun } from './filter'

/** The colour of a telephone: an effect. What lies outside its band goes, and the rest is written in eight bits (ITU-T G.711, µ-law). */
export interface Telephone {
  kind: 'telephone'
  /** Its band, in Hz; a fixed line has 300 to 3400 (ITU-T G.712). */
  low: number
  high: number
}

/** Colours a run in place. */
export function coloured({ low, high }: Telephone, samples: Float64Array): void {
  const band = () => {
    filterRun({ kind: 'lowCut', hertz: low, slope: 24 }, samples)
    filterRun({ kind: 'highCut', hertz: high, slope: 24 }, samples)
  }
  band()
  const bytes = encode('PCMU', Float32Array.from(samples))
  for (let i = 0; i < samples.length; i++) samples[i] = SAMPLES.PCMU[bytes[i]] / 32_768
  // what the eight bits added above the band goes too
  band()
}

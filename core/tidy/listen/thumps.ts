import type { Stretch } from '../../time'
import { BAND_BINS, BAND_HERTZ, BANDS, type Looks } from './looks'
import { inFrames } from './sounding'

/** The low end pushed: by a p or a b into the microphone, by a hand on it, by a knock on the table. */

/** It stands so far above the low end that the voice has when it is as loud, in dB, or it is no candidate. */
const LEAST = 4
/** How loud a voice is, is heard within so many looks on either side: a p comes before its vowel. */
const AROUND = 10
/** It is over where it has fallen by this, in dB, and lasts between so many looks. */
const FALLS = 12
const [SHORTEST, LONGEST] = [3, 45]
/** A voice's own low end: so many of its looks lie below it. */
const OWN = 0.97
/** Softer than this nobody hears one, dBFS. */
const SOFTEST = -60
/** Where voices are loud, in Hz: what a thump leaks into lies below. */
const VOICES_ABOVE = 250
const FIRST_BAND = BAND_HERTZ.findIndex((hertz) => hertz > VOICES_ABOVE)

export interface Thump extends Stretch {
  /** How far it stands above the low end of the voice, in dB. */
  over: number
}

export function thumpsIn(looks: Looks, voiced: Uint8Array): Thump[] {
  const { low, count } = looks
  const loud = loudnessOf(looks)
  const shares = low.map((value, i) => value - loud[i]).filter((_, i) => voiced[i] === 1)
  const share = shares.length ? shares.sort()[Math.floor(shares.length * OWN)] : 0
  const thumps: Thump[] = []
  for (let i = 1; i < count - 1; i++) {
    const top = low[i]
    const own = Math.max(SOFTEST, loud[i] + share)
    if (top < own + LEAST || top < low[i - 1] || top < low[i + 1]) continue
    const end = Math.max(top - FALLS, own)
    let [from, to] = [i, i + 1]
    while (from > 0 && i - from < LONGEST && low[from - 1] > end) from--
    while (to < count && to - i < LONGEST && low[to] > end) to++
    if (to - from < SHORTEST || to - from > LONGEST) continue
    const last = thumps.at(-1)
    const thump = { ...inFrames({ from, to }), over: top - own }
    if (last && thump.from < last.to) {
      last.to = Math.max(last.to, thump.to)
      last.over = Math.max(last.over, thump.over)
    } else thumps.push(thump)
  }
  return thumps
}

/** How loud it is around each look where voices are, dBFS. */
function loudnessOf({ bands, count }: Looks): Float32Array {
  const own = Float32Array.from({ length: count }, (_, i) => {
    let power = 0
    for (let band = FIRST_BAND; band < BANDS; band++) power += BAND_BINS[band] * 10 ** (bands[i * BANDS + band] / 10)
    return 10 * Math.log10(power + 1e-12)
  })
  return own.map((_, i) => own.subarray(Math.max(0, i - AROUND), i + AROUND + 1).reduce((most, one) => Math.max(most, one), -120))
}

import { fourier } from '../sound/fourier'
import { sine } from '../sound/elementary'
import { LOOK } from './looks'

/**
 * Whether what is left of a noise chirps: by how much more its power jumps, in each band, than that of the noise as it was
 * (kurtosis ratio, Uemura and others, "Automatic optimization scheme of spectral subtraction based on musical noise assessment via
 * higher-order statistics", 2008). Told by the looks with the quietest quarter of a second around them, of which so many are kept;
 * each counts by how its power lies over the bands, so that a level that moves is not taken for it.
 */
const KEPT = 300
/** Looks on either side of one that is judged. */
const AROUND = 6
/** Fewer tell nothing. */
const FEWEST = 60
const SIZE = 512
const HOP = SIZE / 2
const PI = 3.141592653589793
const WINDOW = Float64Array.from({ length: SIZE }, (_, i) => sine((PI * (i + 0.5)) / SIZE) ** 2)
const fft = fourier(SIZE)

interface Quiet {
  power: number
  before: Float32Array
  after: Float32Array
}

export class Chirping {
  /** The quietest so far, the quietest first. */
  private quiet: Quiet[] = []
  private around: Quiet[] = []

  /** Takes a look of what was recorded, of so much power, and of what was made of it. */
  add(power: number, before: Float32Array, after: Float32Array): void {
    const { around, quiet } = this
    around.push({ power, before: before.slice(), after: after.slice() })
    if (around.length <= 2 * AROUND) return
    const loudest = around.reduce((most, one) => Math.max(most, one.power), 0)
    const judged = { ...around[AROUND], power: loudest }
    around.shift()
    if (quiet.length === KEPT && loudest >= quiet[KEPT - 1].power) return
    let at = quiet.length
    while (at > 0 && quiet[at - 1].power > loudest) at--
    quiet.splice(at, 0, judged)
    if (quiet.length > KEPT) quiet.pop()
  }

  /** The ratio: 1 where it jumps as it did, more where it chirps; 1 where too little was quiet. */
  finish(): number {
    if (this.quiet.length < FEWEST) return 1
    const ratio = kurtosis(this.quiet.map(({ after }) => after)) / kurtosis(this.quiet.map(({ before }) => before))
    return Number.isFinite(ratio) ? Math.round(100 * ratio) / 100 : 1
  }
}

/** Of the power in each bin over all frames of looks, its mean over bins that have any. */
function kurtosis(looks: readonly Float32Array[]): number {
  const powers = looks.flatMap(powersIn)
  let [sum, bins] = [0, 0]
  for (let bin = 1; bin < SIZE / 2; bin++) {
    const mean = powers.reduce((all, power) => all + power[bin], 0) / powers.length
    const moment = (order: 2 | 4) => powers.reduce((all, power) => all + (power[bin] - mean) ** order, 0) / powers.length
    const second = moment(2)
    if (second === 0) continue
    sum += moment(4) / (second * second)
    bins++
  }
  return sum / bins
}

function powersIn(look: Float32Array): Float64Array[] {
  const input = new Float64Array(SIZE)
  const out = new Float64Array(2 * SIZE)
  const powers: Float64Array[] = []
  for (let at = 0; at + SIZE <= LOOK; at += HOP) {
    for (let i = 0; i < SIZE; i++) input[i] = WINDOW[i] * look[at + i]
    fft.realTransform(out as unknown as number[], input)
    const power = Float64Array.from({ length: SIZE / 2 }, (_, bin) => out[2 * bin] ** 2 + out[2 * bin + 1] ** 2)
    const all = power.reduce((sum, one) => sum + one, 0)
    if (all > 0) powers.push(power.map((one) => one / all))
  }
  return powers
}

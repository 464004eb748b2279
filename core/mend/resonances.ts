import { decibels } from '../sound/level'
import { milliseconds, RATE, type Frames } from '../time'
import { fourier } from '../sound/fourier'
import { sine } from '../sound/elementary'
import type { Filter } from './filter'

/**
 * The tones at which a room rings: where somebody stops speaking, they die away more slowly than all around them (the modal decay of
 * room acoustics: Karjalainen and others 2002 measure it in impulse responses). Each bin's power shortly after the end of what was
 * said is compared with its power at the end, over many endings; a room's tone stands above its neighbours.
 */

const SIZE = 8192
/** What is heard before the end of what was said, what is left out behind it, and the rest. */
const GAP: Frames = milliseconds(60)
export const BEFORE_END: Frames = SIZE
export const BEHIND_END: Frames = GAP + SIZE
/** Fewer endings than this tell nothing. */
const LEAST_ENDINGS = 8
/** Rooms ring at single tones down here alone, in Hz; above, tones lie so close that they are the room's own sound. */
const [LOWEST, HIGHEST] = [60, 800]
/** A tone stands so far above its neighbours in what rings on, in dB, within so much of an octave to either side, … */
const STANDS = 8
const AROUND = 0.5
/** … and dies away by so much less than they do, in dB. What was said at the end is told over so much of an octave to either side. */
const SLOWER = 4
const SAID_OVER = 0.2
/** Bins next to each other are taken together: one ending more or less shall not make a tone. */
const TOGETHER = 1
const MOST_TONES = 4

export type Dip = Extract<Filter, { kind: 'dip' }>

/**
 * Dips where a room rings, the strongest first, from endings: each is `BEFORE_END` frames up to the end of what was said, and
 * `BEHIND_END` behind it. Throws a RangeError where there are too few.
 */
export function resonancesOf(endings: readonly Float64Array[]): Dip[] {
  if (endings.length < LEAST_ENDINGS) throw new RangeError('too few endings to tell how a room rings')
  const early = new Float64Array(SIZE / 2)
  const late = new Float64Array(SIZE / 2)
  for (const ending of endings) {
    const [said, after] = [powersOf(ending, 0), powersOf(ending, BEFORE_END + GAP)]
    // each ending counts alike, however loud
    const whole = said.reduce((sum, power) => sum + power, 1e-12)
    for (let bin = 0; bin < SIZE / 2; bin++) {
      early[bin] += said[bin] / whole
      late[bin] += after[bin] / whole
    }
  }
  const rings = Float64Array.from(late, (_, bin) => level(meanOf(late, bin - TOGETHER, bin + TOGETHER)))
  const stays = rings.map((dB, bin) => dB - level(meanOf(early, Math.floor(bin * 2 ** -SAID_OVER), Math.ceil(bin * 2 ** SAID_OVER))))
  return tonesIn(rings, stays)
}

const level = (power: number): number => decibels(Math.sqrt(power + 1e-12))

function meanOf(values: Float64Array, first: number, last: number): number {
  const some = values.subarray(Math.max(0, first), last + 1)
  return some.reduce((sum, value) => sum + value, 0) / some.length
}

const fft = fourier(SIZE)
const HANN = Float64Array.from({ length: SIZE }, (_, i) => sine((3.141592653589793 * (i + 0.5)) / SIZE) ** 2)

function powersOf(samples: Float64Array, from: Frames): Float64Array {
  const out = new Float64Array(2 * SIZE)
  const input = HANN.map((by, i) => by * (samples[from + i] ?? 0))
  fft.realTransform(out as unknown as number[], input)
  return Float64Array.from({ length: SIZE / 2 }, (_, bin) => out[2 * bin] ** 2 + out[2 * bin + 1] ** 2)
}

const binOf = (hertz: number): number => Math.round((hertz * SIZE) / RATE)

function tonesIn(rings: Float64Array, stays: Float64Array): Dip[] {
  const found: { bin: number; dB: number }[] = []
  for (let bin = binOf(LOWEST); bin <= binOf(HIGHEST); bin++) {
    if (rings[bin] < rings[bin - 1] || rings[bin] < rings[bin + 1]) continue
    const dB = rings[bin] - usualAround(rings, bin)
    if (dB >= STANDS && stays[bin] - usualAround(stays, bin) >= SLOWER) found.push({ bin, dB })
  }
  return found
    .sort((a, b) => b.dB - a.dB)
    .filter((one, i, all) => !all.slice(0, i).some((stronger) => Math.abs(Math.log2(one.bin / stronger.bin)) < 0.15))
    .slice(0, MOST_TONES)
    .map(({ bin, dB }) => ({
      kind: 'dip',
      hertz: Math.round((bin * RATE) / SIZE),
      // half of what stands out goes: a room stays a room
      dB: -Math.min(9, Math.round(dB / 2)),
      width: Math.max(0.05, Math.round(100 * Math.min(0.5, widthAt(rings, bin, dB))) / 100),
    }))
}

/** The middle one of the values within `AROUND` to either side. */
function usualAround(values: Float64Array, bin: number): number {
  const near = values.slice(Math.max(1, Math.floor(bin * 2 ** -AROUND)), Math.ceil(bin * 2 ** AROUND) + 1).sort()
  return near[near.length >> 1]
}

/** How wide a tone stands at half its height, in octaves. */
function widthAt(rings: Float64Array, bin: number, dB: number): number {
  const reach = (way: 1 | -1) => {
    let at = bin
    while (at > 1 && at < rings.length - 1 && rings[at] > rings[bin] - dB / 2) at += way
    return at
  }
  return Math.log2(reach(1) / reach(-1))
}

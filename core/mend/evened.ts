import { levelOf, smoothed, squaresOf, turn } from './looks'

/**
 * A voice held at its own average: what is above is turned down and what is below up, by a ratio. First bursts, within hundredths of a
 * second, then phrases, over most of a second to either side, told by the looks in which somebody speaks (gain riding; the gain
 * computer is that of a compressor with a ratio on both sides: Giannoulis, Massberg and Reiss 2012).
 */
export interface Evened {
  kind: 'level'
  /** The average that it is held at, in dBFS. */
  average: number
  /** So many dB away from the average become one. */
  ratio: number
  /** The quietest that is lifted, in dBFS: what is below is no speech. */
  least: number
  /** One pass for phrases; the second one holds bursts. */
  passes: 1 | 2
}

/** A burst stands so far above the average, in dB, and is told by so many looks of 20 ms to either side. */
const BURST = 12
const BURST_REACH = 3
/** Phrases are told by so many looks to either side, and turned by gains that are smoothed over as many. */
const PHRASE_REACH = 20
const GAIN_REACH = 20
/** Nothing is turned by more than this, in dB. */
const MOST = 24

/** Evens a run in place. */
export function evened({ average, ratio, least, passes }: Evened, samples: Float64Array): void {
  const share = 1 - 1 / ratio
  if (passes === 2) {
    const all = squaresOf(samples)
    const ones = new Float64Array(all.length).fill(1)
    const over = all.map((square) => Math.max(0, levelOf(square) - average - BURST))
    turn(
      samples,
      smoothed(
        over.map((dB) => -dB),
        ones,
        BURST_REACH,
      ),
    )
  }
  const { speaks, phrases } = phrasesOf(samples, least)
  const wanted = phrases.map((square) => (square > 0 ? Math.max(-MOST, Math.min(MOST, share * (average - levelOf(square)))) : 0))
  turn(samples, smoothed(wanted, speaks, GAIN_REACH, 0.01))
}

/** Where somebody speaks, and how loud the phrase around each look is, as a mean square. */
function phrasesOf(samples: Float64Array, least: number): { speaks: Float64Array; phrases: Float64Array } {
  const squares = squaresOf(samples)
  const speaks = squares.map((square) => (levelOf(square) >= least ? 1 : 0))
  return { speaks, phrases: smoothed(squares, speaks, PHRASE_REACH) }
}

/**
 * The level at which a voice is to be held so that it stays as loud as it is on average, in dBFS; told by stretches of it. Loud phrases
 * count more in an average than soft ones do, so that is not its average. NaN where nobody speaks.
 */
export function heldAt(stretches: readonly Float64Array[], { ratio, least }: Pick<Evened, 'ratio' | 'least'>): number {
  const levels = stretches.flatMap((samples) => {
    const { speaks, phrases } = phrasesOf(samples, least)
    return [...phrases].filter((_, look) => speaks[look] === 1)
  })
  const mean = (values: readonly number[]) => values.reduce((sum, one) => sum + one, 0) / values.length
  // soft phrases do not count to how loud a voice is (the gate of ITU-R BS.1770), but do once it is held
  const gate = mean(levels) / 10
  const now = mean(levels.filter((level) => level > gate))
  // what becomes of it, held at 0 dBFS
  const then = mean(levels.map((level) => level ** (1 / ratio)))
  return (10 * Math.log10(now / then)) / (1 - 1 / ratio)
}

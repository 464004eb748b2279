import { fourier } from '../sound/fourier'
import { RATE, toFrames, type Frames } from '../time'
import type { Back } from './story'

/**
 * Places of music that sound alike, so that one can go from the later back to the earlier. Each moment is told by its loudness in
 * bands of a third of an octave or so; moments are compared along each lag, as in the self-similarity of Foote (Visualizing Music and
 * Audio using Self-Similarity, 1999), over some seconds around. The best lags are then set to the frame by the wave itself.
 */

const SIZE = 4096
const BANDS = 24
const [LOWEST, HIGHEST] = [60, 8000]
/** In dB, below the loudest moment of a band: nothing softer counts. */
const FLOOR = -60
/** Moments are this far apart; further in what is long, so that there are never more than so many. */
const HOP: Frames = toFrames(0.02)
const MOST_MOMENTS = 6000
/** What lies around two places is compared over so long. */
const AROUND: Frames = toFrames(3)
/** Going back less far is heard as a stutter. */
const SHORTEST: Frames = toFrames(4)
/** The wave is compared over so long, and shifted by as much to either side as moments are apart. */
const WAVE: Frames = toFrames(0.25)
/** How many of the best lags are compared by their wave. */
const BEST = 12
/** Two places that differ by more than this share of what any two do are not alike; waves correlate so much where they are the same. */
const ALIKE = 0.35
const SAME = 0.6

/** Where music goes back from and to, in frames of `samples` (one channel); null where no two places sound alike. */
export function alikePlaces(samples: Float32Array): Back | null {
  const hop = Math.max(HOP, Math.ceil(samples.length / MOST_MOMENTS))
  const moments = momentsOf(samples, hop)
  const count = Math.floor(moments.length / BANDS)
  const around = Math.round(AROUND / hop)
  const usual = usualDistance(moments, count)
  if (!usual) return null
  const found: { lag: number; at: number; differs: number }[] = []
  for (let lag = Math.ceil(SHORTEST / hop); lag < count - around; lag++) {
    const { at, differs } = bestAt(moments, count, lag, around)
    found.push({ lag, at, differs: differs / usual })
  }
  const best = peaks(found.filter(({ differs }) => differs <= ALIKE)).slice(0, BEST)
  const placed = best.map(({ lag, at, differs }) => ({ differs, share: lag / count, ...byWave(samples, at * hop, (at + lag) * hop, hop) }))
  // what is nearly as much alike joins better where the wave is the same, and is noticed less where it comes round later
  const worth = ({ differs, correlates, share }: (typeof placed)[number]) => differs - 0.3 * correlates - 0.1 * share
  const [one] = placed.sort((a, b) => worth(a) - worth(b))
  if (!one) return null
  return { from: one.from, to: one.to, ...(one.correlates >= SAME ? { same: true as const } : {}) }
}

/** The loudness of each moment in each band, in dB, less what the band has on average. */
function momentsOf(samples: Float32Array, hop: Frames): Float32Array {
  const fft = fourier(SIZE)
  const spectrum = fft.createComplexArray()
  const run = Array.from({ length: SIZE }, () => 0)
  const edges = Array.from({ length: BANDS + 1 }, (_, i) => Math.round((LOWEST * (HIGHEST / LOWEST) ** (i / BANDS) * SIZE) / RATE))
  const count = Math.max(0, Math.floor((samples.length - SIZE) / hop))
  const out = new Float32Array(count * BANDS)
  for (let moment = 0; moment < count; moment++) {
    for (let i = 0; i < SIZE; i++) run[i] = samples[moment * hop + i] * (0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / SIZE))
    fft.realTransform(spectrum, run)
    for (let band = 0; band < BANDS; band++) {
      let power = 1e-12
      const [first, end] = [edges[band], Math.max(edges[band] + 1, edges[band + 1])]
      for (let bin = first; bin < end; bin++) power += spectrum[2 * bin] ** 2 + spectrum[2 * bin + 1] ** 2
      out[moment * BANDS + band] = 10 * Math.log10(power)
    }
  }
  for (let band = 0; band < BANDS; band++) {
    let most = -Infinity
    for (let moment = 0; moment < count; moment++) most = Math.max(most, out[moment * BANDS + band])
    for (let moment = 0; moment < count; moment++) {
      const at = moment * BANDS + band
      out[at] = Math.max(FLOOR, out[at] - most)
    }
  }
  return out
}

function distance(moments: Float32Array, a: number, b: number): number {
  let sum = 0
  for (let band = 0; band < BANDS; band++) {
    const by = moments[a * BANDS + band] - moments[b * BANDS + band]
    sum += by * by
  }
  return sum
}

/** How much two moments differ that have nothing to do with each other: a spread of pairs, always the same ones. */
function usualDistance(moments: Float32Array, count: number): number {
  let sum = 0
  const pairs = Math.min(count, 4000)
  for (let i = 0; i < pairs; i++) sum += distance(moments, i % count, (i * 7919 + 101) % count)
  return pairs ? sum / pairs : 0
}

/** Where along a lag what lies around two places differs least, and by how much on average. */
function bestAt(moments: Float32Array, count: number, lag: number, around: number): { at: number; differs: number } {
  const length = count - lag
  const along = new Float32Array(length)
  for (let i = 0; i < length; i++) along[i] = distance(moments, i, i + lag)
  let [sum, at, least] = [0, 0, Infinity]
  for (let i = 0; i < length; i++) {
    sum += along[i]
    if (i >= around) sum -= along[i - around]
    if (i >= around - 1 && sum < least) [least, at] = [sum, i - (around >> 1)]
  }
  return { at, differs: least / around }
}

/** Lags that are better than those beside them, the best first. */
const peaks = <T extends { differs: number }>(found: readonly T[]): T[] =>
  found
    .filter((one, i) => one.differs <= (found[i - 1]?.differs ?? Infinity) && one.differs <= (found[i + 1]?.differs ?? Infinity))
    .sort((a, b) => a.differs - b.differs)

/** Two places set to the frame, where their waves are most alike, and how much these correlate there. */
function byWave(samples: Float32Array, from: Frames, to: Frames, hop: Frames): { from: Frames; to: Frames; correlates: number } {
  let [best, shift] = [-Infinity, 0]
  const at = (by: number, step: number) => correlation(samples, from, to + by, step)
  const reach = Math.min(2 * hop, samples.length - to - WAVE)
  for (let by = -2 * hop; by <= reach; by += 4) {
    const now = at(by, 4)
    if (now > best) [best, shift] = [now, by]
  }
  const coarse = shift
  best = -Infinity
  for (let by = coarse - 4; by <= coarse + 4; by++) {
    const now = at(by, 1)
    if (now > best) [best, shift] = [now, by]
  }
  return { from, to: to + shift, correlates: best }
}

function correlation(samples: Float32Array, a: Frames, b: Frames, step: number): number {
  let [both, one, other] = [0, 1e-12, 1e-12]
  for (let i = -WAVE; i < WAVE; i += step) {
    const [x, y] = [samples[a + i] ?? 0, samples[b + i] ?? 0]
    both += x * y
    one += x * x
    other += y * y
  }
  return both / Math.sqrt(one * other)
}

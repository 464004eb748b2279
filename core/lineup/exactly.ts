import FFT from 'fft.js'
import { onlyInOneStretch, type Loudness } from './oneStretch'
import { line, MOST_DRIFT, type Point } from './roughly'
import { NARROW_RATE, narrowed, type Source } from './source'
import { spectrumOf } from './spectrum'

/** Narrow frames: 3 s are compared at a time, and looked for this far to either side. */
const LOOK = 3 * NARROW_RATE
const SIZE = 1 << 15
const PLACES = 120
/** What counts of the spectrum, in Hz. */
const BAND = [200, 3500]
/** A place agrees that lies this close to the line, in narrow frames: sound travels three metres meanwhile. */
const CLOSE = 0.01 * NARROW_RATE

/** Delays by one way through the air lie within this of one another, in narrow frames: 0.4 ms. */
const ONE_WAY = 0.0004 * NARROW_RATE
/** A second way counts where it holds this share of what the first one does. */
const SECOND = 0.15

export interface Exact {
  /** Narrow frames of the first at the start of the second, and the drift in parts of one. */
  offset: number
  drift: number
  /** Places that could be compared, and those that lie on the line. */
  compared: number
  agree: number
  /** Whether they agree in one stretch alone, though both sound elsewhere too. */
  oneStretch: boolean
  /** How far those lie from it, or from the way through the air that they took, the middle one, in seconds. */
  spread: number
}

/**
 * The line that the second recording lies on in the first, from the delays at many places of a few
 * seconds each, near a rough one; the wave itself is compared, so that it is good to a part of a
 * millisecond. `reach` is how far to look to either side, in seconds. Null where hardly anything could be compared.
 */
export function exactly(first: Source, second: Source, rough: { offset: number; drift: number }, reach: number): Exact | null {
  const length = Math.floor(second.frames / 6)
  const end = Math.floor(first.frames / 6)
  const [offset, speed] = [rough.offset * NARROW_RATE, 1 + rough.drift]
  const from = Math.max(0, -offset / speed)
  const to = Math.min(length, (end - offset) / speed) - LOOK
  if (to <= from) return null
  const places = Math.min(PLACES, Math.max(4, Math.floor((to - from) / (LOOK / 2))))
  const delays = delayFinder(Math.round(reach * NARROW_RATE))
  const points: Point[] = []
  const heard: { point: Point | null; at: number; first: Loudness; second: Loudness }[] = []
  for (let i = 0; i < places; i++) {
    const at = Math.round(from + ((to - from) * i) / (places - 1))
    const there = Math.round(offset + at * speed)
    const { found, ...powers } = delays(first, second, there, at)
    const point = found && { x: at + LOOK / 2, y: there - at + found.delay, weight: Math.min(20, found.height - 3) }
    if (point) points.push(point)
    heard.push({ point, at, ...powers })
  }
  if (points.length < 4) return null
  const { agreeing, ...line } = straightest(points)
  const oneStretch = onlyInOneStretch(heard.map(({ point, ...place }) => ({ ...place, agrees: point !== null && agreeing.has(point) })))
  return { ...line, oneStretch }
}

interface Delay {
  delay: number
  /** Of the peak, in multiples of the root mean square. */
  height: number
}

/**
 * Finds by how many narrow frames a stretch of one lies beside a stretch of another, by their
 * cross-correlation, whitened to three quarters: wholly (phase transform, Knapp and Carter 1976)
 * would lift the noise between harmonics.
 */
function delayFinder(
  reach: number,
): (first: Source, second: Source, there: number, at: number) => { found: Delay | null; first: Loudness; second: Loudness } {
  const fft = new FFT(SIZE)
  const [low, high] = BAND.map((hertz) => Math.round((hertz / NARROW_RATE) * SIZE))
  return (first, second, there, at) => {
    const [one, other] = [narrowed(first, there - reach, there + LOOK + reach), narrowed(second, at, at + LOOK)]
    const powers = { first: loudnessOf(one.subarray(reach, reach + LOOK)), second: loudnessOf(other) }
    const [a, b] = [spectrumOf(fft, SIZE, one), spectrumOf(fft, SIZE, other)]
    const cross = new Float64Array(2 * SIZE)
    for (let bin = low; bin < high; bin++) {
      const [r, i] = [a[2 * bin] * b[2 * bin] + a[2 * bin + 1] * b[2 * bin + 1], a[2 * bin + 1] * b[2 * bin] - a[2 * bin] * b[2 * bin + 1]]
      const size = Math.sqrt(r * r + i * i)
      if (!size) continue
      const root = Math.sqrt(size)
      const by = 1 / (root * Math.sqrt(root))
      cross[2 * bin] = r * by
      cross[2 * bin + 1] = i * by
    }
    fft.completeSpectrum(cross as unknown as number[])
    const out = new Float64Array(2 * SIZE)
    fft.inverseTransform(out as unknown as number[], cross as unknown as number[])
    // a recording may be upside down: what counts is how far it swings
    let best = 0
    let power = 0
    const value = (lag: number) => Math.abs(out[2 * lag])
    for (let lag = 0; lag <= 2 * reach; lag++) {
      power += value(lag) ** 2
      if (value(lag) > value(best)) best = lag
    }
    const height = value(best) / Math.sqrt(power / (2 * reach + 1))
    if (!(height > 4)) return { found: null, ...powers }
    const [before, peak, after] = [best ? value(best - 1) : 0, value(best), value(best + 1)]
    const bend = before - 2 * peak + after
    const found = { delay: best - reach + (bend ? (0.5 * (before - after)) / bend : 0), height }
    return { found, ...powers }
  }
}

/** Narrow frames of a moment: 20 ms, a whole period of the mains. */
const MOMENT = NARROW_RATE / 50

function loudnessOf(sound: Float32Array): Loudness {
  let [all, quietest] = [0, Infinity]
  for (let at = 0; at + MOMENT <= sound.length; at += MOMENT) {
    let power = 0
    for (let i = at; i < at + MOMENT; i++) power += sound[i] * sound[i]
    all += power
    quietest = Math.min(quietest, power / MOMENT)
  }
  return { power: all / sound.length, quietest }
}

/** Where what is left of the delays gathers: one place, or two that both hold a good part of them. */
function waysOf(left: readonly number[], weights: readonly number[]): number[] {
  const gathered = (at: number) => left.reduce((sum, one, i) => sum + weights[i] * Math.max(0, 1 - Math.abs(one - at) / ONE_WAY), 0)
  const places = left.map((at) => ({ at, weight: gathered(at) })).sort((a, b) => b.weight - a.weight)
  const [first] = places
  const second = places.find(({ at }) => Math.abs(at - first.at) > 2 * ONE_WAY)
  return second && second.weight > SECOND * first.weight ? [first.at, second.at] : [first.at]
}

/** The line that most points lie on by one way through the air, then the one in the middle between two ways. */
function straightest(points: readonly Point[]): Omit<Exact, 'oneStretch'> & { agreeing: ReadonlySet<Point> } {
  const onto = (at: number, rise: number, close: number) => points.filter((point) => Math.abs(point.y - at - rise * point.x) < close)
  const heavy = (some: readonly Point[]) => some.reduce((sum, { weight }) => sum + weight, 0)
  const apart = (points.at(-1)!.x - points[0].x) / 4
  let best: Point[] = []
  const consider = (at: number, rise: number) => {
    const close = onto(at, rise, 2 * ONE_WAY)
    if (heavy(close) > heavy(best)) best = close
  }
  for (const [i, a] of points.entries()) {
    consider(a.y, 0)
    for (let j = i + 1; j < points.length; j++) {
      const b = points[j]
      const rise = (b.y - a.y) / (b.x - a.x)
      if (b.x - a.x > apart && Math.abs(rise) < MOST_DRIFT) consider(a.y - rise * a.x, rise)
    }
  }
  let fitted = line(best, MOST_DRIFT / 4, ONE_WAY)
  best = onto(fitted.at, fitted.rise, CLOSE)
  // two voices, each nearer to another machine, lie a few milliseconds to either side of where the clocks meet
  let off: number[] = []
  for (let i = 0; i < 3; i++) {
    const left = best.map((point) => point.y - fitted.at - fitted.rise * point.x)
    const ways = waysOf(
      left,
      best.map(({ weight }) => weight),
    )
    off = left.map((one) => Math.min(...ways.map((way) => Math.abs(one - way))))
    const middle = (ways[0] + ways[ways.length - 1]) / 2
    const straight = best.map((point, k) => {
      const way = ways.reduce((a, b) => (Math.abs(left[k] - b) < Math.abs(left[k] - a) ? b : a))
      return { ...point, y: point.y - way + middle }
    })
    fitted = line(
      straight.filter((point) => Math.abs(point.y - middle - fitted.at - fitted.rise * point.x) < ONE_WAY),
      MOST_DRIFT / 4,
      ONE_WAY,
    )
    best = onto(fitted.at, fitted.rise, CLOSE)
  }
  off.sort((a, b) => a - b)
  return {
    offset: fitted.at,
    drift: fitted.rise,
    compared: points.length,
    agree: best.length,
    agreeing: new Set(best),
    spread: (off[off.length >> 1] ?? 0) / NARROW_RATE,
  }
}

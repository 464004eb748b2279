import { PER_BIN } from './peaks'

const BINS = 75 // a tenth of a second of the finest peaks

/**
 * Whether two channels are two speakers, one on each, and not one stereo picture: in most of the
 * loud moments one of them is far louder than the other. Takes the finest peaks of each channel.
 */
export function twoSpeakers(left: Int16Array, right: Int16Array): boolean {
  const level = (peaks: Int16Array, window: number) => {
    let squares = 1
    for (let bin = window * BINS; bin < (window + 1) * BINS; bin++) squares += peaks[bin * PER_BIN + 2] ** 2
    return 10 * Math.log10(squares / BINS)
  }
  const pairs: [number, number][] = []
  for (let window = 0; (window + 1) * BINS * PER_BIN <= left.length; window++) pairs.push([level(left, window), level(right, window)])
  const loudest = pairs.map(([a, b]) => Math.max(a, b)).sort((a, b) => b - a)
  const loud = (loudest[Math.floor(loudest.length / 10)] ?? 0) - 25
  const counted = pairs.filter(([a, b]) => Math.max(a, b) > loud)
  const leftAlone = counted.filter(([a, b]) => a - b > 9).length
  const rightAlone = counted.filter(([a, b]) => b - a > 9).length
  return leftAlone + rightAlone > counted.length * 0.6 && Math.min(leftAlone, rightAlone) > counted.length * 0.03
}

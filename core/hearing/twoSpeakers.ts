const LOOKS = 5 // a tenth of a second

/**
 * Whether two channels are two speakers, one on each, and not one stereo picture: in most of the
 * loud moments one of them is far louder than the other. Takes the mean squares of each look (20 ms) of each channel.
 */
export function twoSpeakers(left: ArrayLike<number>, right: ArrayLike<number>): boolean {
  const level = (looks: ArrayLike<number>, window: number) => {
    let power = 1e-9
    for (let i = window * LOOKS; i < (window + 1) * LOOKS; i++) power += looks[i] / LOOKS
    return 10 * Math.log10(power)
  }
  const pairs: [number, number][] = []
  for (let window = 0; (window + 1) * LOOKS <= left.length; window++) pairs.push([level(left, window), level(right, window)])
  const loudest = pairs.map(([a, b]) => Math.max(a, b)).sort((a, b) => b - a)
  const loud = (loudest[Math.floor(loudest.length / 10)] ?? 0) - 25
  const counted = pairs.filter(([a, b]) => Math.max(a, b) > loud)
  const leftAlone = counted.filter(([a, b]) => a - b > 9).length
  const rightAlone = counted.filter(([a, b]) => b - a > 9).length
  return leftAlone + rightAlone > counted.length * 0.6 && Math.min(leftAlone, rightAlone) > counted.length * 0.03
}

import { bare } from '../find/bare'
import { firstWordAfter, type Word } from '../tape/words'
import { milliseconds, type Frames, type Stretch } from '../time'
import { Alike, type Spoilt } from './alike'
import { PATCH_STEP, type Looks } from './sound'
import { overlaps } from '../stretches'

/** Where else on its tape the same may be said. */

export interface Sought {
  /** What cannot be heard as it was said. */
  spot: Stretch
  /** What is sought: the words that it lies in, or some sound around it. */
  sought: Stretch
  text: string | null
  speaker?: string
}

/** A word is spoilt where more than this of it is. */
const TOUCHED = milliseconds(8)
const AROUND = milliseconds(300)

export function soughtAt(words: readonly Word[], spot: Stretch): Sought {
  const touched: Word[] = []
  for (let i = firstWordAfter(words, spot.from + TOUCHED); i < words.length && words[i].from < spot.to - TOUCHED; i++)
    if (words[i].what !== 'noise') touched.push(words[i])
  if (!touched.length) return { spot, sought: { from: Math.max(0, spot.from - AROUND), to: spot.to + AROUND }, text: null }
  const [first, last] = [touched[0], touched[touched.length - 1]]
  return {
    spot,
    sought: { from: Math.min(first.from, spot.from), to: Math.max(last.to, spot.to) },
    text: touched.map(({ text }) => bare(text)).join(' '),
    speaker: first.speaker,
  }
}

/** Where the same words are said by the same voice. */
export function byWords(words: readonly Word[], { sought, text, speaker }: Sought): Stretch[] {
  if (!text) return []
  const parts = text.split(' ')
  const said = words.filter((word) => word.what !== 'noise')
  const found: Stretch[] = []
  for (let i = 0; i + parts.length <= said.length; i++) {
    if (bare(said[i].text) !== parts[0] || said[i].speaker !== speaker) continue
    if (!parts.every((part, k) => bare(said[i + k].text) === part && said[i + k].speaker === speaker)) continue
    const stretch = { from: said[i].from, to: said[i + parts.length - 1].to }
    if (!overlaps(stretch, sought)) found.push(stretch)
  }
  return found
}

/** What is further from the spot tells less of what is under it. */
const NEAR = milliseconds(90)

/** How much a look counts in telling what was said at the spot. */
export const weightAt = (frame: Frames, spot: Stretch): number => {
  const away = Math.max(0, spot.from - frame, frame - spot.to)
  return Math.exp(-away / NEAR)
}

/**
 * A look speaks for the same sound where it is more alike than this share of the tape's looks, and
 * against it where it is less: a pause, and what is said all the time, speak little.
 */
const USUAL = 0.06
/** So many looks of the tape are compared to know that. */
const COMPARED = 600
/** What differs by more than this, in dB, never speaks for it. */
const SAME = 4
/** What lies this many looks further out counts for a third. */
const FADES = 22
/** So much against it, and what lies further out is other words. */
const DROP = 25

/**
 * Where the tape sounds most like what is sought, best first. From the spot outwards on either side
 * it counts as far as it is alike: other words stand around what is said again (local alignment, as
 * Smith and Waterman, 1981). `score`: what speaks for it, in dB times looks.
 */
export function bySound(looks: Looks, { sought }: Sought, spoilt: Spoilt, count: number): (Stretch & { score: number })[] {
  const from = Math.max(0, Math.round(sought.from / PATCH_STEP))
  const to = Math.min(looks.count, Math.round(sought.to / PATCH_STEP))
  const rows = to - from
  const [left, right] = [Math.max(0, spoilt.first - from), Math.min(rows - 1, spoilt.last - from)]
  const alike = new Alike(looks, spoilt, from, rows)
  // what tells nothing speaks neither way
  const near = Float64Array.from({ length: rows }, (_, row) =>
    alike.tells(row) ? Math.exp(-Math.max(0, left - row, row - right) / FADES) : 0,
  )
  const usual = Float64Array.from({ length: rows }, (_, row) => (alike.tells(row) ? usuallyUnlike(alike, row, looks.count) : 0))
  const speaks = (row: number, column: number) =>
    near[row] > 0 && column >= 0 && column < looks.count ? near[row] * (usual[row] - alike.unlike(row, column)) : 0
  // first at the pace at which it was said, with the middle of the spot at every other look
  const middle = (left + right) >> 1
  const inSpot = spread(left, right)
  const mostInSpot = inSpot.reduce((sum, row) => sum + near[row] * usual[row], 0)
  /** The most that spoke for any place beside the spot until now: a sample comes first. */
  let mostBeside = 0
  /** What speaks for it at a place; no more is asked once it can hardly come to `least`. */
  const scoreAt = (i: number, least: number): number => {
    const shift = i * COARSE - middle
    if (shift + left < from + right && shift + right > from + left) return -Infinity
    let score = 0
    let more = mostInSpot + mostBeside
    for (const row of inSpot) {
      score += speaks(row, shift + row)
      more -= near[row] * usual[row]
      if (score + more < least) return -Infinity
    }
    let beside = 0
    for (const by of [-1, 1]) {
      let [sum, best] = [0, 0]
      for (let row = by < 0 ? left - 1 : right + 1; row >= 0 && row < rows && sum > best - DROP; row += by) {
        sum += speaks(row, shift + row)
        best = Math.max(best, sum)
      }
      beside += best
    }
    mostBeside = Math.max(mostBeside, beside)
    return score + beside
  }
  const places = Math.ceil(looks.count / COARSE)
  const least = leastOf(places, (i) => scoreAt(i, -Infinity))
  const scores = Float32Array.from({ length: places }, (_, i) => scoreAt(i, least))
  const found: { from: number; to: number; middle: number }[] = []
  const order = Array.from(scores.keys()).filter(
    (i) => scores[i] > -Infinity && scores[i] >= (scores[i - 1] ?? -Infinity) && scores[i] >= (scores[i + 1] ?? -Infinity),
  )
  for (const i of order.sort((a, b) => scores[b] - scores[a])) {
    const one = { from: i * COARSE - middle, to: i * COARSE + rows - 1 - middle }
    if (found.some((other) => Math.abs(other.from - one.from) < (right - left + 6) / 2)) continue
    found.push({ ...one, middle: i * COARSE })
    if (found.length === POOL) break
  }
  // then those that are best at whatever pace
  const ranked = found.map((one) => ({
    ...one,
    score: asFarAsAlike(middle, rows, one.middle, 1, speaks) + asFarAsAlike(middle - 1, rows, one.middle - 1, -1, speaks),
  }))
  return ranked
    .sort((a, b) => b.score - a.score)
    .slice(0, count)
    .map((one) => ({ from: Math.max(0, one.from) * PATCH_STEP, to: one.to * PATCH_STEP, score: one.score }))
}

/** Of every so many looks one is tried, and so many places are looked at more closely. */
const COARSE = 2
const POOL = 300
/** On a long tape all but this share of places can be told from the rest by this many of them. */
const WORTH = 0.08
const SAMPLE = 4000

/** What a place must come to, to be among those that are looked at more closely, as far as a sample tells. */
function leastOf(places: number, scoreAt: (i: number) => number): number {
  if (places < 5 * SAMPLE) return -Infinity
  const some = Float32Array.from({ length: SAMPLE }, (_, k) => scoreAt(Math.floor((k * places) / SAMPLE)))
  return some.sort()[Math.floor(SAMPLE * (1 - WORTH))]
}

/** All from `first` to `last`, those that are apart before those that are beside each other. */
function spread(first: number, last: number): number[] {
  const step = 5
  return Array.from({ length: step }, (_, k) =>
    Array.from({ length: Math.max(0, Math.ceil((last - first + 1 - k) / step)) }, (_row, i) => first + k + i * step),
  ).flat()
}

/** So far may one be ahead of the other, in looks. */
const AHEAD = 14
const UNEVEN = 1

/** The most that two runs of looks say for the same sound, from `row` and `column` on to one side, at whatever pace. */
function asFarAsAlike(first: number, rows: number, column: number, by: 1 | -1, speaks: (row: number, column: number) => number): number {
  const width = 2 * AHEAD + 1
  let before = new Float64Array(width).fill(-Infinity)
  before[AHEAD] = 0
  let most = 0
  for (let row = first, n = 0; row >= 0 && row < rows; row += by, n++) {
    const now = new Float64Array(width).fill(-Infinity)
    let best = -Infinity
    for (let k = 0; k < width; k++) {
      // as fast, slower by one, faster by one
      const reached =
        n === 0 ? before[k] : Math.max(before[k], (before[k + 1] ?? -Infinity) - UNEVEN, (before[k - 1] ?? -Infinity) - UNEVEN)
      if (reached === -Infinity) continue
      now[k] = reached + speaks(row, column + by * (n + k - AHEAD))
      best = Math.max(best, now[k])
    }
    most = Math.max(most, best)
    if (best < most - DROP) break
    before = now
  }
  return most
}

/** How unlike the more alike part of a tape's looks is to one that is sought. */
function usuallyUnlike(alike: Alike, row: number, count: number): number {
  const some: number[] = []
  for (let other = 0; other < count; other += Math.max(1, Math.floor(count / COMPARED))) some.push(alike.unlike(row, other))
  return Math.min(SAME, some.sort((a, b) => a - b)[Math.floor(some.length * USUAL)])
}

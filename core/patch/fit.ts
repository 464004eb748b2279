import { SoundLooks } from '../align/bands'
import { joinAlong, type Pair } from '../cuts/along'
import type { Edge } from '../cuts/edge'
import { pitchOf } from '../cuts/jump'
import type { Join } from '../edits/editList'
import { clamp, milliseconds, type Frames, type Stretch } from '../time'
import { Alike, type Spoilt } from './alike'
import { weightAt, type Sought } from './candidates'
import { BANDS, PATCH_STEP, type Looks } from './sound'
import { warp } from './warp'

/** A stretch of sound that may be laid over a spot, put in step with it: as short as will do. */

export interface Fit {
  /** What goes, and what is laid over it: frames of the tape. */
  over: Stretch
  laid: Stretch
  /** In dB, so that it is as loud as what is around the spot. */
  level: number
  joins: Record<'left' | 'right', Pick<Join, 'fade' | 'shape'>>
  /** How well it fits: the less the better. */
  cost: number
  /** What is otherwise about it, in a few words each. */
  differs: string[]
}

/** One channel of a tape, from frame `start` on. */
export interface Part {
  sound: Float32Array
  start: Frames
}

/** So much sound around what is sought, and around what is found, is wanted. */
export const FIT_AROUND: Frames = milliseconds(420)
/** A candidate may begin and end so much earlier or later than was said. */
const LOOSE = milliseconds(80)
/** A patch reaches no further beyond the spot than this. */
const FURTHEST = milliseconds(130)
const CLEAR = milliseconds(4)
const FEWEST = 5
const MOST_LEVEL = 12
const PITCH = milliseconds(36)

/** `looks` of the whole tape; null where the two cannot be laid on each other. */
export function fit({ spot, sought }: Sought, spoilt: Spoilt, looks: Looks, target: Part, candidate: Part, at: Stretch): Fit | null {
  const first = Math.max(0, Math.round(sought.from / PATCH_STEP))
  const rows = Math.min(looks.count, Math.round(sought.to / PATCH_STEP)) - first
  const begin = Math.max(0, Math.round((at.from - LOOSE) / PATCH_STEP))
  const columns = Math.min(looks.count, Math.round((at.to + LOOSE) / PATCH_STEP)) - begin
  if (rows < 2 || columns < 2) return null
  const frameOf = (row: number) => (first + row) * PATCH_STEP
  const alike = new Alike(looks, spoilt, first, rows)
  const weight = (row: number) => (alike.tells(row) ? weightAt(frameOf(row), spot) : 0)
  const loose = Math.round((2 * LOOSE) / PATCH_STEP)
  const path = warp(
    rows,
    columns,
    (row, column) => (alike.tells(row) ? alike.unlike(row, begin + column) : 0),
    weight,
    loose,
    Math.max(0, columns - 1 - loose),
  )
  if (!path) return null
  const level = levelBetween(looks, spoilt, path.path, first, begin)

  const along = (frame: Frames): Frames => {
    const place = (frame - frameOf(0)) / PATCH_STEP
    const row = clamp(Math.floor(place), 0, Math.max(0, rows - 2))
    const [a, b] = [path.path[row], path.path[Math.min(rows - 1, row + 1)]]
    // beyond what was compared it goes on at the same pace
    const column =
      place < 0 || place > rows - 1
        ? place < 0
          ? path.path[0] + place
          : path.path[rows - 1] + place - (rows - 1)
        : a + (b - a) * (place - row)
    return Math.round((begin + column) * PATCH_STEP)
  }
  const gained = candidate.sound.map((sample) => sample * 10 ** (level / 20))
  const old = (low: Frames, high: Frames): Edge => ({
    sound: target.sound,
    start: target.start,
    asked: low,
    low,
    high,
    kept: null,
    gone: null,
  })
  const own: Edge = {
    sound: gained,
    start: candidate.start,
    asked: at.from,
    low: candidate.start,
    high: candidate.start + candidate.sound.length,
    kept: null,
    gone: null,
  }
  const beyond = milliseconds(2)
  const near = { target: new SoundLooks(target.sound), candidate: new SoundLooks(gained) }
  const pairs = (from: Frames, to: Frames, by: Frames): Pair[] => {
    const out: Pair[] = []
    for (let x = from; by > 0 ? x <= to : x >= to; x += by) {
      const y = along(x)
      if (
        x > target.start + FADE_ROOM &&
        x < target.start + target.sound.length - FADE_ROOM &&
        y > candidate.start + FADE_ROOM &&
        y < candidate.start + candidate.sound.length - FADE_ROOM
      )
        out.push({ old: x, laid: y, far: Math.abs(x - from) })
    }
    return out
  }
  const before = pairs(spot.from - CLEAR, Math.max(target.start, spot.from - FURTHEST), -beyond)
  const after = pairs(spot.to + CLEAR, Math.min(target.start + target.sound.length, spot.to + FURTHEST), beyond)
  if (!before.length || !after.length) return null
  const left = joinAlong(old(target.start, spot.from), own, before, 'left', near)
  const right = joinAlong(own, old(spot.to, target.start + target.sound.length), after, 'right', near)
  if (right.laid <= left.laid) return null

  const pitch = semitones([
    [part(target, left.old - PITCH, left.old), part(candidate, left.laid - PITCH, left.laid)],
    [part(target, right.old, right.old + PITCH), part(candidate, right.laid, right.laid + PITCH)],
  ])
  const pace = Math.log((right.laid - left.laid) / (right.old - left.old))
  const cost = path.cost / 5 + Math.abs(pitch ?? 2) / 4 + Math.abs(pace) / 0.5 + Math.abs(level) / 12 + (left.cost + right.cost) / 8
  return {
    over: { from: left.old, to: right.old },
    laid: { from: left.laid, to: right.laid },
    level: Math.round(level * 10) / 10,
    joins: { left: left.join, right: right.join },
    cost,
    differs: [
      ...(pitch !== null && Math.abs(pitch) >= 1.5 ? [pitch > 0 ? 'higher' : 'lower'] : []),
      ...(Math.abs(pace) >= 0.15 ? [pace > 0 ? 'slower' : 'faster'] : []),
      ...(Math.abs(level) >= 4 ? [level > 0 ? 'softer on the tape' : 'louder on the tape'] : []),
      ...(path.cost > 9 ? ['another sound'] : []),
    ],
  }
}

const FADE_ROOM = milliseconds(12)

const levelAt = ({ values }: Looks, look: number): number => {
  let power = 0
  for (let band = 0; band < BANDS; band++) power += 10 ** (values[look * BANDS + band] / 10)
  return 10 * Math.log10(power)
}

/** By how much what is heard is louder than what was found, in the middle of those looks that are not spoilt. */
function levelBetween(looks: Looks, { first: from, last: to }: Spoilt, path: Int32Array, first: number, begin: number): number {
  const differences: number[] = []
  path.forEach((column, row) => {
    const look = first + row
    if (look < from || look > to) differences.push(levelAt(looks, look) - levelAt(looks, begin + column))
  })
  differences.sort((a, b) => a - b)
  return differences.length < FEWEST ? 0 : clamp(differences[differences.length >> 1], -MOST_LEVEL, MOST_LEVEL)
}

const part = ({ sound, start }: Part, from: Frames, to: Frames): Float32Array =>
  sound.subarray(Math.max(0, from - start), Math.max(0, to - start))

/** By how many semitones the second of each pair is higher, in the mean; null where no pair has a pitch. */
function semitones(pairs: readonly [Float32Array, Float32Array][]): number | null {
  const known = pairs.flatMap(([a, b]) => {
    const [own, other] = [pitchOf(a), pitchOf(b)]
    return own && other ? [12 * Math.log2(other / own)] : []
  })
  return known.length ? known.reduce((sum, value) => sum + value, 0) / known.length : null
}

import { BANDS, LOOK_STEP, SoundLooks } from '../align/bands'
import type { Join } from '../edits/editList'
import { rise, type FadeShape } from '../sound/fade'
import { clamp, milliseconds, type Frames, type Stretch } from '../time'
import { reachOf, type Edge } from './edge'
import type { Gap } from './rhythm'

/**
 * Where a cut falls so that it is not heard: the pair of points, one on either side, at which the
 * sound is low, what was before the one is like what is after the other, and the words stand as far
 * apart as this speaker sets them. Then, within a period of the voice, where the waves agree best.
 */

export interface Placement {
  left: Frames
  right: Frames
  join: Pick<Join, 'fade' | 'shape'>
  /** How many frames of room tone the pause between the words needs. */
  lacks: Frames
  /** The reasons for the place, in a few words each. */
  reasons: string[]
}

/** Looked at are at most so many places on either side. */
const PLACES = 56
/** What is weighed: 10 dB above the room; 10 dB between the spectra; a gap e times as long or short; 100 ms from where it was asked for. */
export const LOUD = 1.2
export const UNLIKE = 1.6
const RHYTHM = 1.1
export const FAR = 0.08
const LEAST_GAP = milliseconds(30)
/** How far a voice's wave is moved for it to go on as it was: half a period of a low one. */
const PERIOD = milliseconds(6)
const WINDOW = milliseconds(8)
export const QUIET = 6
const LONG_FADE = milliseconds(20)
const FADE = milliseconds(8)
const SHORT_FADE = milliseconds(4)
/** From this correlation on, waves add by amplitude and the crossfade is of equal gain. */
const ALIKE = 0.4
/** A missing pause shorter than this is not filled. */
const LEAST_LACK = milliseconds(60)

interface Place {
  frame: Frames
  loud: number
  bands: Float32Array
}

/** `gap`: what is to stand between the words on either side; null where that is not known. */
export function place(left: Edge, right: Edge, gap: Gap | null): Placement {
  const looks = { left: new SoundLooks(left.sound), right: new SoundLooks(right.sound) }
  const reach = { left: reachOf(left, 'left'), right: reachOf(right, 'right') }
  const room = Math.min(roomOf(looks.left), roomOf(looks.right))
  // what is heard last before, and first after
  const before = places(looks.left, left, reach.left, -milliseconds(5), room)
  const after = places(looks.right, right, reach.right, milliseconds(5), room)
  const between = (x: Frames, y: Frames) =>
    left.kept === null || right.kept === null ? null : Math.max(0, x - left.kept) + Math.max(0, right.kept - y)
  const breath = right.breath && right.kept !== null ? right.kept - right.breath.from : 0
  const wanted = gap && Math.max(gap.natural, breath)
  const most = gap ? Math.max(gap.most, breath) : Infinity

  // where every pair of places leaves more than it may, the least of them is taken
  const narrowest = Math.min(
    ...[before[0], before[before.length - 1]].flatMap((x) =>
      [after[0], after[after.length - 1]].map((y) => between(x.frame, y.frame) ?? 0),
    ),
  )
  let best = { cost: Infinity, x: before[0], y: after[0] }
  for (const x of before)
    for (const y of after) {
      const pause = between(x.frame, y.frame)
      if (pause !== null && pause > Math.max(most, narrowest)) continue
      const rhythm = pause === null || wanted === null ? 0 : Math.abs(Math.log((pause + LEAST_GAP) / (wanted + LEAST_GAP)))
      const cost =
        (LOUD * (x.loud + y.loud)) / 10 +
        (UNLIKE * distance(x.bands, y.bands)) / 10 +
        RHYTHM * rhythm +
        (FAR * (Math.abs(x.frame - left.asked) + Math.abs(y.frame - right.asked))) / milliseconds(100)
      if (cost < best.cost) best = { cost, x, y }
    }

  const quiet = best.x.loud < QUIET && best.y.loud < QUIET
  const fine = agreed(left, right, best.x.frame, best.y.frame, reach, quiet)
  const pause = between(fine.left, fine.right)
  const short = pause !== null && gap !== null && gap.natural - pause >= LEAST_LACK && (quiet || pause < gap.least)
  const lacks = short ? gap.natural - pause : 0
  const reasons = [
    quiet ? 'in the pause' : left.gone !== null && left.kept !== null ? 'between the words' : 'where it is lowest',
    ...(fine.alike >= 0.7 && !quiet ? ['the wave goes on'] : []),
    ...(right.breath ? ['the breath stays with its word'] : []),
    ...(pause !== null && gap !== null && Math.abs(pause + lacks - gap.natural) < milliseconds(40) && gap.natural >= LEAST_LACK
      ? ['a gap as this voice makes them']
      : []),
  ]
  return { left: fine.left, right: fine.right, join: { fade: fine.fade, shape: fine.shape }, lacks, reasons }
}

export function roomOf({ level, count }: SoundLooks): number {
  return level.slice().sort()[Math.floor(count / 10)] ?? -90
}

function places(looks: SoundLooks, { start }: Edge, { from, to }: Stretch, ear: Frames, room: number): Place[] {
  const step = Math.max(LOOK_STEP, Math.ceil((to - from) / PLACES / LOOK_STEP) * LOOK_STEP)
  const out: Place[] = []
  for (let frame = from; frame <= to; frame += step) {
    const at = clamp(Math.round((frame - start) / LOOK_STEP), 0, looks.count - 1)
    const bands = looks.bands(clamp(Math.round((frame + ear - start) / LOOK_STEP), 0, looks.count - 1))
    out.push({ frame, loud: Math.max(0, looks.level[at] - room), bands })
  }
  return out
}

/** Mean difference of the bands, in dB. */
export function distance(a: Float32Array, b: Float32Array): number {
  let sum = 0
  for (let band = 0; band < BANDS; band++) sum += Math.abs(a[band] - b[band])
  return sum / BANDS
}

/** Near a pair of places, where the waves agree best, and the fade that then leaves no step. */
export function agreed(left: Edge, right: Edge, x: Frames, y: Frames, reach: { left: Stretch; right: Stretch }, quiet: boolean) {
  const half = WINDOW / 2
  const own = part(left, x - half, x + half)
  const low = Math.max(right.low, Math.min(y, reach.right.from) - (quiet ? 0 : PERIOD), y - PERIOD)
  const high = Math.min(right.high, Math.max(y, reach.right.to) + (quiet ? 0 : milliseconds(2)), y + PERIOD)
  const found: { at: Frames; alike: number }[] = []
  for (let at = low; at <= high; at += 3)
    found.push({ at, alike: likeness(own, part(right, at - half, at + half)) - Math.abs(at - y) / PERIOD / 20 })
  if (!found.length) found.push({ at: y, alike: 0 })
  found.sort((a, b) => b.alike - a.alike)

  const longest = (fade: Frames) => Math.max(SHORT_FADE, Math.min(fade, 2 * room(left, x, 'left'), 2 * room(right, y, 'right')))
  const fades = quiet ? [longest(LONG_FADE), longest(FADE), SHORT_FADE] : [longest(FADE), SHORT_FADE, milliseconds(2)]
  let best: { right: Frames; fade: Frames; shape: FadeShape; alike: number; step: number } | null = null
  for (const { at, alike } of [found[0], ...found.slice(1).filter((_, i) => i % 12 === 0)].slice(0, 16))
    for (const fade of fades)
      for (const shape of alike > ALIKE ? (['gain', 'power'] as const) : (['power', 'gain'] as const)) {
        const step = stepAcross(left, right, x, at, fade, shape)
        if (!best || (best.step > 1 && step < best.step)) best = { right: at, fade, shape, alike, step }
        if (best.step <= 1) return { left: x, ...best }
      }
  return { left: x, ...best! }
}

/** How far a fade may reach out from an edge before it is in a word that stays or goes. */
function room({ kept, gone, low, high }: Edge, frame: Frames, side: 'left' | 'right'): Frames {
  const limits = [
    side === 'left' ? frame - low : high - frame,
    ...[kept, gone].flatMap((edge) => (edge === null ? [] : [Math.abs(frame - edge)])),
  ]
  return Math.max(SHORT_FADE / 2, Math.min(...limits))
}

function part({ sound, start }: Edge, from: Frames, to: Frames): Float32Array {
  const a = from - start
  if (a >= 0 && to - start <= sound.length) return sound.subarray(a, to - start)
  const out = new Float32Array(to - from)
  for (let i = Math.max(0, -a); i < out.length && a + i < sound.length; i++) out[i] = sound[a + i]
  return out
}

/** Normalised correlation, -1 to 1. */
function likeness(a: Float32Array, b: Float32Array): number {
  let product = 0
  let own = 1e-9
  let other = 1e-9
  for (let i = 0; i < a.length; i += 2) {
    product += a[i] * b[i]
    own += a[i] * a[i]
    other += b[i] * b[i]
  }
  return product / Math.sqrt(own * other)
}

const BESIDE = milliseconds(50)
const USUAL = 0.999

/**
 * The largest step from sample to sample in the crossfade, to what is not unusual in the 50 ms on either side: at most 1
 * where it leaves no click.
 */
export function stepAcross(left: Edge, right: Edge, x: Frames, y: Frames, fade: Frames, shape: FadeShape): number {
  const half = Math.floor(fade / 2)
  const before = part(left, x - half - BESIDE, x - half + fade + 1)
  const after = part(right, y - half - 1, y - half + fade + BESIDE)
  const steps = new Float32Array(Math.max(0, BESIDE - 1) + Math.max(0, after.length - fade - 2))
  let count = 0
  for (let i = 1; i < BESIDE; i++) steps[count++] = Math.abs(before[i] - before[i - 1])
  for (let i = fade + 2; i < after.length; i++) steps[count++] = Math.abs(after[i] - after[i - 1])
  const usual = largest(steps, steps.length - Math.floor((steps.length - 1) * USUAL))
  let most = 0
  let last = before[BESIDE - 1]
  for (let i = 0; i < fade; i++) {
    const t = (i + 0.5) / fade
    const now = before[BESIDE + i] * rise(shape, 1 - t) + after[i + 1] * rise(shape, t)
    most = Math.max(most, Math.abs(now - last))
    last = now
  }
  return most / Math.max(usual, 1e-9)
}

/** The n-th largest of some values. */
function largest(values: Float32Array, n: number): number {
  const top = new Float32Array(n)
  for (const value of values) {
    if (value <= top[0]) continue
    let i = 0
    while (i + 1 < n && top[i + 1] < value) {
      top[i] = top[i + 1]
      i++
    }
    top[i] = value
  }
  return top[0]
}

import { loudnessFigures, SILENCE } from '../hearing/ear'
import { Levels, STEP } from '../hearing/levels'
import { asHeard, loudnessOf, together, type Loudness } from '../hearing/loudness'
import { TruePeak } from '../hearing/truePeak'
import { decibels, lineWithin } from '../sound/level'
import type { Frames } from '../time'
import type { Plan, Strip } from './plan'
import type { Renderer } from './render'
import { soundingOf } from './sounding'
import { reachOf } from './stage'
import { stageOf } from './stages'

/**
 * How loud a plan is, heard in parts. What a part comes to depends on nothing but what sounds in it and shortly before, so that
 * after an act only the parts that it touched are listened to again.
 */

/** Frames of a part: whole steps of a loudness reading, and whole steps of a level line. */
export const PART: Frames = 20 * STEP
/** The weighting has forgotten what lies further back: its high pass falls by 400 dB over so long. */
const RUN_UP: Frames = 2 * STEP
/** A true peak is looked for with so many samples on either side, and some to spare. */
const BESIDE = 64

/** What one part comes to. */
export interface HeardPart {
  /** K-weighted power of each tenth of a second, all channels together as they are heard. */
  powers: number[]
  /** The highest true peak of any channel, as a factor of full scale. */
  peak: number
  /** How far the stages turned it down at most, as a factor: 1 where they left all as it was. */
  turned: number
}

/** How loud all of it is, in LUFS, and its true peak, in dBTP. */
export interface PlanLoudness extends Pick<Loudness, 'integrated' | 'shortTerm'> {
  truePeak: number
  /** Where the stages turned it down, from frame to frame of the plan, and by how many dB at most. */
  turned: { from: Frames; to: Frames; dB: number }[]
}

/** Less is not worth a word, in dB. */
const SAID = 0.3

export const partsIn = ({ length }: Pick<Plan, 'length'>): number => Math.ceil(length / PART)

/** Where a part begins and ends, and what of the plan it is made from. */
export function partAt({ length }: Pick<Plan, 'length'>, part: number) {
  const from = part * PART
  const to = Math.min(length, from + PART)
  return { from, to, first: Math.max(0, from - RUN_UP), last: Math.min(length, to + BESIDE) }
}

/** Names each part of a plan by all that sounds in it: what has the same name sounds the same. */
export function namesOf(plan: Plan): (part: number) => string {
  const sounding = soundingOf(plan.strips)
  const { back, ahead } = reachOf((plan.stages ?? []).map(stageOf))
  const stages = JSON.stringify(plan.stages ?? [])
  return (part) => {
    const { from, to, first, last } = partAt(plan, part)
    const [a, b] = [first - back, last + ahead]
    const strips = sounding(a, b).map((strip) => JSON.stringify(within(strip, a, b, from)))
    return `${plan.channels} ${from - first} ${to - from} ${last - to} ${stages} ${strips.join()}`
  }
}

/** What of a strip sounds in `[a, b)`, told from `origin`. */
function within(strip: Strip, a: Frames, b: Frames, origin: Frames): unknown[] {
  const { sound, channel, pan, at, length, from, gain, lines = [], repairs = [], trying, lowCut, ramps } = strip
  const offset = from - at
  return [
    sound,
    channel,
    pan.moves ? [pan, origin] : [pan.left, pan.right],
    Math.max(at, a) - origin,
    Math.min(at + length, b) - origin,
    offset + origin,
    gain,
    lines.map(({ clock, points }) => {
      const moved = clock === 'sound' ? offset : 0
      const near = lineWithin(points, a + moved - PART, b + moved + PART) ?? []
      return [clock, near.map((point) => [point.at - moved - origin, point.dB])]
    }),
    repairs,
    ...(trying ? [trying] : []),
    ...(lowCut ? [lowCut] : []),
    // before a rise and after a fall there is nothing
    ramps
      .filter((ramp) => (ramp.rise ? a < ramp.at + ramp.length : b > ramp.at))
      .map((ramp) => [ramp.at - origin, ramp.length, ramp.rise, ramp.shape]),
  ]
}

/** Listens to one part. What it needs of sounds must be at hand (see `Renderer.needs`). */
export function hearPart(renderer: Renderer, part: number): HeardPart {
  const { plan } = renderer
  const { from, to, first, last } = partAt(plan, part)
  const out = Array.from({ length: plan.channels }, () => new Float32Array(last - first))
  renderer.pull(first, out)
  const turned = renderer.turned()
  const heard = out.map((samples) => hearChannel(samples, from - first, to - first))
  const sides = [{ channels: heard.map((_, c) => c) }]
  const powers = together(
    heard.map((one) => one.powers),
    asHeard(sides),
  )
  return { powers: [...powers], peak: Math.max(...heard.map(({ peak }) => peak)), turned }
}

/** The powers of `[from, to)` and its true peak, with what lies around it for company. */
function hearChannel(samples: Float32Array, from: number, to: number): { powers: number[]; peak: number } {
  const levels = new Levels()
  const meter = new TruePeak()
  meter.add(samples.subarray(0, from), levels.add(samples.subarray(0, from)))
  meter.peak = meter.sample = 0
  meter.add(samples.subarray(from, to), levels.add(samples.subarray(from, to)))
  const after = samples.subarray(to)
  meter.add(after, levels.add(after))
  const skipped = from / STEP
  // where nothing follows, the end of the plan lies within what is looked at
  const peak = after.length ? meter.peak : meter.finish()
  return { powers: levels.powers.slice(skipped, skipped + Math.floor((to - from) / STEP)), peak }
}

/** What all parts of a plan come to, in their order. */
export function loudnessOfParts(parts: readonly HeardPart[]): PlanLoudness {
  const { integrated, shortTerm } = loudnessFigures(loudnessOf(parts.flatMap(({ powers }) => powers)))
  const peak = parts.reduce((most, part) => Math.max(most, part.peak), 0)
  const turned = parts.flatMap(({ turned: gain }, part) => {
    const dB = -decibels(gain)
    return dB > SAID ? [{ from: part * PART, to: (part + 1) * PART, dB: Math.round(dB * 10) / 10 }] : []
  })
  return { integrated, shortTerm, truePeak: Math.max(SILENCE, Math.round(decibels(peak) * 100) / 100), turned }
}

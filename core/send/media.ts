import { withRepairs, type Repair } from '../mend/repair'
import type { Plan, Strip } from '../render/plan'
import { RATE, type Frames, type Stretch } from '../time'

/** As much of a sound as another workshop needs to go on: what is heard of it, and some room to move the cuts. */
export interface MediaPart extends Stretch {
  sound: string
  /** Of the sound, in the order in which they lie in the file. */
  channels: number[]
}

/** So much more than is heard lies on either side. */
const HANDLE: Frames = 10 * RATE
/** What lies closer is one file. */
const NEAR: Frames = 30 * RATE

/**
 * The parts of all sounds that are heard. `framesOf`: how long a sound is; `offOf`: what of it is off the record and must not be
 * in any part, which may cut the room beside a cut short.
 */
export function mediaParts(
  plans: readonly Plan[],
  framesOf: (sound: string) => Frames,
  offOf: (sound: string) => readonly Stretch[],
): MediaPart[] {
  const strips = plans.flatMap((plan) => plan.strips)
  return [...new Set(strips.map(({ sound }) => sound))].flatMap((sound) => {
    const heard = strips.filter((strip) => strip.sound === sound)
    const channels = [...new Set(heard.map(({ channel }) => channel))].sort((a, b) => a - b)
    const off = offOf(sound)
    const wide = heard.map(({ from, length }) => withHandles(from, from + length, framesOf(sound), off)).sort((a, b) => a.from - b.from)
    const parts: Stretch[] = []
    for (const one of wide) {
      const last = parts[parts.length - 1]
      const between = last && { from: last.to, to: one.from }
      if (between && one.from - last.to < NEAR && !off.some((stretch) => stretch.from < between.to && stretch.to > between.from))
        last.to = Math.max(last.to, one.to)
      else parts.push({ ...one })
    }
    return parts.map((part) => ({ ...part, sound, channels }))
  })
}

function withHandles(from: Frames, to: Frames, length: Frames, off: readonly Stretch[]): Stretch {
  const before = off.filter((stretch) => stretch.to <= from).map((stretch) => stretch.to)
  const after = off.filter((stretch) => stretch.from >= to).map((stretch) => stretch.from)
  return { from: Math.max(0, from - HANDLE, ...before), to: Math.min(Math.max(to, length), to + HANDLE, ...after) }
}

/** The part in which a stretch of a sound lies. */
export const partWith = (parts: readonly MediaPart[], sound: string, { from, to }: Stretch): MediaPart | undefined =>
  parts.find((part) => part.sound === sound && part.from <= from && part.to >= to)

/** A part as a plan of its own, a channel at a time, with the spots repaired that are repaired where it is heard. */
export function partPlans({ sound, channels, from, to }: MediaPart, plans: readonly Plan[]): Plan[] {
  const strips = plans.flatMap((plan) => plan.strips).filter((strip) => strip.sound === sound)
  return channels.map((channel): Plan => {
    const here = strips.filter((strip) => strip.channel === channel).flatMap(({ repairs = [] }) => repairs)
    const { repairs } = withRepairs<{ repairs?: Repair[] }>({}, here)
    const strip: Strip = { sound, channel, pan: { left: 1, right: 1 }, at: 0, length: to - from, from, gain: 1, ramps: [], repairs }
    return { length: to - from, channels: 1, strips: [strip] }
  })
}

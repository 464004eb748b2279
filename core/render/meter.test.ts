import { describe, expect, it } from 'vitest'
import { Ear } from '../hearing/ear'
import { random as seeded } from '../sound/random'
import { toFrames, type Frames } from '../time'
import { hearPart, loudnessOfParts, namesOf, PART, partsIn } from './meter'
import type { Plan, Strip } from './plan'
import { renderAll, renderer } from './render'

const random = seeded(41)
/** Sounds of a minute: noise whose level wanders, with a click now and then. */
const sounds = new Map<string, Float32Array>()
const samplesOf = (sound: string, channel: number): Float32Array => {
  const key = `${sound}/${channel}`
  let samples = sounds.get(key)
  if (!samples) {
    let height = 0.1
    let low = 0
    samples = Float32Array.from({ length: toFrames(60) }, (_, i) => {
      if (i % 4800 === 0) height = 0.02 + 0.5 * random()
      low += 0.2 * ((random() * 2 - 1) * height - low)
      return random() < 2e-5 ? 1.4 : 2 * low
    })
    sounds.set(key, samples)
  }
  return samples
}
const read = (sound: string, channel: number, from: Frames, to: Frames): Float32Array => {
  const out = new Float32Array(to - from)
  const samples = samplesOf(sound, channel)
  for (let i = Math.max(0, from); i < Math.min(to, samples.length); i++) out[i - from] = samples[i]
  return out
}

const strip = (sound: string, at: number, length: number, from: number, more: Partial<Strip> = {}): Strip => ({
  sound,
  channel: 0,
  pan: { left: 1, right: 1 },
  at: toFrames(at),
  length: toFrames(length),
  from: toFrames(from),
  gain: 1,
  ramps: [],
  ...more,
})
const planOf = (length: number, strips: Strip[], channels: 1 | 2 = 1): Plan => ({
  length: toFrames(length),
  channels,
  strips,
  stages: [{ kind: 'ceiling', dB: -1, between: true }],
})
const inParts = (plan: Plan) => {
  const pulled = renderer(plan, read)
  return Array.from({ length: partsIn(plan) }, (_, part) => hearPart(pulled, part))
}
/** As the server measures the file: from its start to its end. */
const inOne = (plan: Plan) => {
  const ear = new Ear(plan.channels, false)
  ear.add(renderAll(plan, read))
  const { loudness, channels } = ear.finish()
  return {
    integrated: loudness.integrated,
    shortTerm: loudness.shortTerm,
    truePeak: Math.max(...channels.map(({ truePeak }) => truePeak)),
  }
}

const line = { clock: 'plan' as const, points: Array.from({ length: 9 }, (_, i) => ({ at: toFrames(2 * i + 1), dB: i % 2 ? -15 : 0 })) }
const bed = (lines = [line]) => strip('bed', 0, 20.37, 3, { gain: 0.4, lines, pan: { left: 1, right: 0 } })
const plans: [string, Plan][] = [
  ['one channel', planOf(11.234, [strip('voice', 0, 11.234, 1)])],
  ['a bed that dips under two voices', planOf(20.37, [bed(), strip('voice', 1.1, 7, 2), strip('voice', 9.8, 9.3, 20, { gain: 2.5 })], 2)],
  ['a part that is all but none', planOf(4.0001, [strip('voice', 0, 4.0001, 5)])],
  ['shorter than a part', planOf(0.7, [strip('voice', 0, 0.7, 5)])],
]

describe('a plan that is heard in parts', () => {
  it.each(plans)('comes to what it comes to in one go: %s', (_, plan) => expect(loudnessOfParts(inParts(plan))).toMatchObject(inOne(plan)))

  it('says where its stages turned it down, and by how much', () => {
    const loud = planOf(8, [strip('voice', 0, 8, 1, { gain: 0.2 }), strip('voice', 4.3, 0.5, 2, { gain: 2 })])
    expect(loudnessOfParts(inParts({ ...loud, stages: [] })).turned).toEqual([])
    const [turned, ...others] = loudnessOfParts(inParts(loud)).turned
    expect(turned).toMatchObject({ from: 2 * PART, to: 3 * PART })
    expect(turned.dB).toBeGreaterThan(1)
    expect(others).toEqual([])
  })

  it('has names for its parts that change where it changes, and nowhere else', () => {
    const [, plan] = plans[1]
    const names = (of: Plan) => Array.from({ length: partsIn(of) }, (_, part) => namesOf(of)(part))
    const changed = (of: Plan) => names(of).flatMap((name, part) => (name === names(plan)[part] ? [] : [part]))
    expect(changed({ ...plan, strips: structuredClone(plan.strips) })).toEqual([])
    const [one, two, three] = plan.strips
    expect(changed({ ...plan, strips: [one, two, { ...three, gain: 2 }] })).toEqual([4, 5, 6, 7, 8, 9])
    const dip = { ...line, points: line.points.map((point, i) => (i === 4 ? { ...point, dB: -9 } : point)) }
    const touched = changed({ ...plan, strips: [bed([dip]), two, three] })
    // a dip from the fourth point to the sixth: 7 to 11 s
    expect(touched).toEqual(expect.arrayContaining([3, 4, 5]))
    expect(touched.every((part) => part >= 2 && part <= 6)).toBe(true)
  })

  it('knows a part again that comes later by whole parts, and hears the same there', () => {
    const voice = strip('voice', 4, 6, 2)
    const [early, late] = [planOf(20, [voice]), planOf(20, [{ ...voice, at: voice.at + 2 * PART }])]
    expect(namesOf(late)(4)).toBe(namesOf(early)(2))
    expect(hearPart(renderer(late, read), 4)).toEqual(hearPart(renderer(early, read), 2))
    // and not what comes later by less
    const between = planOf(20, [{ ...voice, at: voice.at + 480 }])
    expect(namesOf(between)(3)).not.toBe(namesOf(early)(3))
  })
})

import { LRUCache } from 'lru-cache'
import { Ear, type TapeFigures } from '../../core/hearing/ear'
import { levelsIn } from '../../core/hearing/levelsIn'
import { learnNoise } from '../../core/mend/noise'
import { alikePlaces } from '../../core/page/alike'
import type { Back } from '../../core/page/story'
import { hearPart, namesOf, partAt, partsIn, type HeardPart } from '../../core/render/meter'
import type { Plan } from '../../core/render/plan'
import { renderer, type Renderer } from '../../core/render/render'
import type { Frames } from '../../core/time'
import './network'
import { SoundCache } from './soundCache'

/** Listens to plans as they would sound, one order at a time, and keeps what it has fetched and heard for the next. */

/** All figures of a stretch of a plan. */
export interface HearingOrder {
  plan: Plan
  from: Frames
  to: Frames
}

/** How loud each so-manieth part of a plan is, from the first of them on. */
export interface PartsOrder {
  plan: Plan
  every: number
  first: number
}

/** What a stretch of a plan looks like, its first channel. */
export interface LookOrder extends HearingOrder {
  /** In how many parts its level is told. */
  parts: number
}

/** Levels in dB: of each band in which noise is learnt, none where all is silent, and of each part of its time. */
export interface Look {
  bands: number[]
  levels: number[]
}

/** All frames of a plan, as the file would have them. */
export interface SoundOrder {
  plan: Plan
  sound: true
}

/** Two places of a plan that sound alike, so that music can be made longer. */
export interface AlikeOrder {
  plan: Plan
  alike: true
}

export type AnyOrder = HearingOrder | PartsOrder | LookOrder | SoundOrder | AlikeOrder
export type Heard = TapeFigures | HeardPart[] | Look | Float32Array[] | Alike
export type Alike = { alike: Back | null }
export type ToHearing = { id: number; order: AnyOrder } | { off: number }
export type FromHearing = { id: number; heard: Heard } | { id: number; failed: string }

const BLOCK = 1 << 15
/** It looks up for what was called off after so long. */
const BREATH_MS = 40
/** Parts that are remembered: some eleven hours of them. */
const MOST_PARTS = 20_000

const cache = new SoundCache()
const known = new LRUCache<string, HeardPart>({ max: MOST_PARTS })
const off = new Set<number>()
const waiting: { id: number; order: AnyOrder }[] = []
let listening = false
let breath = 0

class CalledOff extends Error {}

async function goesOn(id: number): Promise<void> {
  if (performance.now() - breath > BREATH_MS) {
    await new Promise((done) => setTimeout(done))
    breath = performance.now()
  }
  if (off.has(id)) throw new CalledOff()
}

/** Sees to it that what `[from, to)` is made of is at hand; false where a sound is not as long yet, or not at all. */
async function atHand(pulled: Renderer, from: Frames, to: Frames): Promise<boolean> {
  const needs = pulled.needs(from, to)
  await Promise.all(needs.map((need) => cache.ensure(need.sound, need.channel, need.from, need.to)))
  return needs.every((need) => cache.has(need.sound, need.channel, need.from, need.to))
}

async function hear(id: number, { plan, from, to }: HearingOrder): Promise<TapeFigures> {
  const pulled = renderer(plan, cache.read)
  const ear = new Ear(plan.channels, false)
  for (let at = from; at < to; at += BLOCK) {
    await goesOn(id)
    const end = Math.min(to, at + BLOCK)
    await atHand(pulled, at, end)
    const out = Array.from({ length: plan.channels }, () => new Float32Array(end - at))
    pulled.pull(at, out)
    ear.add(out)
  }
  return ear.finish()
}

async function hearParts(id: number, { plan, every, first }: PartsOrder): Promise<HeardPart[]> {
  let pulled = renderer(plan, cache.read)
  const nameOf = namesOf(plan)
  const heard: HeardPart[] = []
  for (let part = first; part < partsIn(plan); part += every) {
    await goesOn(id)
    const name = nameOf(part)
    let found = known.get(name)
    if (!found) {
      const { first: from, last } = partAt(plan, part)
      // what a tape has not got yet it may have the next time
      const whole = await atHand(pulled, from, last)
      found = hearPart(pulled, part)
      if (whole) known.set(name, found)
      else pulled = renderer(plan, cache.read)
    }
    heard.push(found)
  }
  return heard
}

async function lookAt({ plan, from, to, parts }: LookOrder): Promise<Look> {
  const pulled = renderer(plan, cache.read)
  await atHand(pulled, from, to)
  const out = Array.from({ length: plan.channels }, () => new Float32Array(to - from))
  pulled.pull(from, out)
  return { bands: bandsOf(out[0]), levels: levelsIn(out[0], parts) }
}

function bandsOf(samples: Float32Array): number[] {
  try {
    return learnNoise(Float64Array.from(samples))
  } catch (error) {
    if (error instanceof RangeError) return []
    throw error
  }
}

/** Rejects where some of it cannot be had: what is kept to be played later must be whole. */
async function soundOf(id: number, { plan }: SoundOrder): Promise<Float32Array[]> {
  const pulled = renderer(plan, cache.read)
  const out = Array.from({ length: plan.channels }, () => new Float32Array(plan.length))
  for (let at = 0; at < plan.length; at += BLOCK) {
    await goesOn(id)
    const end = Math.min(plan.length, at + BLOCK)
    if (!(await atHand(pulled, at, end))) throw new Error('Some of its sound is not there yet.')
    pulled.pull(
      at,
      out.map((channel) => channel.subarray(at, end)),
    )
  }
  return out
}

/** The mean of all channels. */
const mono = (channels: readonly Float32Array[]): Float32Array =>
  channels[0].map((_, i) => channels.reduce((sum, samples) => sum + samples[i], 0) / channels.length)

async function take(id: number, order: AnyOrder): Promise<void> {
  try {
    await goesOn(id)
    if ('sound' in order) {
      const heard = await soundOf(id, order)
      self.postMessage({ id, heard } satisfies FromHearing, { transfer: heard.map(({ buffer }) => buffer) })
    } else {
      const heard =
        'alike' in order
          ? { alike: alikePlaces(mono(await soundOf(id, { plan: order.plan, sound: true }))) }
          : 'every' in order
            ? await hearParts(id, order)
            : 'parts' in order
              ? await lookAt(order)
              : await hear(id, order)
      postMessage({ id, heard } satisfies FromHearing)
    }
  } catch (error) {
    if (!(error instanceof CalledOff)) postMessage({ id, failed: (error as Error).message } satisfies FromHearing)
  }
  off.delete(id)
}

/** How loud a whole is comes first: somebody waits for it. Of the rest the newest, which is of what is looked at now. */
async function takeAll(): Promise<void> {
  if (listening) return
  listening = true
  while (waiting.length) {
    const whole = waiting.findLastIndex(({ order }) => 'every' in order)
    const [{ id, order }] = waiting.splice(whole < 0 ? waiting.length - 1 : whole, 1)
    await take(id, order)
  }
  listening = false
}

self.onmessage = ({ data }: MessageEvent<ToHearing>) => {
  if ('off' in data) return void off.add(data.off)
  waiting.push(data)
  void takeAll()
}

import type { Plan } from '../../core/render/plan'
import { renderer, type Renderer } from '../../core/render/render'
import type { Stretch } from '../../core/time'
import { flowOf, type Flow } from './flow'
import { remapped, type Remap } from './remap'
import { END, ENDING, READ, RING_FRAMES, RING_MASK, ringOn, RUNNING, WRITTEN, type Ring, type RingMemory } from './ring'
import './network'
import { placeAt, withSegment, type Segment } from './segments'
import { SoundCache } from './soundCache'
import { UnderHand } from './underHand'

/** Renders plans into the ring, a little ahead of what is heard. */

export type ToMixer =
  | { do: 'ring'; ring: RingMemory }
  | { do: 'load'; plan: Plan }
  | { do: 'play'; from: number; to: number; speed: number }
  /** Another speed from here on, while it plays. */
  | { do: 'speed'; speed: number }
  /** Where it hurries, from here on; none: nowhere. */
  | { do: 'hurry'; pauses: readonly Stretch[] }
  /** Sounds what a hand is drawn over, until it is stopped. */
  | { do: 'scrub'; to: number }
  | { do: 'stop' }
  /** A new plan while the old one plays: goes on at the same place of the sound. */
  | { do: 'exchange'; plan: Plan; remap: Remap }
  | { do: 'prefetch'; from: number }

export type FromMixer =
  | { segment: Segment; fresh: boolean }
  /** What is to be heard next is not there yet; or it is, and sounds. */
  | { waiting: boolean }
  /** Sound could not be fetched: what was there has sounded, and nothing more does. */
  | { failed: true }

const BLOCK = 2048
/** How far ahead of the ear it renders: two seconds, so that mending which is tried can take its time over the next ones. */
const AHEAD = 96_000
/** And under a hand, which is not known ahead. */
const AT_HAND = 4096
const FIRST = 2048
/** An exchange takes over so far ahead of what is being read, crossfaded. */
const MARGIN = 1536
/** What is made faster than this is there before the ear comes to it. */
const IN_TIME_MS = 12
/** What is tried is made ahead so often at most, until it is there in time. */
const TRIES = 4
const SPLICE = 240
const PREFETCH = 48_000
/** Sound that does not come is asked for once more, so much later. */
const AGAIN_MS = 250
/** Waiting for longer than this is said. */
const SAID_MS = 150

const cache = new SoundCache()
let ring: Ring | null = null
let source: Renderer | null = null
let playing = false
let flow: Flow | null = null
let speed = 1
let pauses: readonly Stretch[] = []
let stopAt = 0
/** What of the plan is in the ring. */
let segments: Segment[] = []
/** Whose sound is drawn over, while it is. */
let underHand: UnderHand | null = null
/** Every play, stop and exchange begins a new run; an older one that still waits for sound gives up. */
let run = 0

function tell(counter: number, place: number, fresh: boolean): void {
  const segment = { counter, position: place, speed: flow?.speed ?? speed }
  segments = withSegment(fresh ? [] : segments, segment, Atomics.load(ring!.control, READ))
  postMessage({ segment, fresh } satisfies FromMixer)
}

function ensure(pulled: Renderer, from: number, to: number): Promise<unknown> | null {
  const waits: Promise<unknown>[] = []
  for (const need of pulled.needs(from, Math.max(from + 1, to))) {
    const wait = cache.ensure(need.sound, need.channel, need.from, need.to)
    if (wait) waits.push(wait)
  }
  return waits.length ? Promise.all(waits) : null
}

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))

/** Asks for sound that may be wanted soon; what does not come is asked for again when it is. */
function askAhead(pulled: Renderer, from: number, to: number): void {
  ensure(pulled, from, to)?.catch(() => undefined)
}

/** Waits until frames of a plan are at hand; false where they cannot be had, or where another run has begun. */
async function atHand(mine: number, pulled: Renderer, from: number, to: number): Promise<boolean> {
  const first = ensure(pulled, from, to)
  if (!first) return true
  const slow = setTimeout(() => mine === run && postMessage({ waiting: true } satisfies FromMixer), SAID_MS)
  const came = (wait: Promise<unknown> | null) =>
    Promise.resolve(wait).then(
      () => true,
      () => false,
    )
  let there = await came(first)
  if (!there && mine === run) {
    await pause(AGAIN_MS)
    if (mine === run) there = await came(ensure(pulled, from, to))
  }
  clearTimeout(slow)
  if (mine !== run) return false
  postMessage({ waiting: false } satisfies FromMixer)
  if (!there) fail()
  return there
}

/** Nothing sounds for which there is no sound. */
function fail(): void {
  run++
  playing = false
  underHand = null
  if (ring) Atomics.store(ring.control, RUNNING, 0)
  postMessage({ failed: true } satisfies FromMixer)
}

function write(into: Ring, counter: number, [left, right]: [Float32Array, Float32Array], splice: number): void {
  for (let i = 0; i < left.length; i++) {
    const at = (counter + i) & RING_MASK
    if (i < splice) {
      const share = (i + 1) / (splice + 1)
      into.left[at] += (left[i] - into.left[at]) * share
      into.right[at] += (right[i] - into.right[at]) * share
    } else {
      into.left[at] = left[i]
      into.right[at] = right[i]
    }
  }
}

async function begin(begun: Flow, to: number): Promise<void> {
  if (!ring || !source) return
  const mine = ++run
  const pulled = source
  Atomics.store(ring.control, RUNNING, 0)
  if (begun.ended) return
  const from = begun.at
  const { from: a, to: b } = begun.needs(FIRST)
  if (!(await atHand(mine, pulled, a, b))) return
  const counter = Atomics.load(ring.control, READ)
  flow = begun
  tell(counter, from, true)
  const first = begun.next(FIRST)
  write(ring, counter, first, 0)
  Atomics.store(ring.control, WRITTEN, (counter + first[0].length) | 0)
  Atomics.store(ring.control, ENDING, 0)
  stopAt = to
  playing = true
  closeWhereDone()
  Atomics.store(ring.control, RUNNING, 1)
  void fill(mine)
}

function closeWhereDone(): void {
  if (!ring || !flow?.ended) return
  Atomics.store(ring.control, END, Atomics.load(ring.control, WRITTEN))
  Atomics.store(ring.control, ENDING, 1)
}

/** Keeps the ring filled until the run ends or another begins. */
async function fill(mine: number): Promise<void> {
  while (ring && source && flow && playing && mine === run && !flow.ended) {
    const written = Atomics.load(ring.control, WRITTEN)
    const ahead = (written - Atomics.load(ring.control, READ)) | 0
    if (ahead >= (flow === underHand ? AT_HAND : Math.min(AHEAD, RING_FRAMES / 2))) {
      await pause(12)
      continue
    }
    const pulled = source
    const { from, to } = flow.needs(BLOCK)
    if (!(await atHand(mine, pulled, from, to))) return
    if (flow.speed !== segments.at(-1)?.speed) tell(written, flow.at, false)
    if (flow === underHand) askAhead(pulled, Math.max(0, flow.at - PREFETCH / 2), Math.min(pulled.plan.length, flow.at + PREFETCH / 2))
    else if (speed > 0) askAhead(pulled, to, Math.min(pulled.plan.length, to + PREFETCH))
    else askAhead(pulled, Math.max(0, from - PREFETCH), from)
    const block = flow.next(BLOCK)
    write(ring, written, block, 0)
    Atomics.store(ring.control, WRITTEN, (written + block[0].length) | 0)
    closeWhereDone()
  }
}

/** Makes what is tried where it will be taken over, while the old sound goes on; the renderer keeps it. */
function warm(next: Renderer, to: number, map: (place: number) => number): void {
  if (!next.plan.strips.some(({ trying }) => trying)) return
  for (let i = 0; i < TRIES; i++) {
    const started = performance.now()
    const place = map(placeAt(segments, Atomics.load(ring!.control, READ) + MARGIN))
    flowOf(next, Math.max(0, Math.min(Math.round(place), to)), to, speed, pauses).next(BLOCK)
    if (performance.now() - started < IN_TIME_MS) return
  }
}

/** Takes over another plan, or another speed, a little ahead of the ear, where what is heard now would go on. */
async function takeOver(next: Renderer, to: number, map: (place: number) => number): Promise<void> {
  const mine = ++run
  // what has been written but not heard is written again
  const guess = Math.round(map(placeAt(segments, Atomics.load(ring!.control, READ))))
  const { from, to: until } = flowOf(next, guess, to, speed, pauses).needs(2 * MARGIN + BLOCK)
  if (!(await atHand(mine, next, from, until)) || !ring || !flow) return
  warm(next, to, map)
  const written = Atomics.load(ring.control, WRITTEN)
  const counter = (Atomics.load(ring.control, READ) + MARGIN) | 0
  const left = (written - counter) | 0
  source = next
  stopAt = to
  Atomics.store(ring.control, ENDING, 0)
  if (left < SPLICE) {
    // too little of the old sound is left to splice into: go on at its end
    const place = Math.round(map(flow.at))
    flow = flowOf(next, place, to, speed, pauses)
    tell(written, place, false)
  } else {
    const place = Math.max(0, Math.min(Math.round(map(placeAt(segments, counter))), to))
    flow = flowOf(next, place, to, speed, pauses)
    tell(counter, place, false)
    if (flow.ended) Atomics.store(ring.control, WRITTEN, counter)
    else {
      const block = flow.next(BLOCK)
      write(ring, counter, block, SPLICE)
      Atomics.store(ring.control, WRITTEN, (counter + block[0].length) | 0)
    }
  }
  closeWhereDone()
  void fill(mine)
}

async function exchange(plan: Plan, remap: Remap): Promise<void> {
  const next = renderer(plan, cache.read)
  if (!ring || !playing || Atomics.load(ring.control, RUNNING) !== 1) {
    source = next
    return
  }
  // to the end of all where it was to play to the end, else to the same place of the sound
  const end = source && stopAt < source.plan.length ? Math.min(remapped(remap, stopAt), plan.length) : plan.length
  await takeOver(next, end, (place) => remapped(remap, place))
}

/** What plays goes on at the same place, as it is asked for now. */
function goOn(): void {
  if (ring && source && playing && !underHand && Atomics.load(ring.control, RUNNING) === 1) void takeOver(source, stopAt, (place) => place)
}

function scrub(to: number): void {
  if (!source) return
  if (underHand) underHand.hand = to
  else {
    underHand = new UnderHand(source, to)
    void begin(underHand, source.plan.length)
  }
}

self.onmessage = ({ data }: MessageEvent<ToMixer>) => {
  switch (data.do) {
    case 'ring':
      ring = ringOn(data.ring)
      return
    case 'load':
      source = renderer(data.plan, cache.read)
      underHand = null
      return
    case 'play':
      speed = data.speed
      underHand = null
      if (source) void begin(flowOf(source, data.from, data.to, speed, pauses), data.to)
      return
    case 'stop':
      run++
      playing = false
      underHand = null
      if (ring) Atomics.store(ring.control, RUNNING, 0)
      return
    case 'speed':
      speed = data.speed
      goOn()
      return
    case 'hurry':
      pauses = data.pauses
      goOn()
      return
    case 'scrub':
      scrub(data.to)
      return
    case 'exchange':
      void exchange(data.plan, data.remap)
      return
    case 'prefetch':
      if (source) askAhead(source, data.from, Math.min(source.plan.length, data.from + BLOCK * 4))
  }
}

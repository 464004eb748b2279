import type { Plan } from '../../core/sound/plan'
import { renderer, type Renderer } from '../../core/sound/render'
import { remapped, type Remap } from './remap'
import { END, ENDING, READ, RING_FRAMES, RING_MASK, ringOn, RUNNING, WRITTEN, type Ring, type RingMemory } from './ring'
import { SoundCache } from './soundCache'

/** Renders plans into the ring, a little ahead of what is heard. */

export type ToMixer =
  | { do: 'ring'; ring: RingMemory }
  | { do: 'load'; plan: Plan }
  | { do: 'play'; from: number; to: number }
  | { do: 'stop' }
  /** A new plan while the old one plays: goes on at the same place of the sound. */
  | { do: 'exchange'; plan: Plan; remap: Remap }
  | { do: 'prefetch'; from: number }

/** Which place of the plan the frame of a counter is; later segments follow on at their counter. */
export type FromMixer = { segment: { counter: number; position: number }; fresh: boolean }

const BLOCK = 2048
/** How far ahead of the ear it renders. */
const AHEAD = 16_384
const FIRST = 2048
/** An exchange takes over so far ahead of what is being read, crossfaded. */
const MARGIN = 1536
const SPLICE = 240
const PREFETCH = 48_000

const cache = new SoundCache()
let ring: Ring | null = null
let source: Renderer | null = null
let playing = false
let position = 0
let stopAt = 0
/** Every play, stop and exchange begins a new run; an older one that still waits for sound gives up. */
let run = 0

const tell = (counter: number, place: number, fresh: boolean) => postMessage({ segment: { counter, position: place }, fresh } satisfies FromMixer)

function ensure(pulled: Renderer, from: number, to: number): Promise<unknown> | null {
  const waits: Promise<unknown>[] = []
  for (const strip of pulled.sounding(from, Math.max(from + 1, to))) {
    const a = Math.max(strip.at, from)
    const b = Math.min(strip.at + strip.length, to)
    const wait = b > a ? cache.ensure(strip.sound, strip.channel, strip.from + a - strip.at, strip.from + b - strip.at) : null
    if (wait) waits.push(wait)
  }
  return waits.length ? Promise.all(waits) : null
}

function pull(pulled: Renderer, from: number, count: number): [Float32Array, Float32Array] {
  const out = Array.from({ length: pulled.plan.channels }, () => new Float32Array(count))
  pulled.pull(from, out)
  return [out[0], out[1] ?? out[0]]
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

async function play(from: number, to: number): Promise<void> {
  if (!ring || !source) return
  const mine = ++run
  const pulled = source
  Atomics.store(ring.control, RUNNING, 0)
  const first = Math.min(FIRST, to - from)
  if (first <= 0) return
  const wait = ensure(pulled, from, from + first)
  if (wait) await wait
  if (mine !== run) return
  const counter = Atomics.load(ring.control, READ)
  write(ring, counter, pull(pulled, from, first), 0)
  Atomics.store(ring.control, WRITTEN, (counter + first) | 0)
  Atomics.store(ring.control, ENDING, 0)
  position = from + first
  stopAt = to
  playing = true
  tell(counter, from, true)
  closeWhereDone()
  Atomics.store(ring.control, RUNNING, 1)
  void fill(mine)
}

function closeWhereDone(): void {
  if (!ring || position < stopAt) return
  Atomics.store(ring.control, END, Atomics.load(ring.control, WRITTEN))
  Atomics.store(ring.control, ENDING, 1)
}

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))

/** Keeps the ring filled until the run ends or another begins. */
async function fill(mine: number): Promise<void> {
  while (ring && source && playing && mine === run && position < stopAt) {
    const written = Atomics.load(ring.control, WRITTEN)
    const ahead = (written - Atomics.load(ring.control, READ)) | 0
    if (ahead >= Math.min(AHEAD, RING_FRAMES / 2)) {
      await pause(12)
      continue
    }
    const pulled = source
    const count = Math.min(BLOCK, stopAt - position)
    const wait = ensure(pulled, position, position + count)
    if (wait) await wait.catch(() => pause(200))
    if (mine !== run) return
    void ensure(pulled, position + count, Math.min(stopAt, position + count + PREFETCH))
    write(ring, written, pull(pulled, position, count), 0)
    position += count
    Atomics.store(ring.control, WRITTEN, (written + count) | 0)
    closeWhereDone()
  }
}

async function exchange(plan: Plan, remap: Remap): Promise<void> {
  const next = renderer(plan, cache.read)
  if (!ring || !playing || Atomics.load(ring.control, RUNNING) !== 1) {
    source = next
    return
  }
  const mine = ++run
  // to the end of all where it was to play to the end, else to the same place of the sound
  const end = source && stopAt < source.plan.length ? Math.min(remapped(remap, stopAt), plan.length) : plan.length
  // what has been written but not heard is written again, from a little ahead of the ear on
  const placeOf = (counter: number) => position - ((Atomics.load(ring!.control, WRITTEN) - counter) | 0)
  const guess = remapped(remap, placeOf(Atomics.load(ring.control, READ)))
  const wait = ensure(next, guess, guess + 2 * MARGIN + BLOCK)
  if (wait) await wait
  if (mine !== run) return
  const counter = (Atomics.load(ring.control, READ) + MARGIN) | 0
  const left = (Atomics.load(ring.control, WRITTEN) - counter) | 0
  if (left < SPLICE) {
    // too little of the old sound is left to splice into: go on at its end
    const place = remapped(remap, position)
    source = next
    position = place
    stopAt = end
    tell(Atomics.load(ring.control, WRITTEN), place, false)
    Atomics.store(ring.control, ENDING, 0)
    closeWhereDone()
    return void fill(mine)
  }
  const place = Math.min(remapped(remap, placeOf(counter)), end)
  const count = Math.min(BLOCK, end - place)
  source = next
  stopAt = end
  Atomics.store(ring.control, ENDING, 0)
  if (count > 0) write(ring, counter, pull(next, place, count), SPLICE)
  Atomics.store(ring.control, WRITTEN, (counter + Math.max(0, count)) | 0)
  position = place + Math.max(0, count)
  tell(counter, place, false)
  closeWhereDone()
  void fill(mine)
}

self.onmessage = ({ data }: MessageEvent<ToMixer>) => {
  switch (data.do) {
    case 'ring':
      ring = ringOn(data.ring)
      return
    case 'load':
      source = renderer(data.plan, cache.read)
      return
    case 'play':
      void play(data.from, data.to)
      return
    case 'stop':
      run++
      playing = false
      if (ring) Atomics.store(ring.control, RUNNING, 0)
      return
    case 'exchange':
      void exchange(data.plan, data.remap)
      return
    case 'prefetch':
      if (source) void ensure(source, data.from, Math.min(source.plan.length, data.from + BLOCK * 4))
  }
}

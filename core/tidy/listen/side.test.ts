import { describe, expect, it } from 'vitest'
import { random } from '../../sound/random'
import { RATE, toFrames, type Stretch } from '../../time'
import { FINDERS } from '../finders'
import type { FinderName, Found, Looked } from '../finder'
import { SpotListener, VoiceListener, type HeardSide } from './side'

/** A made voice in a made room: syllables of a second, with a pause of half a second behind each. */
const SECONDS = 30
const isPause = (second: number) => second % 1.5 >= 1

interface Extra {
  /** Factors of the voice, by the number of its syllable. */
  levels?: Record<number, number>
  add?: (sound: Float32Array, next: () => number) => void
}

function tape({ levels = {}, add }: Extra = {}): Float32Array {
  const next = random(5)
  const sound = Float32Array.from({ length: SECONDS * RATE }, () => 0.0004 * (2 * next() - 1))
  let phase = 0
  for (let i = 0; i < sound.length; i++) {
    const t = i / RATE
    if (isPause(t)) continue
    const within = t % 1.5
    const syllable = Math.floor(t / 1.5)
    // the pitch and the colour of a syllable change as it goes
    phase += (2 * Math.PI * (120 + 15 * Math.sin(5 * t))) / RATE
    const rise = Math.min(1, within / 0.03, (1 - within) / 0.03)
    let x = 0
    for (let k = 1; k <= 10; k++)
      x += Math.sin(k * phase) * Math.exp(-(((k * 120 - 500 - 900 * within * (syllable % 2 ? 1 : 0.2)) / 500) ** 2))
    sound[i] += 0.03 * (levels[syllable] ?? 1) * rise * x
  }
  add?.(sound, next)
  return sound
}

function listen(sound: Float32Array, block = RATE): HeardSide {
  const [voices, spots] = [new VoiceListener(), new SpotListener()]
  for (let at = 0; at < sound.length; at += block)
    for (const listener of [voices, spots]) listener.add(sound.subarray(at, Math.min(sound.length, at + block)))
  return { ...voices.finish(), ...spots.finish() }
}
const looked = (...heard: HeardSide[]): Looked => ({
  tape: 't',
  frames: SECONDS * RATE,
  words: [],
  speech: [],
  language: 'en',
  phrases: [],
  sides: heard.map(() => ''),
  heard,
})
const find = (name: FinderName, of: Looked, setting?: number): Found[] => {
  const ready = FINDERS[name](of)
  return ready.find(setting ?? ready.setting?.usual ?? 0)
}
const near = ({ from, to }: Stretch, start: number, end: number, seconds = 0.03) =>
  Math.abs(from - toFrames(start)) < toFrames(seconds) && Math.abs(to - toFrames(end)) < toFrames(seconds)

describe('listening to a side', () => {
  it('finds where a voice is heard, and comes to the same in blocks of any size', () => {
    const sound = tape()
    const heard = listen(sound)
    expect(heard.voices).toHaveLength(Math.ceil(SECONDS / 1.5))
    heard.voices.slice(0, -1).forEach((voice, i) => expect(near(voice, 1.5 * i, 1.5 * i + 1, 0.05)).toBe(true))
    expect(listen(sound, 777)).toEqual(heard)
    for (const name of ['clicks', 'pops', 'breaths', 'loud', 'soft', 'holes'] as const) expect(find(name, looked(heard))).toEqual([])
  })

  it('finds a click in a pause and one under a voice, and repairs them in a few milliseconds', () => {
    const heard = listen(
      tape({
        add: (sound) => {
          for (const at of [10.3, 16.2]) for (let i = 0; i < 60; i++) sound[toFrames(at) + i] += 0.2 * Math.sin(i * 0.5) * Math.exp(-i / 15)
        },
      }),
    )
    const clicks = find('clicks', looked(heard))
    expect(clicks.map(({ from }) => (from / RATE).toFixed(2))).toEqual(['10.30', '16.20'])
    expect(clicks.every(({ from, to }) => to - from < toFrames(0.006))).toBe(true)
  })

  it('finds a thump, but no voice, and takes its low end', () => {
    const heard = listen(
      tape({
        add: (sound) => {
          for (let i = 0; i < 7200; i++) sound[toFrames(12.05) + i] += 0.2 * Math.sin((i * 2 * Math.PI * 50) / RATE) * Math.exp(-i / 1500)
        },
      }),
    )
    const [pop, ...others] = find('pops', looked(heard))
    expect(others).toEqual([])
    expect(near(pop, 12.05, 12.2, 0.12)).toBe(true)
    expect(pop.proposes).toEqual({ do: 'repair', how: 'lowEnd' })
  })

  it('finds holes in sound, and none where a recorder was stopped', () => {
    const heard = listen(
      tape({
        add: (sound) => {
          sound.fill(0, toFrames(15.2), toFrames(15.22))
          sound.fill(0, toFrames(21), toFrames(23))
        },
      }),
    )
    const holes = find('holes', looked(heard))
    expect(holes).toHaveLength(1)
    expect(near(holes[0], 15.2, 15.22, 0.001)).toBe(true)
  })

  it('finds breaths louder than usual, what is far too loud, and what is far too soft', () => {
    const breaths = [4.05, 10.05, 16.05, 25.05, 28.05]
    const heard = listen(
      tape({
        levels: { 9: 5, 15: 0.25 },
        add: (sound, next) =>
          breaths.forEach((at, k) => {
            const level = k === 2 ? 0.012 : 0.004
            let low = 0
            for (let i = 0; i < toFrames(0.35); i++) {
              low += 0.2 * (2 * next() - 1 - low)
              sound[toFrames(at) + i] += 3 * level * low * Math.sin((Math.PI * i) / toFrames(0.35))
            }
          }),
      }),
    )
    const of = looked(heard)
    const breath = find('breaths', of, 3)
    expect(breath).toHaveLength(1)
    expect(near(breath[0], 16.05, 16.4, 0.06)).toBe(true)
    expect(breath[0].proposes).toMatchObject({ do: 'level' })
    expect(find('loud', of).map((one) => near(one, 13.5, 14.5, 0.1))).toEqual([true])
    expect(find('soft', of).map((one) => near(one, 22.5, 23.5, 0.1))).toEqual([true])
  })

  it('finds a voice that is heard on another’s side, and mutes it there', () => {
    const one = tape()
    // the other one speaks in the first ten seconds alone; the first is heard faintly there after that
    const other = tape().map((x, i) => (i < 10 * RATE ? x : 0.05 * x))
    const first = one.map((x, i) => (i < 10 * RATE ? 0.001 * x : x))
    const found = find('offMic', looked(listen(first), listen(other)))
    expect(found.length).toBeGreaterThan(8)
    expect(found.every(({ side, from, proposes }) => side === 1 && from > 9.9 * RATE && proposes.do === 'mute')).toBe(true)
  })
})

import { describe, expect, it } from 'vitest'
import { planOf, type TapeFacts } from '../render/plan'
import { renderAll } from '../render/render'
import { random as seeded } from '../sound/random'
import { RATE, type Frames } from '../time'
import { alikePlaces } from './alike'
import { goingBack, lengthToEnd } from './goingBack'

/** Plucked notes, each a decaying chord; `melody` tells which stand where, in steps of a quarter of a second. */
function music(melody: readonly number[], seconds: number): Float32Array {
  const out = new Float32Array(seconds * RATE)
  const step = RATE / 4
  for (let note = 0; note * step < out.length; note++) {
    const hertz = 220 * 2 ** (melody[note % melody.length] / 12)
    for (let i = 0; i < 2 * step && note * step + i < out.length; i++) {
      const decay = Math.exp(-i / (0.12 * RATE)) * Math.min(1, i / 200)
      const t = (2 * Math.PI * hertz * i) / RATE
      out[note * step + i] += 0.2 * decay * (Math.sin(t) + 0.5 * Math.sin(2 * t) + 0.25 * Math.sin(3 * t))
    }
  }
  return out
}

const MELODY = [0, 3, 7, 12, 10, 7, 3, 5, 0, 7, 12, 15, 14, 10, 7, 3, 2, 5, 9, 14]
const PERIOD = (MELODY.length * RATE) / 4

describe('places of music that sound alike', () => {
  it('lie a number of its rounds apart, to the frame, and are the same wave', () => {
    const found = alikePlaces(music(MELODY, 31))!
    expect(found.same).toBe(true)
    expect((found.to - found.from) % PERIOD).toBe(0)
  })

  it('are found where it was played by hand: no round is quite like another', () => {
    const random = seeded(5)
    const plain = music(MELODY, 31)
    const noisy = plain.map((sample, i) => sample * (0.8 + 0.2 * Math.sin(i / 90_000)) + 0.01 * (random() - 0.5))
    const found = alikePlaces(noisy)!
    const off = (found.to - found.from) % PERIOD
    expect(Math.min(off, PERIOD - off)).toBeLessThan(RATE / 200)
  })

  it('are none where nothing comes again', () => {
    const random = seeded(9)
    const melody = Array.from({ length: 200 }, () => Math.floor(random() * 30))
    expect(alikePlaces(music(melody, 40))).toBeNull()
    expect(alikePlaces(new Float32Array(20 * RATE))).toBeNull()
    expect(alikePlaces(music(MELODY, 3))).toBeNull()
  })
})

describe('music that goes back', () => {
  const sound = music(MELODY, 31)
  const facts: TapeFacts = { id: 'bed', frames: sound.length, sides: [{ name: '', channels: [0] }], tone: { sound: 'bed', quiet: [] } }
  const read = (_: string, __: number, from: Frames, to: Frames) => {
    const out = new Float32Array(to - from)
    for (let i = Math.max(0, -from); i < out.length && from + i < sound.length; i++) out[i] = sound[from + i]
    return out
  }
  const plays = { from: 0, to: sound.length }
  const back = alikePlaces(sound)!
  const heard = (wanted: Frames, toEnd: boolean) =>
    renderAll(
      planOf(goingBack('bed', plays, back, wanted, toEnd), () => facts),
      read,
    )[0]

  it('sounds as if it had been played on and on', () => {
    const wanted = 90 * RATE
    const on = music(MELODY, 95)
    const out = heard(wanted, false)
    expect(out.length).toBeGreaterThanOrEqual(wanted)
    const differs = out.subarray(0, wanted).findIndex((sample, i) => Math.abs(sample - on[i]) > 1e-4)
    expect(differs).toBe(-1)
  })

  it('plays to its own end where it ends with its last note, and is the same wherever it is cut where it does not', () => {
    const wanted = 70 * RATE
    const out = heard(wanted, true)
    expect(out.length).toBe(lengthToEnd(plays, back, wanted))
    expect(out.slice(-RATE)).toEqual(sound.slice(-RATE))
    const [shorter, longer] = [heard(50 * RATE, false), heard(80 * RATE, false)]
    expect(shorter.subarray(0, 49 * RATE).findIndex((sample, i) => sample !== longer[i])).toBe(-1)
  })
})

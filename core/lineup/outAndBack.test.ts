import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import { RATE, type Frames } from '../time'
import { cameBack } from './outAndBack'
import type { Source } from './source'

const FRAMES = 24 * RATE
const next = random(5)
/** Bursts of noise of changing height: as much to go by as speech has. */
const sound = Float32Array.from({ length: FRAMES }, (_, i) => (Math.sin(i / 9000) > -0.3 ? 0.2 : 0.01) * (next() - 0.5))
const sourceOf = (samples: Float32Array): Source => ({
  frames: samples.length,
  read: (from, to) => Float32Array.from({ length: to - from }, (_, i) => samples[from + i] ?? 0),
})
/** As another program would give it: softer, late by so many frames, at so much more speed. */
const treated = (late: Frames, speed = 1, length = FRAMES) =>
  sourceOf(
    Float32Array.from({ length }, (_, i) => {
      const at = (i - late) * speed
      const frame = Math.floor(at)
      return 0.5 * ((1 - at + frame) * (sound[frame] ?? 0) + (at - frame) * (sound[frame + 1] ?? 0))
    }),
  )

describe('what comes back from another program', () => {
  it.each([0, 512, -700, 4801])('fits where it is %s frames late', (late) => {
    const back = cameBack(sourceOf(sound), treated(late))
    expect(back).toMatchObject({ fits: true })
    if (back.fits) expect(Math.abs(back.late - late)).toBeLessThanOrEqual(1)
  })

  it.each([
    [treated(0, 1, FRAMES - 2 * RATE), /2.0 s shorter/],
    [treated(0, 1, FRAMES + RATE), /1.0 s longer/],
    [treated(18_000), /0.4 s too late/],
    [treated(0, 1.0002), /another speed/],
    [sourceOf(Float32Array.from({ length: FRAMES }, () => 0.2 * (next() - 0.5))), /does not sound like/],
  ])('is refused with its reason: %#', (came, reason) => {
    const back = cameBack(sourceOf(sound), came)
    expect(back.fits ? '' : back.reason).toMatch(reason)
  })

  it('goes by its length alone where it is too short to be compared', () => {
    const short = (length: Frames) => sourceOf(sound.slice(0, length))
    expect(cameBack(short(RATE), short(RATE))).toEqual({ fits: true, late: 0 })
    expect(cameBack(short(RATE), short(RATE - 30))).toMatchObject({ fits: false })
  })
})

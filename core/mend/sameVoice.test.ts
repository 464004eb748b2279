import { expect, it } from 'vitest'
import { alike, shifted } from './sameVoice'

const near = { speechLevel: -24, floor: -60, peak: -3 }
const far = { speechLevel: -36.04, floor: -66, peak: -15 }

it('thresholds go with the voice’s own average, clipping with the loudest, what is for one passage is left out, all else stays', () => {
  const steps = shifted(
    [
      { kind: 'clipping', at: -3.1 },
      { kind: 'lowCut', hertz: 80, slope: 12 },
      { kind: 'expander', dB: 6, from: -42, off: true },
      { kind: 'level', average: -24, ratio: 3, least: -42, passes: 2, blend: 0.5 },
      { kind: 'gain', dB: 6, within: { from: 0, to: 48_000 } },
    ],
    near,
    far,
  )
  expect(steps).toEqual([
    { kind: 'clipping', at: -15.1 },
    { kind: 'lowCut', hertz: 80, slope: 12 },
    { kind: 'expander', dB: 6, from: -54, off: true },
    { kind: 'level', average: -36, ratio: 3, least: -54, passes: 2, blend: 0.5 },
  ])
})

it('rooms are alike by how far they lie under the voice', () => {
  expect(alike(near, far)).toBe(true)
  expect(alike(near, { ...far, floor: -50 })).toBe(false)
})

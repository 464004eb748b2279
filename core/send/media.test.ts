import { describe, expect, it } from 'vitest'
import type { Plan, Strip } from '../render/plan'
import { RATE } from '../time'
import { mediaParts, partWith } from './media'

const s = RATE
const strip = (from: number, length: number, channel = 0): Strip => ({
  sound: 'quay',
  channel,
  pan: { left: 1, right: 1 },
  at: 0,
  length: length * s,
  from: from * s,
  gain: 1,
  ramps: [],
})
const plan = (...strips: Strip[]): Plan => ({ length: 100 * s, channels: 1, strips })
const inSeconds = (strips: Strip[], off: [number, number][] = []) =>
  mediaParts(
    [plan(...strips)],
    () => 300 * s,
    () => off.map(([from, to]) => ({ from: from * s, to: to * s })),
  ).map(({ from, to }) => [from / s, to / s])

describe('what of a sound goes with its edit list', () => {
  it('is what is heard with ten seconds on either side, as far as the tape goes; what lies near is one file', () => {
    expect(inSeconds([strip(5, 3), strip(20, 4), strip(295, 5)])).toEqual([
      [0, 34],
      [285, 300],
    ])
  })

  it('never holds what is off the record, beside a cut or between two of them', () => {
    expect(
      inSeconds(
        [strip(20, 5), strip(40, 5)],
        [
          [27, 30],
          [47, 60],
        ],
      ),
    ).toEqual([
      [10, 27],
      [30, 47],
    ])
  })

  it('holds every strip whole, with all channels that are heard', () => {
    const strips = [strip(5, 3), strip(6, 8, 1), strip(120, 2)]
    const parts = mediaParts(
      [plan(...strips)],
      () => 300 * s,
      () => [],
    )
    expect(parts.map(({ channels }) => channels)).toEqual([
      [0, 1],
      [0, 1],
    ])
    for (const { from, length } of strips) expect(partWith(parts, 'quay', { from, to: from + length })).toBeDefined()
  })
})

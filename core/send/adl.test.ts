import { describe, expect, it } from 'vitest'
import type { Plan, Strip } from '../render/plan'
import { RATE } from '../time'
import { adl, timeCode } from './adl'
import { mediaParts } from './media'

const s = RATE
const strip = (at: number, from: number, length: number, more: Partial<Strip> = {}): Strip => ({
  sound: 'quay',
  channel: 0,
  pan: { left: 1, right: 1 },
  at: at * s,
  length: length * s,
  from: from * s,
  gain: 1,
  ramps: [],
  ...more,
})
const plan: Plan = {
  length: 10 * s,
  channels: 1,
  strips: [
    strip(0, 20, 4, { ramps: [{ at: 4 * s - 480, length: 480, rise: false, shape: 'power' }] }),
    strip(3.99, 30, 2, { gain: 10 ** (-6 / 20), ramps: [{ at: 3.99 * s, length: 480, rise: true, shape: 'power' }] }),
  ],
}
const parts = mediaParts(
  [plan],
  () => 60 * s,
  () => [],
)
const lines = (made: string, head: string) =>
  made
    .split('\r\n')
    .map((line) => line.trim())
    .filter((line) => line.startsWith(`(${head})`))
    .map((line) => line.split('\t').slice(1))

describe('an edit list as AES31', () => {
  const made = adl('The “night” ferry', '2026-11-25T17:52:00', [{ name: 'Voice', plan }], parts, () => 'media/quay.wav')

  it('counts time in pictures and samples', () => {
    expect(timeCode(0)).toBe('00.00.00.00/0000')
    expect(timeCode(3661 * s + 2 * 1920 + 7)).toBe('01.01.01.02/0007')
  })

  it('has its sections in order, each closed', () => {
    expect([...made.matchAll(/<(\/?)(\w+)>/g)].map(([, end, name]) => end + name).join(' ')).toBe(
      'ADL VERSION /VERSION PROJECT /PROJECT SEQUENCE /SEQUENCE TRACKLIST /TRACKLIST SOURCE_INDEX /SOURCE_INDEX ' +
        'EVENT_LIST /EVENT_LIST FADER_LIST /FADER_LIST /ADL',
    )
    expect(lines(made, 'PROJ_TITLE')).toEqual([[`"The 'night' ferry"`]])
  })

  it('lays what overlaps on two tracks, each from its place in its file, with fades and levels', () => {
    expect(lines(made, 'Track')).toEqual([
      ['1', '"Voice 1"'],
      ['2', '"Voice 2"'],
    ])
    expect(lines(made, 'Index')).toEqual([
      [
        '0001',
        '(F)',
        '"URL:file://localhost/media/quay.wav"',
        '"PLAINCUT-1"',
        '00.00.00.00/0000',
        '00.00.32.00/0000',
        '"media/quay.wav"',
        'N',
      ],
    ])
    expect(lines(made, 'Entry')).toEqual([
      ['0001', '(Cut)', 'I', '0001', '1', '1', '00.00.10.00/0000', '00.00.00.00/0000', '00.00.04.00/0000', 'R'],
      ['0002', '(Cut)', 'I', '0001', '1', '2', '00.00.20.00/0000', '00.00.03.24/1440', '00.00.05.24/1440', 'R'],
    ])
    expect(lines(made, 'Outfade')).toEqual([['00.00.00.00/0480', 'CURVE', '-0.69', '-3.01', '-8.34']])
    expect(lines(made, 'Infade')).toEqual([['00.00.00.00/0480', 'CURVE', '-8.34', '-3.01', '-0.69']])
    expect(lines(made, 'FP')).toEqual([
      ['1', '00.00.00.00/0000', '0.00'],
      ['2', '00.00.03.24/1440', '-6.00'],
    ])
  })

  it('has the dips of a bed as points of its fader', () => {
    const bed = {
      ...plan,
      strips: [strip(0, 0, 8, { lines: [{ clock: 'plan' as const, points: [0, -14].map((dB, i) => ({ at: (2 + i) * s, dB })) }] })],
    }
    const points = lines(
      adl(
        '',
        '',
        [{ name: 'Bed', plan: bed }],
        mediaParts(
          [bed],
          () => 60 * s,
          () => [],
        ),
        () => 'bed.wav',
      ),
      'FP',
    )
    expect(points.map(([, at, dB]) => `${at.slice(6, 8)} ${dB}`)).toEqual(['00 0.00', '02 0.00', '03 -14.00', '07 -14.00'])
  })
})

import { describe, expect, it } from 'vitest'
import type { PaintPart, PaintStep } from './actualitySteps'
import { listLength, normal, plainJoin, type EditList } from './editList'
import { applyPaint, collide, invertPaint, reachOfPaint } from './painting'

const list: EditList = normal([
  { tape: 'a', from: 0, to: 1000, sound: 'tape' },
  { tape: 'a', from: 2000, to: 3000, sound: 'tape', mutes: [null, true], join: plainJoin() },
  { tape: 'a', from: 0, to: 500, sound: 'room', join: plainJoin() },
  { tape: 'a', from: 4000, to: 5000, sound: 'tape', slip: [0, 240], join: plainJoin() },
])
const paint = (...parts: PaintPart[]): PaintStep => ({ type: 'paint', parts })
const thereAndBack = (step: PaintStep) => applyPaint(applyPaint(list, step), invertPaint(list, step))

describe('painting', () => {
  it.each<[string, PaintPart[]]>([
    ['a mute over a join', [{ what: 'mute', from: 500, to: 1500, value: true }]],
    ['one side heard again in part of what was muted', [{ what: 'side', side: 1, from: 1200, to: 1600, value: false }]],
    ['a delay over stretches that have another, and none', [{ what: 'slip', side: 1, from: 1500, to: 3000, value: 480 }]],
    [
      'levels of two sides, one over part of the other',
      [
        { what: 'level', side: 0, from: 100, to: 900, value: -6 },
        { what: 'level', side: 1, from: 500, to: 1800, value: 3 },
      ],
    ],
    ['all of the piece', [{ what: 'mute', from: 0, to: 3500, value: true }]],
    ['what is so already', [{ what: 'side', side: 1, from: 1000, to: 2000, value: true }]],
  ])('%s is undone to exactly what was there', (_, parts) => {
    expect(thereAndBack(paint(...parts))).toEqual(list)
    expect(listLength(applyPaint(list, paint(...parts)))).toBe(listLength(list))
  })

  it('leaves added room alone: nobody speaks there', () => {
    const muted = applyPaint(list, paint({ what: 'mute', from: 1500, to: 3000, value: true }))
    expect(muted.filter(({ sound }) => sound === 'room')).toEqual(list.filter(({ sound }) => sound === 'room'))
    expect(muted.flatMap(({ mute, from, to }) => (mute ? [[from, to]] : []))).toEqual([
      [2500, 3000],
      [4000, 4500],
    ])
  })

  it('takes no place where nothing is set any more', () => {
    const level = (value: number) => paint({ what: 'level', side: 1, from: 200, to: 400, value })
    const painted = applyPaint(list, level(-9))
    expect(painted[1]).toMatchObject({ from: 200, to: 400, levels: [0, -9] })
    expect(applyPaint(painted, level(0))).toEqual(list)
  })

  it('gives back the crossfade that somebody had set where a paint begins', () => {
    const muted = applyPaint(list, paint({ what: 'mute', from: 200, to: 400, value: true }))
    const shaped = muted.map((span) => (span.from === 200 ? { ...span, join: { ...span.join!, fade: 77 } } : span))
    const off = paint({ what: 'mute', from: 200, to: 400, value: null })
    expect(applyPaint(shaped, off)).toEqual(list)
    expect(applyPaint(applyPaint(shaped, off), invertPaint(shaped, off))).toEqual(shaped)
  })

  it.each([
    [-1, 100],
    [100, 100],
    [3000, 3501],
  ])('from %i to %i is outside the piece, or nothing', (from, to) => {
    expect(() => applyPaint(list, paint({ what: 'mute', from, to, value: true }))).toThrow(RangeError)
  })
})

describe('parts', () => {
  const level = (from: number, to: number, side = 0): PaintPart => ({ what: 'level', from, to, side, value: -3 })

  it('meet where they paint the same thing of the same side at one place', () => {
    expect(collide(level(0, 100), level(50, 150))).toBe(true)
    expect(collide(level(0, 100), level(100, 150))).toBe(false)
    expect(collide(level(0, 100), level(50, 150, 1))).toBe(false)
    expect(collide(level(0, 100), { what: 'mute', from: 50, to: 150, value: true })).toBe(false)
  })

  it('reach from the first to the last, joins among them', () => {
    expect(reachOfPaint(paint(level(300, 400), level(100, 200)))).toEqual({ from: 100, to: 400 })
    expect(reachOfPaint({ type: 'paint', parts: [level(300, 400)], joins: [{ at: 900, join: plainJoin() }] })).toEqual({
      from: 300,
      to: 900,
    })
    expect(reachOfPaint({ type: 'paint', parts: [] })).toBeNull()
  })
})

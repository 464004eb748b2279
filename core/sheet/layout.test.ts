import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { bentLayout, evenLayout, frameAt, lineOf, wordsFit, xOf, type Token } from './layout'

const tokens = fc
  .array(fc.tuple(fc.integer({ min: 0, max: RATE * 20 }), fc.integer({ min: 500, max: RATE }), fc.integer({ min: 8, max: 160 })), {
    maxLength: 40,
  })
  .map((list) => {
    let at = 0
    return list.map(([gap, length, width]): Token => {
      const token = { at: at + gap, end: at + gap + length, width }
      at = token.end
      return token
    })
  })
const lengthFor = (list: Token[]) => (list.at(-1)?.end ?? 0) + RATE
const WIDTH = 800

describe('sheet layout', () => {
  it('covers all of time once, in lines that are never too wide, each word whole and wide enough', () =>
    fc.assert(
      fc.property(tokens, fc.integer({ min: RATE, max: RATE * 30 }), (list, perLine) => {
        const length = lengthFor(list)
        const { lines } = bentLayout(list, length, perLine, WIDTH)
        let at = 0
        const seen: number[] = []
        for (const line of lines) {
          expect(line.from).toBe(at)
          expect(line.width).toBeLessThanOrEqual(WIDTH + 1e-6)
          for (const run of line.runs) {
            expect(run.from).toBe(at)
            at = run.to
            if (run.token >= 0) {
              seen.push(run.token)
              expect(run.xEnd - run.x).toBeGreaterThanOrEqual(Math.min(WIDTH, list[run.token].width) - 1e-6)
            }
          }
        }
        expect(at).toBe(length)
        expect(seen).toEqual(list.map((_, i) => i))
      }),
    ))

  it('finds the frame for each pixel and back', () =>
    fc.assert(
      fc.property(tokens, fc.double({ min: 0, max: 1, noNaN: true }), (list, share) => {
        const layout = bentLayout(list, lengthFor(list), RATE * 5, WIDTH)
        const frame = Math.floor(share * (lengthFor(list) - 1))
        const line = layout.lines[lineOf(layout, frame)]
        expect(frame).toBeGreaterThanOrEqual(line.from)
        expect(frame).toBeLessThanOrEqual(line.to)
        expect(Math.abs(frameAt(line, xOf(line, frame)) - frame)).toBeLessThanOrEqual(1)
      }),
    ))

  it('bends no pause: what lies between words keeps its proportion', () => {
    const list = [
      { at: RATE, end: RATE * 1.2, width: 100 },
      { at: RATE * 3, end: RATE * 3.2, width: 100 },
    ]
    const { lines } = bentLayout(list, RATE * 4, RATE * 10, WIDTH)
    expect(lines[0].runs.map((run) => Math.round(run.xEnd - run.x))).toEqual([80, 100, 144, 100, 64])
  })

  it('is even where there are no words', () => {
    const { lines } = evenLayout(RATE * 25, RATE * 10, WIDTH)
    expect(lines.map((line) => line.width)).toEqual([WIDTH, WIDTH, WIDTH / 2])
    expect(xOf(lines[1], RATE * 15)).toBe(WIDTH / 2)
    expect(evenLayout(0, RATE, WIDTH).lines).toHaveLength(1)
  })

  it('knows when words no longer fit', () => {
    const list = [{ at: 0, end: RATE / 2, width: 80 }]
    expect([2, 5, 60].map((seconds) => wordsFit(list, seconds * RATE, WIDTH))).toEqual([true, true, false])
  })
})

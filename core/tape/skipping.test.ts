import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Stretch } from '../time'
import { frameOf, keptBefore } from './skipping'
import { united, without } from '../stretches'

const LENGTH = 10_000
const stretch: fc.Arbitrary<Stretch> = fc
  .tuple(fc.nat(LENGTH - 1), fc.integer({ min: 1, max: 2000 }))
  .map(([from, length]) => ({ from, to: Math.min(LENGTH, from + length) }))
const strikes = fc.array(stretch, { maxLength: 6 })

describe('skipping what is struck', () => {
  it('finds every kept frame again', () =>
    fc.assert(
      fc.property(strikes, fc.nat(LENGTH - 1), (struck, frame) => {
        const parts = without({ from: 0, to: LENGTH }, struck)
        const place = keptBefore(parts, frame)
        const kept = parts.some((part) => frame >= part.from && frame < part.to)
        if (kept) expect(frameOf(parts, place)).toBe(frame)
        else expect(frameOf(parts, place)).toBeGreaterThanOrEqual(Math.min(frame, parts.at(-1)?.to ?? 0))
      }),
    ))

  it('lays struck stretches together without changing what they cover', () =>
    fc.assert(
      fc.property(strikes, fc.nat(LENGTH - 1), (struck, frame) => {
        const one = united(struck)
        const covered = (list: readonly Stretch[]) => list.some((part) => frame >= part.from && frame < part.to)
        expect(covered(one)).toBe(covered(struck))
        for (let i = 1; i < one.length; i++) expect(one[i].from).toBeGreaterThan(one[i - 1].to)
      }),
    ))

  it('is at the end where nothing is left', () => {
    expect(frameOf([], 5)).toBe(0)
    expect(frameOf([{ from: 10, to: 20 }], 99)).toBe(20)
  })
})

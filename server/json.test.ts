import { describe, expect, it } from 'vitest'
import { isStorable } from '../core/storable'
import { depthOf, storable } from './json'
import { Refusal } from './problem'

const bytes = (text: string) => new TextEncoder().encode(text)

describe('JSON from outside', () => {
  it('is as deep as its brackets, not those in its text', () => {
    expect(depthOf(bytes('{"a":[1,[2]]}'))).toBe(3)
    expect(depthOf(bytes('"[[[["'))).toBe(0)
    expect(depthOf(bytes('"\\"[[["'))).toBe(0)
    expect(depthOf(bytes('['.repeat(100_000)))).toBe(100_000)
  })
  it('keeps what can be stored, emoji and joiners too', () => {
    expect(isStorable('Fähre 🚢 می‌خواهم 👩‍🚀')).toBe(true)
    expect(storable({ text: ['a', { b: 'c' }] })).toEqual({ text: ['a', { b: 'c' }] })
  })
  it('is refused where it cannot be stored', () => {
    for (const bad of ['a\u0000b', '\ud83d', '\udea2x']) {
      expect(isStorable(bad)).toBe(false)
      expect(() => storable({ list: [{ text: bad }] })).toThrow(Refusal)
      expect(() => storable({ [bad]: 1 })).toThrow(Refusal)
    }
  })
})

import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import { toFrames } from '../time'
import { sections } from './anchors'

const next = random(3)
const WORDS = 'boat night quay nobody told us and the they would be on a with engine six island mother nurse shift fish plant ferry'.split(
  ' ',
)
const texts = Array.from({ length: 400 }, () => WORDS[Math.floor(next() * WORDS.length)])
const at = (i: number) => ({ from: toFrames(i * 0.4), to: toFrames(i * 0.4 + 0.35) })
const length = toFrames(161)

describe('a text and a rough guide', () => {
  it('are held together where they agree, though a third of the guide is wrong', () => {
    const guide = texts.map((text, i) => ({ text: next() < 0.33 ? 'something' : text, ...at(i) }))
    const found = sections(texts, guide, length)
    expect(found.length).toBeGreaterThan(5)
    let first = 0
    for (const section of found) {
      expect(section.first).toBe(first)
      first += section.count
      if (section !== found.at(-1)) expect(Math.abs(section.stretch.to - toFrames(first * 0.4 - 0.025))).toBeLessThan(10)
    }
    expect(first).toBe(texts.length)
  })

  it('stay together across what only one of them has', () => {
    const guide = texts.flatMap((text, i) => (i >= 100 && i < 150 ? [] : [{ text, ...at(i) }]))
    for (const { first, count, stretch } of sections(texts, guide, length).slice(0, -1))
      expect(Math.abs(stretch.to - toFrames((first + count) * 0.4))).toBeLessThan(toFrames(0.1))
  })

  it('are one section where they have nothing in common', () => {
    expect(sections(texts, [], length)).toEqual([{ first: 0, count: 400, stretch: { from: 0, to: length } }])
    expect(sections([], [], length)).toEqual([])
  })
})

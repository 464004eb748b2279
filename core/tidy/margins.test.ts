import { describe, expect, it } from 'vitest'
import type { Proposal } from '../tape/suggestion'
import type { Word } from '../tape/words'
import { toFrames, type Stretch } from '../time'
import { reachOf, withEdges, withMargins } from './margins'

const at = (from: number, to: number): Stretch => ({ from: toFrames(from), to: toFrames(to) })
const word = (text: string, from: number, to: number): Word => ({ text, ...at(from, to) }) as Word
const words = [word('we', 0, 0.4), word('um,', 0.6, 0.9), word('come', 1.2, 1.5)]
const out = (goes: Stretch): Proposal => ({ do: 'takeOut', goes, room: 0 })
const edge = toFrames(0.05)

describe('margins of a kind', () => {
  it('leave more of a filler at both edges, and say where too little would go', () => {
    const filler = { ...at(0.6, 0.9), proposes: out(at(0.6, 0.9)) }
    expect(withMargins(filler, { edge, left: null }, words)).toEqual(out(at(0.65, 0.85)))
    expect(withMargins(filler, { edge: 3 * edge, left: null }, words)).toBeNull()
  })

  it('take out more, and never a part of the words beside it', () => {
    const filler = { ...at(0.6, 0.9), proposes: out(at(0.6, 0.9)) }
    expect(withMargins(filler, { edge: -edge, left: null }, words)).toEqual(out(at(0.55, 0.95)))
    expect(withMargins(filler, { edge: -8 * edge, left: null }, words)).toEqual(out(at(0.4, 1.2)))
    // what was placed further out than that stays as it was placed
    expect(withEdges(at(0.35, 0.9), -edge, reachOf(filler, words))).toEqual(at(0.35, 0.95))
  })

  it('leave pauses a figure, keep some of each whatever is asked, and let be what has no edges', () => {
    const pause = { ...at(2, 4), proposes: out(at(2.3, 3.5)) }
    const left = withMargins(pause, { edge: 0, left: toFrames(0.4) }, words) as Extract<Proposal, { do: 'takeOut' }>
    expect(left.goes.to - left.goes.from).toBe(toFrames(1.6))
    const most = withMargins(pause, { edge: -20 * edge, left: null }, words) as Extract<Proposal, { do: 'takeOut' }>
    expect(most.goes).toEqual(at(2.02, 3.98))
    expect(withMargins({ ...at(1, 2), proposes: { do: 'mute' } }, { edge, left: null }, words)).toEqual({ do: 'mute' })
  })
})

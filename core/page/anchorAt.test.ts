import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { anchorAt } from './anchorAt'
import type { Known } from './lay'
import { layBlocks } from './timing'
import type { Block } from './story'

const s = RATE
const block = (id: string, text: string): Block => ({ id, kind: 'copy', order: id, aside: false, text, reader: '', pace: 60, piece: null })
const known: Known = { lengthOf: () => undefined }
// a word a second
const layout = layBlocks([block('a', 'The last boat to Brackle'), block('b', 'left at midnight')], known.lengthOf)
const [first, second] = layout.placed
const at = (frame: number, snap = true) => anchorAt(layout, frame, known, snap)

describe('what a place of a page holds on to', () => {
  it('is the nearest word, and that word stands for it', () => {
    expect(at(first.at + Math.round(2.2 * s))).toMatchObject({ block: 'a', at: { word: 'boat', index: 2 }, offset: 0 })
    expect(at(first.at + Math.round(2.2 * s), false)).toMatchObject({ block: 'a', at: { word: 'boat' }, offset: Math.round(0.2 * s) })
  })

  it('is a block’s edge where that is nearer, with how far away it is', () => {
    expect(at(second.at + 0.1 * s)).toEqual({ block: 'b', at: 'start', offset: 0 })
    expect(at(second.at + second.words + 4 * s)).toEqual({ block: 'b', at: 'end', offset: 4 * s })
    expect(at(first.at - 2 * s)).toMatchObject({ block: 'a', at: 'start', offset: -2 * s })
  })

  it('is the time itself on an empty page', () => {
    expect(anchorAt({ placed: [], length: 0 }, 3 * s, known)).toEqual({ at: 3 * s })
  })
})

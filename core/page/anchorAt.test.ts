import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { anchorAt } from './anchorAt'
import type { Known } from './lay'
import { paceOf, wordShares } from './reading'
import { layBlocks } from './timing'
import type { Block } from './story'

const s = RATE
/** A block that is read in so many seconds. */
const block = (id: string, text: string, seconds: number): Block => ({
  id,
  kind: 'copy',
  order: id,
  aside: false,
  text,
  reader: '',
  pace: paceOf(text, seconds * s),
  piece: null,
})
const known: Known = { lengthOf: () => undefined }
const layout = layBlocks([block('a', 'The last boat to Brackle', 5), block('b', 'left at midnight', 3)], known.lengthOf)
const [first, second] = layout.placed
/** Where its third word begins, in seconds. */
const boat = 5 * wordShares('The last boat to Brackle')[2]
const at = (frame: number, snap = true) => anchorAt(layout, frame, known, snap)

describe('what a place of a page holds on to', () => {
  it('is the nearest word, and that word stands for it', () => {
    expect(at(first.at + Math.round((boat + 0.2) * s))).toMatchObject({ block: 'a', at: { word: 'boat', index: 2 }, offset: 0 })
    expect(at(first.at + Math.round((boat + 0.2) * s), false)).toMatchObject({
      block: 'a',
      at: { word: 'boat' },
      offset: Math.round(0.2 * s),
    })
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

import { describe, expect, it } from 'vitest'
import type { Actuality } from '../edits/actuality'
import { RATE } from '../time'
import { lay } from './lay'
import { airTimeAsSet, cueSheetOf, scriptOf } from './scriptSheet'
import { newStory, type Block } from './story'

const s = RATE
const said = 'Nobody told us that the night boat would stop'.split(' ')
const words = said.map((text, i) => ({ text, from: (10 + i) * s, to: (10 + i) * s + s / 2, speaker: 'Piet Aldous' }))
const piece: Actuality = {
  kind: 'actuality',
  slug: 'Nobody told us',
  speaker: 'Piet Aldous',
  role: 'deckhand',
  story: null,
  spans: [{ tape: 'quay', from: 10 * s, to: 20 * s, sound: 'tape' }],
  head: s / 2,
  tail: s / 2,
}

describe('a script', () => {
  it('has a line a block, with its time, who says it, its copy or its cues, and its length', () => {
    const blocks: Block[] = [
      { id: 'a', kind: 'copy', order: 'a', aside: false, text: 'The quay is dark.', reader: 'Tamsin Roe', piece: null },
      { id: 'b', kind: 'actuality', order: 'b', aside: false, text: '', reader: '', piece: 'p' },
    ] as Block[]
    const story = newStory({ slug: 'The night ferry' }, { id: 'o' }, blocks)
    const [layout] = lay(story, { lengthOf: () => ({ length: 10 * s, head: s / 2, tail: s / 2 }) })
    const { title, about, rows } = scriptOf(
      'The night ferry',
      layout,
      '',
      () => piece,
      () => words,
    )
    expect([title, about[0]]).toEqual(['The night ferry', 'No air time set'])
    expect(rows.map(({ block, who }) => [block, who])).toEqual([
      ['Copy', 'Tamsin Roe'],
      ['Nobody told us', 'Piet Aldous, deckhand'],
    ])
    expect(rows[0].lines).toEqual(['The quay is dark.'])
    expect(rows[1].lines).toEqual(['In: “Nobody told us that …”', 'Out: “… night boat would stop”'])
    expect(rows[1].length).toBe(':09')
  })

  it('of one piece is a cue sheet, with all that is said', () => {
    const { about, rows, below } = cueSheetOf(piece, ['On the quay'], 10 * s, () => words)
    expect(about).toEqual([
      'Piet Aldous, deckhand',
      'Words :09, clip 0:10.0 with 0:00.5 and 0:00.5 of room at its ends',
      'From “On the quay”',
    ])
    expect([rows.length, below]).toEqual([1, ['Nobody told us that the night boat would stop']])
  })

  it.each([
    ['2026-11-25T17:52+01:00', 'Wednesday 25 November 2026, 17:52 GMT+1'],
    ['2026-11-25T17:52-03:30', 'Wednesday 25 November 2026, 17:52 GMT-3:30'],
    ['2026-11-25T17:52Z', 'Wednesday 25 November 2026, 17:52 GMT'],
    ['soon', ''],
  ])('says of %s when it airs', (airs, text) => expect(airTimeAsSet(airs)).toBe(text))
})

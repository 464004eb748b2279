import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Actuality } from '../edits/actuality'
import { pieceWords } from '../edits/pieceWords'
import { lay } from '../page/lay'
import { newStory, storyType, type Block, type StoryDocument, type StoryStep } from '../page/story'
import { applyAll } from '../steps/document'
import type { Word } from '../tape/words'
import { RATE, toFrames, type Frames } from '../time'
import { fitted } from './apply'
import { RANKS, type Change } from './change'
import { fit } from './fit'
import { offers, type FitBlock } from './offers'

const s = RATE
/** Words a half second each, with pauses behind some of them, in seconds. */
const spoken = (text: string, pauses: Record<number, number> = {}): Word[] => {
  let at = s
  return text.split(' ').map((word, i) => {
    const from = at
    at = from + s / 2 + Math.round((pauses[i] ?? 0.05) * s)
    return { text: word, from, to: from + s / 2 }
  })
}
const tapes: Record<string, Word[]> = {
  guest: spoken('We waited on the quay. Nobody told us um anything at all. The nurses went home. And that was that.', {
    7: 0.3,
    8: 0.4,
    11: 0.9,
    14: 1.6,
  }),
  own: spoken('The last boat left at midnight. It will not leave tonight.', { 2: 0.6, 5: 0.9 }),
}
const endOf = (tape: string) => tapes[tape].at(-1)!.to
const piece = (tape: string): Actuality => ({
  kind: 'actuality',
  slug: tape,
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape, from: s / 2, to: endOf(tape) + s / 2, sound: 'tape' }],
  head: s / 2,
  tail: s / 2,
})
const block = (id: string, kind: Block['kind'], fields: Partial<Block> = {}): Block => ({
  id,
  kind,
  order: id,
  aside: false,
  text: '',
  reader: '',
  pace: 170,
  piece: null,
  ...fields,
})
const blocks = [
  block('a', 'intro', { text: 'The night ferry is gone.' }),
  block('b', 'copy', { text: 'The last boat left.', piece: 'own' }),
  block('c', 'actuality', { piece: 'guest', gap: toFrames(0.3) }),
  block('d', 'copy', { text: 'The nurses went home from the quay. But the council says nothing of it yet.' }),
]
const story = newStory({ slug: '' }, { id: 'out' }, blocks)

class Page {
  readonly pieces: Map<string, Actuality>
  constructor(
    readonly story: StoryDocument,
    pieces: Iterable<[string, Actuality]>,
  ) {
    this.pieces = new Map(pieces)
  }
  readonly lengthOf = (id: string) => {
    const found = this.pieces.get(id)
    return found && { length: found.spans.reduce((sum, { from, to }) => sum + to - from, 0), head: found.head, tail: found.tail }
  }
  get air() {
    return lay(this.story, { lengthOf: this.lengthOf })[0].air
  }
  get blocks(): FitBlock[] {
    return this.air.placed.map((row) => {
      const body = row.block.piece ? this.pieces.get(row.block.piece) : undefined
      const words = body ? pieceWords(body.spans, (tape) => tapes[tape]) : []
      return { row, piece: body ? { ...this.lengthOf(row.block.piece!)!, words, beyond: 0 } : null, guest: row.block.kind === 'actuality' }
    })
  }
  with(changes: readonly Change[], room: Frames): Page {
    const pieces = new Map(this.pieces)
    const steps = fitted(this.air.placed, changes, (id) => this.pieces.get(id), room).flatMap((one): StoryStep[] => {
      if (!one.piece) return one.steps
      pieces.set(`${one.block} shorter`, one.piece)
      return [...one.steps, { type: 'set', id: one.block, key: 'piece', value: `${one.block} shorter` }]
    })
    return new Page(applyAll(storyType, this.story, steps), pieces)
  }
}
const page = new Page(story, [
  ['own', piece('own')],
  ['guest', piece('guest')],
])
const shorter = offers(page.blocks, true)

describe('what a page offers', () => {
  it('is particular, and of the reporter’s own first', () => {
    expect(shorter.map(({ block: of, rank, what }) => `${of} ${rank} ${what}`).sort()).toEqual([
      'b room 2 pauses',
      'c fillers “um”',
      'c overlap begins over the handle before it',
      'c pauses a pause',
      'c room the pause before it',
      'c sentence “And that was that.”',
      'c sentence “We waited on the quay.”',
      'd saidTwice “The nurses went home from the quay.”, which the tape says',
    ])
  })

  it('never touches a pause that may be the story', () => {
    const long = shorter
      .flatMap(({ deed }) => (deed.do === 'cut' ? deed.cuts : []))
      .filter(({ from, to }) => to - from > 1.2 * s && to - from < 2 * s)
    expect(long).toEqual([])
  })
})

describe('a page that is fitted', () => {
  it('is as long as its slot, to the frame, whatever it must lose, as far as that is in reach', () => {
    const most = shorter.reduce((sum, { saves }) => sum + saves, 0)
    fc.assert(
      fc.property(fc.integer({ min: 1, max: most }), (need) => {
        const { changes, missing, tooMuch, saves } = fit(shorter, need)
        expect(missing).toBe(0)
        expect(saves - tooMuch).toBe(need)
        expect(page.air.length - page.with(changes, tooMuch).air.length).toBe(need)
      }),
      { numRuns: 60 },
    )
  })

  it('uses no later rank while an earlier one would do', () => {
    for (const seconds of [0.2, 0.5, 1, 2, 4]) {
      const need = toFrames(seconds)
      const { changes } = fit(shorter, need)
      const last = Math.max(...changes.map(({ rank }) => RANKS.indexOf(rank)))
      const earlier = shorter.filter(({ rank }) => RANKS.indexOf(rank) < last).reduce((sum, { saves }) => sum + saves, 0)
      expect(earlier).toBeLessThan(need)
    }
  })

  it('says how near it comes where the slot is out of reach', () => {
    const most = shorter.reduce((sum, { saves }) => sum + saves, 0)
    const { changes, missing } = fit(shorter, most + 2 * s)
    expect([changes.length, missing]).toEqual([shorter.length, 2 * s])
  })

  it('is filled as exactly where it is under', () => {
    const longer = offers(page.blocks, false)
    const need = -toFrames(0.7)
    const { changes, missing } = fit(longer, need)
    expect(missing).toBe(0)
    expect(page.air.length - page.with(changes, 0).air.length).toBe(need)
    expect(changes.every(({ rank }) => rank === 'room')).toBe(true)
  })
})

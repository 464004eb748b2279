import { describe, expect, it } from 'vitest'
import type { Actuality } from '../edits/actuality'
import { renderAll } from '../render/render'
import type { TapeFacts } from '../render/plan'
import { RATE } from '../time'
import { plainWord, plainWords, quoteAt, type Anchor } from './anchors'
import { lay, type Known } from './lay'
import { pagePlan } from './plan'
import { paceOf, readingTime, wordShares } from './reading'
import { saidIn } from './said'
import { newStory, outputsOf, variantId, type Block, type Hanger, type Lane, type StoryDocument, type StoryRecord } from './story'

const s = RATE
const block = (id: string, order: string, fields: Partial<Block> = {}): Block => ({
  id,
  kind: 'copy',
  order,
  aside: false,
  text: '',
  reader: '',
  // as many seconds as words
  pace: paceOf(fields.text ?? '', plainWords(fields.text ?? '').length * s),
  piece: null,
  ...fields,
})
const LINE = 'The last boat to Brackle left at midnight'
const words = plainWords(LINE)
/** Where a word begins in what the line becomes, in seconds; it is read at the pace of the line. */
const begins = (text: string, word: number) => Math.round(wordShares(text)[word] * readingTime(text, paceOf(LINE, words.length * s))) / s
const blocks = [
  block('intro', 'a0', { kind: 'intro', text: 'From the quay, here is Tamsin Roe' }),
  block('line', 'a1', { text: LINE }),
  block('act', 'a2', { kind: 'actuality', piece: 'nobody' }),
  block('tag', 'a3', { kind: 'tag', text: 'Tamsin Roe' }),
]
const lane: Lane = { id: 'lane', kind: 'lane', name: 'Quay', colour: 'tape', order: 'a0', locked: false, muted: false, gain: 0 }
const hanger = (start: Anchor, end: Anchor | null, fields: Partial<Hanger> = {}): Hanger => ({
  id: 'hanger',
  kind: 'hanger',
  lane: 'lane',
  aside: false,
  plays: { tape: 'quay', from: 0, to: 100 * s },
  start,
  end,
  gain: 0,
  ...fields,
})
const nobody: Actuality = {
  kind: 'actuality',
  slug: 'Nobody told us',
  speaker: '',
  role: '',
  story: null,
  // two seconds are out of it
  spans: [
    { tape: 'quay', from: 10 * s, to: 14 * s, sound: 'tape' },
    { tape: 'quay', from: 16 * s, to: 20 * s, sound: 'tape' },
  ],
  head: s / 2,
  tail: s / 2,
}
const said = ['Nobody', 'told', 'us', 'that', 'the', 'boat', 'would', 'go'].map((text, i) => ({
  text,
  from: (11 + i) * s,
  to: (11.8 + i) * s,
}))
const known: Known = {
  lengthOf: (id) => (id === 'nobody' ? { length: 8 * s, head: s / 2, tail: s / 2 } : undefined),
  saidIn: (id) => (id === 'nobody' ? saidIn(nobody, () => said as never) : undefined),
}
const page = (hung: Hanger, others: readonly StoryRecord[] = []): StoryDocument =>
  newStory({ slug: '' }, { id: 'out' }, [...blocks, lane, hung, ...others])
const laid = (document: StoryDocument) => {
  const [{ air, file }] = lay(document, known)
  return { air, file, hung: air.hangers[0], inFile: file.hangers[0] }
}
const at = (start: Anchor, document = page(hanger(start, null))) => {
  const { at: frames, block: holds, why } = laid(document).hung.start
  return [frames / s, holds, why]
}

describe('what lies beside a running order', () => {
  const intro = 7
  // the actuality's head lies over the line
  const act = intro + 0.3 + words.length

  it('holds on to edges, to words and to times', () => {
    expect(at({ block: 'line', at: 'start', offset: -s })).toEqual([intro + 0.3 - 1, 'line', null])
    expect(at({ block: 'act', at: 'end', offset: s })).toEqual([act + 7 + 1, 'act', null])
    expect(at({ at: 4 * s })).toEqual([4, null, null])
    expect(at({ block: 'line', at: quoteAt(words, 4), offset: 0 })).toEqual([
      expect.closeTo(intro + 0.3 + begins(LINE, 4), 5),
      'line',
      null,
    ])
    // a word of tape is where it is heard: what is cut out before it moves it
    const go = quoteAt(
      said.map(({ text }) => plainWord(text)),
      7,
      { tape: 'quay', at: 18 * s },
    )
    expect(at({ block: 'act', at: go, offset: 0 })).toEqual([act - 0.5 + 6, 'act', null])
  })

  it('moves with what it holds, and is as it was once that is back', () => {
    const boat: Anchor = { block: 'line', at: quoteAt(words, 2), offset: 0 }
    const start = page(hanger(boat, null))
    const changed = (fields: Partial<Block>): StoryDocument => ({
      ...start,
      records: { ...start.records, line: { ...(start.records.line as Block), ...fields } },
    })
    expect(at(boat, changed({ text: `And so ${LINE}` }))).toEqual([
      expect.closeTo(intro + 0.3 + begins(`And so ${LINE}`, 4), 5),
      'line',
      null,
    ])
    const without = 'The last to Brackle left at midnight'
    expect(at(boat, changed({ text: without }))).toEqual([expect.closeTo(intro + 0.3 + begins(without, 2), 5), 'line', 'unsaid'])
    expect(at(boat, changed({ order: 'a2V' }))[0]).toBeCloseTo(intro + 8 + begins(LINE, 2) - 0.5, 4)
    // set aside: what comes next takes it
    expect(at(boat, changed({ aside: true }))).toEqual([intro + 0.5, 'act', 'aside'])
    expect(at(boat)).toEqual([expect.closeTo(intro + 0.3 + begins(LINE, 2), 5), 'line', null])
  })

  it('goes to the nearest frame that is heard where its own is cut out of a piece', () => {
    const cut = quoteAt(
      said.map(({ text }) => plainWord(text)),
      4,
      { tape: 'quay', at: 15 * s },
    )
    const [place, holds, why] = at({ block: 'act', at: cut, offset: 0 })
    expect([place, holds, why]).toEqual([act - 0.5 + 4, 'act', 'unsaid'])
  })

  it('lies in the file at the places of the file, and says what it holds on to there', () => {
    const { inFile } = laid(page(hanger({ block: 'intro', at: 'start', offset: 0 }, { block: 'act', at: 'end', offset: 0 })))
    // unrecorded copy is out of the file, and so is what is live
    expect([inFile.from / s, inFile.start.block, inFile.start.why, inFile.to / s]).toEqual([0.5, 'act', 'out', 7.5])
  })

  it('is as long as its end tells, or as its sound is', () => {
    const short = laid(page(hanger({ at: 0 }, { block: 'act', at: 'end', offset: 0 }, { plays: { tape: 'quay', from: 0, to: 5 * s } })))
    expect([short.hung.to / s, short.hung.short / s]).toEqual([5, act + 7 - 5])
    const early = laid(page(hanger({ at: -2 * s }, { at: 3 * s })))
    expect([early.hung.from, early.hung.skip / s, early.hung.to / s]).toEqual([0, 2, 3])
    expect(laid(page(hanger({ at: 3 * s }, { at: s }))).hung).toMatchObject({ from: 3 * s, to: 3 * s })
    // what has no length makes the page no longer
    const alone = laid(page(hanger({ at: 0 }, null, { aside: true }))).air.length
    expect(laid(page(hanger({ at: 99 * s }, { at: s }))).air.length).toBe(alone)
    expect(laid(page(hanger({ at: 0 }, null))).air.length / s).toBe(100)
  })
})

it('blocks overlap, or leave a gap, and none begins before the one before it', () => {
  const places = (gap: number) =>
    lay(
      newStory({ slug: '' }, { id: 'out' }, [block('a', 'a0', { text: 'one two' }), block('b', 'a1', { text: 'three', gap })]),
      known,
    )[0].air.placed.map((row) => row.at / s)
  expect([0, 2 * s, -s, -9 * s].map(places)).toEqual([
    [0.3, 2.3],
    [0.3, 4.3],
    [0.3, 1.3],
    [0.3, 0.3],
  ])
})

it('gives each output a layout of its own', () => {
  const base = page(hanger({ block: 'line', at: 'start', offset: 0 }, { block: 'act', at: 'start', offset: 0 }))
  const document: StoryDocument = {
    ...base,
    records: {
      ...base.records,
      short: { ...outputsOf(base)[0], id: 'short', order: 'a1', unrecorded: 'tone' },
      [variantId('short', 'line')]: { id: variantId('short', 'line'), kind: 'variant', output: 'short', block: 'line', out: true },
    },
  }
  const [long, short] = lay(document, known)
  expect(long.air.length - short.air.length).toBe(Math.round(7.8 * s))
  expect(short.air.hangers[0].start).toMatchObject({ block: 'act', why: 'out' })
  expect(long.air.hangers[0].start).toMatchObject({ block: 'line', why: null })
})

it('sounds where it lies, at its level, and not where its lane is muted', () => {
  const facts: TapeFacts = { id: 'quay', frames: 200 * s, sides: [{ name: '', channels: [0] }], tone: { sound: 'quay', quiet: [] } }
  const level = [
    { at: 0, dB: 0 },
    { at: 2 * s, dB: -20 },
  ]
  const sound = (hung: Hanger, change: Partial<Lane> = {}) => {
    const document = page(hung, [{ ...lane, ...change }])
    const { file } = lay(document, { ...known, lengthOf: () => undefined })[0]
    return (
      renderAll(
        pagePlan(
          file,
          () => undefined,
          () => facts,
        ),
        (_, __, from, to) => new Float32Array(to - from).fill(0.5),
      )[0] ?? []
    )
  }
  const even = sound(hanger({ at: s }, { at: 5 * s }, { gain: -6 }))
  expect(even.length).toBe(5 * s)
  expect([even[s - 10], Math.round(even[3 * s] * 1000)]).toEqual([0, 251])
  expect(even[s]).toBeLessThan(0.01)
  expect(even[5 * s - 1]).toBeLessThan(0.01)
  const falling = sound(hanger({ at: s }, { at: 5 * s }, { level }))
  expect(falling[3 * s + 100]).toBeCloseTo(0.05, 3)
  expect(falling[s + 4000]).toBeGreaterThan(0.45)
  // what is cut off at its beginning does not move its line
  expect(sound(hanger({ at: -s }, { at: 5 * s }, { level }))[s + 100]).toBeCloseTo(0.05, 3)
  expect(sound(hanger({ at: s }, { at: 5 * s }), { muted: true }).every((one) => one === 0)).toBe(true)
  expect(sound(hanger({ at: s }, { at: 5 * s }), { gain: -20 })[3 * s]).toBeCloseTo(0.05, 3)
})

it('ends with its last note where it is put to, and leaves out at its beginning what does not fit', () => {
  const plays = { tape: 'quay', from: 3 * s, to: 13 * s }
  const ending = (start: number, end: number) => {
    const { from, to, skip, short } = laid(page(hanger({ at: start * s }, { at: end * s }, { plays, by: 'end' }))).hung
    return [from, to, skip, short].map((frames) => frames / s)
  }
  expect(ending(2, 8)).toEqual([2, 8, 4, 0])
  // as long as it is, and no longer
  expect(ending(2, 20)).toEqual([10, 20, 0, 8])
  expect(ending(-5, 4)).toEqual([0, 4, 6, 0])
  expect(ending(9, 4)).toEqual([4, 4, 10, 0])
})

it('repeats music as often as is needed, up to its end or to where it is put', () => {
  const plays = { tape: 'quay', from: 3 * s, to: 13 * s }
  const back = { from: 5 * s, to: 11 * s }
  const placed = (start: number, end: number, by?: 'end') => {
    const fields = { plays, back, ...(by ? { by } : {}) }
    const { from, to, skip, short } = laid(page(hanger({ at: start * s }, { at: end * s }, fields))).hung
    return [from, to, skip, short].map((frames) => frames / s)
  }
  expect(placed(2, 8)).toEqual([2, 8, 0, 0])
  expect(placed(2, 30)).toEqual([2, 30, 0, 0])
  // ten seconds, and three times six more: what is too much is left out at its beginning
  expect(placed(2, 26, 'end')).toEqual([2, 26, 4, 0])
  // in another stretch of the tape the places do not lie
  const other = laid(page(hanger({ at: 0 }, { at: 20 * s }, { plays: { ...plays, to: 10 * s }, back }))).hung
  expect(other.short / s).toBe(13)
})

it('has marks where the words are that they stand at', () => {
  const mark = { id: 'mark', kind: 'mark' as const, start: { block: 'line', at: quoteAt(words, 4), offset: s / 10 }, text: '#check' }
  const document = page(hanger({ at: 0 }, null), [mark])
  const before = laid(document).air.marks[0].at
  expect(before / s).toBeCloseTo(7 + 0.3 + begins(LINE, 4) + 0.1, 3)
  // the host says less: it is sooner by as much
  const shorter = { ...document, records: { ...document.records, intro: { ...blocks[0], text: '' } } }
  expect(laid(shorter).air.marks[0].at).toBeLessThan(before - 6 * s)
})

it('leaves out what is set aside', () => {
  expect(laid(page(hanger({ block: 'line', at: 'end', offset: 0 }, null, { aside: true }))).air.hangers).toEqual([])
})

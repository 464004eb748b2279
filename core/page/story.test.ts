import { describe, expect, it } from 'vitest'
import { applyAll, applyAndInvert, exchange } from '../steps/document'
import {
  blocksOf,
  brokenIn,
  inOutput,
  newStory,
  offcutsOf,
  outputsOf,
  runningOrder,
  spineOf,
  storyHead,
  storyType,
  variantId,
  variantsOf,
  type Block,
  type Hanger,
  type Lane,
  type StoryDocument,
  type StoryStep,
  type Variant,
} from './story'

const block = (id: string, order: string, aside = false): Block => ({
  id,
  kind: 'copy',
  order,
  aside,
  text: id,
  reader: '',
  pace: 170,
  piece: null,
})
const blocks = [block('a', 'a0'), block('b', 'a2'), block('c', 'a1'), block('d', 'a3', true)]
const story = newStory({ slug: 'The night ferry' }, { id: 'evening', slot: 48_000 }, blocks)
const ids = (some: readonly Block[]) => some.map((one) => one.id).join('')
const lane: Lane = { id: 'lane', kind: 'lane', name: 'Bed', colour: 'tape', order: 'a0', locked: false, muted: false, gain: 0 }
const hanger: Hanger = {
  id: 'hanger',
  kind: 'hanger',
  lane: 'lane',
  aside: false,
  plays: { piece: 'p' },
  start: { block: 'b', at: 'start', offset: 0 },
  end: null,
  gain: -12,
}
const put = (record: Lane | Hanger | Variant): StoryStep => ({ type: 'put', record })
const drop = (id: string): StoryStep => ({ type: 'drop', id })

it('has a running order, and offcuts that are not in it', () => {
  expect([ids(spineOf(story)), ids(offcutsOf(story)), ids(blocksOf(story)), storyHead(story).slug]).toEqual([
    'acb',
    'd',
    'acbd',
    'The night ferry',
  ])
})

it('keeps an order that all agree on where two were put in the same place', () => {
  const twins = { ...story, records: { ...story.records, y: block('y', 'a0V'), x: block('x', 'a0V') } }
  expect(ids(spineOf(twins))).toBe('axycb')
})

it('lets one move a block while another writes in it, and refuses two who move it', () => {
  const move: StoryStep = { type: 'set', id: 'b', key: 'order', value: 'Zz' }
  const write: StoryStep = { type: 'set', id: 'b', key: 'text', value: 'new' }
  const both = exchange(storyType, [move], [write])!
  const end = applyAll(storyType, story, [move, ...both.theirs])
  expect(ids(spineOf(end))).toBe('bac')
  expect(spineOf(end)[0].text).toBe('new')
  expect(exchange(storyType, [move], [{ ...move, value: 'b0' }])).toBeNull()
  const { document, inverse } = applyAndInvert(storyType, story, [move, write])
  expect(applyAll(storyType, document, inverse)).toEqual(story)
})

it('keeps what belongs together', () => {
  const laid = applyAll(storyType, story, [put(lane), put(hanger)])
  expect(brokenIn(laid)).toEqual([])
  // neither goes without the other
  expect(() => storyType.apply(story, put(hanger))).toThrow('no longer there')
  expect(() => storyType.apply(laid, drop('lane'))).toThrow('belongs to it')
  expect(() => storyType.apply(laid, drop('b'))).toThrow('belongs to it')
  expect(() => storyType.apply(laid, { type: 'set', id: 'hanger', key: 'lane', value: 'nowhere' })).toThrow('no longer there')
  const { document, inverse } = applyAndInvert(storyType, laid, [drop('hanger'), drop('lane')])
  expect(Object.keys(document.records)).toEqual(Object.keys(story.records))
  expect(applyAll(storyType, document, inverse)).toEqual(laid)
  // of two at once, one of whom takes away what the other holds on to, the second is refused
  const alone = applyAll(storyType, story, [put(lane)])
  expect(exchange(storyType, [put(hanger)], [drop('lane')])).toBeNull()
  expect(exchange(storyType, [drop('lane')], [put(hanger)])).toBeNull()
  expect(
    exchange(storyType, [{ type: 'set', id: 'hanger', key: 'start', value: { block: 'c', at: 'end', offset: 0 } }], [drop('c')]),
  ).toBeNull()
  expect(exchange(storyType, [put(hanger)], [drop('d')])).not.toBeNull()
  expect(() => applyAndInvert(storyType, alone, [drop('evening')])).toThrow('at least one output')
})

it('has another order, text and piece for each output, and shares all else', () => {
  const variant = (block: string, fields: Partial<Variant>): Variant => ({
    id: variantId('morning', block),
    kind: 'variant',
    output: 'morning',
    block,
    ...fields,
  })
  const both = applyAll(storyType, story, [
    { type: 'put', record: { ...outputsOf(story)[0], id: 'morning', name: 'Morning', order: 'a1' } },
    put(variant('c', { out: true })),
    put(variant('b', { order: 'Zz', text: 'short', piece: 'q' })),
  ])
  const order = (output: string, document = both) => runningOrder(blocksOf(document), variantsOf(document), output)
  expect([ids(order('evening')), ids(order('morning'))]).toEqual(['acb', 'ba'])
  expect(order('morning')[0]).toMatchObject({ text: 'short', piece: 'q', reader: '' })
  const changed = applyAll(storyType, both, [
    { type: 'set', id: 'a', key: 'text', value: 'for all' },
    { type: 'set', id: 'b', key: 'aside', value: true },
  ])
  expect(['evening', 'morning'].map((output) => ids(order(output, changed)))).toEqual(['ac', 'a'])
  expect(order('morning', changed)[0].text).toBe('for all')
  // two who begin one for the same block at once begin the same one: the second is told
  expect(exchange(storyType, [put(variant('a', { out: true }))], [put(variant('a', { text: 'x' }))])).toBeNull()
})

describe('what an output has otherwise', () => {
  const copy = (id: string, order: string): Block => ({
    id,
    kind: 'copy',
    order,
    aside: false,
    text: id,
    reader: '',
    pace: 170,
    piece: null,
  })
  const story = newStory({ slug: '' }, { id: 'long' }, [copy('a', 'a0'), copy('b', 'a1')])
  const two: StoryDocument = { ...story, records: { ...story.records, short: { ...outputsOf(story)[0], id: 'short', order: 'a1' } } }
  const order = (document: StoryDocument, output: string) => runningOrder(blocksOf(document), variantsOf(document), output)

  it('is told once, changed where it is known, and taken back', () => {
    const out = applyAll(storyType, two, inOutput(two, 'short', 'a', { out: true }))
    expect([order(out, 'long'), order(out, 'short')].map((blocks) => blocks.map(({ id }) => id))).toEqual([['a', 'b'], ['b']])
    expect(inOutput(out, 'short', 'a', { out: true })).toEqual([])
    const back = applyAll(storyType, out, inOutput(out, 'short', 'a', { out: undefined }))
    expect(order(back, 'short').map(({ id }) => id)).toEqual(['a', 'b'])
    expect(inOutput(two, 'short', 'a', { out: undefined })).toEqual([])
  })

  it('is another reading speed, gap or text in that output alone', () => {
    const changed = applyAll(storyType, two, inOutput(two, 'short', 'b', { pace: 180, gap: 4800, text: 'shorter' }))
    expect(order(changed, 'short')[1]).toMatchObject({ pace: 180, gap: 4800, text: 'shorter' })
    expect(order(changed, 'long')[1]).toEqual(two.records.b)
  })
})

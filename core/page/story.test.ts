import { expect, it } from 'vitest'
import { applyAll, applyAndInvert, exchange } from '../steps/document'
import { blocksOf, offcutsOf, spineOf, storyHead, storyType, type Block, type StoryDocument, type StoryStep } from './story'

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
const head = { id: 'story' as const, kind: 'story' as const, slug: 'The night ferry', airs: '', slot: 0, client: '', soc: '' }
const story: StoryDocument = {
  kind: 'story',
  records: { story: head, a: block('a', 'a0'), b: block('b', 'a2'), c: block('c', 'a1'), d: block('d', 'a3', true) },
}
const ids = (blocks: readonly Block[]) => blocks.map((one) => one.id).join('')

it('has a spine in order, and offcuts that are not in it', () => {
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

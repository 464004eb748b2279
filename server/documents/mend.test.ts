import { expect, it } from 'vitest'
import { faultsIn } from '../../contract/documents'
import type { StoryDocument } from '../../core/page/story'
import { mended } from './mend'

const id = '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a01'
const head = { id: 'story', kind: 'story', slug: 'The night ferry', airs: '', slot: 0, client: '', soc: '' }
const block = { id, kind: 'copy', order: 'a0', aside: false, text: 'Forty people', reader: '', pace: 170, piece: null }
const story = (records: Record<string, unknown>) => ({ kind: 'story', records }) as unknown as StoryDocument

it('keeps what validates, and takes out what does not', () => {
  const broken = story({
    story: { ...head, airs: '9999-99-99T99:99', constructor: 1 },
    [id]: block,
    bad: { ...block, id: 'bad', pace: 'fast' },
  })
  expect(faultsIn('story', broken).length).toBeGreaterThan(0)
  const whole = mended('story', broken)
  expect(faultsIn('story', whole)).toEqual([])
  expect(whole.records[id]).toEqual(block)
  expect(whole.records.story).toEqual(head)
})

it('gives a story without its head one', () => expect(faultsIn('story', mended('story', story({ [id]: block })))).toEqual([]))

it('finds nothing in what is whole', () => expect(faultsIn('story', story({ story: head, [id]: block }))).toEqual([]))

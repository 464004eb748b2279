import { expect, it } from 'vitest'
import { faultsIn } from '../../contract/documents'
import type { Hanger, Output, StoryDocument } from '../../core/page/story'
import { mended } from './mend'

const id = '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a01'
const head = { id: 'story', kind: 'story', slug: 'The night ferry' }
const output: Output = {
  id: '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a02',
  kind: 'output',
  name: '',
  order: 'a0',
  client: '',
  airs: '',
  slot: 0,
  loudness: null,
  unrecorded: 'out',
}
const block = { id, kind: 'copy', order: 'a0', aside: false, text: 'Forty people', reader: '', pace: 170, piece: null }
const story = (records: Record<string, unknown>) => ({ kind: 'story', records }) as unknown as StoryDocument

it('keeps what validates, and takes out what does not', () => {
  const broken = story({
    story: { ...head, constructor: 1 },
    [output.id]: output,
    late: { ...output, id: 'late', airs: '9999-99-99T99:99' },
    lost: { ...block, id: 'lost', kind: 'variant' },
    [id]: block,
    bad: { ...block, id: 'bad', pace: 'fast' },
  })
  expect(faultsIn('story', broken).length).toBeGreaterThan(0)
  const whole = mended('story', broken)
  expect(faultsIn('story', whole)).toEqual([])
  expect(whole.records[id]).toEqual(block)
  expect(Object.keys(whole.records).sort()).toEqual([id, output.id, 'story'].sort())
  expect(whole.records.story).toEqual(head)
})

it('gives a story without its head, or without an output, one', () => {
  expect(faultsIn('story', mended('story', story({ [id]: block })))).toEqual([])
  expect(faultsIn('story', story({ story: head, [id]: block }))).not.toEqual([])
})

it('takes out what belongs to something that is not there', () => {
  const hanger: Hanger = {
    id: '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a03',
    kind: 'hanger',
    lane: '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a04',
    aside: false,
    plays: { piece: id },
    start: { block: id, at: 'start', offset: 0 },
    end: null,
    gain: -12,
  }
  const broken = story({ story: head, [output.id]: output, [id]: block, [hanger.id]: hanger })
  expect(faultsIn('story', broken)).toEqual([`${hanger.id}: what it belongs to is missing`])
  expect(mended('story', broken).records).toEqual({ story: head, [output.id]: output, [id]: block })
})

it('finds nothing in what is whole', () => expect(faultsIn('story', story({ story: head, [output.id]: output, [id]: block }))).toEqual([]))

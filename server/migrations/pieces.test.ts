import { expect, it } from 'vitest'
import { asRecords, recordsOf } from './1765200000000-pieces'

const PIECE = '8f9b8a52-0000-4000-8000-000000000001'
const kept = (at: string, name?: string) => ({ at, spans: [{ tape: 'a', from: 0, to: 100, sound: 'tape' }], ...(name ? { name } : {}) })
const cut = { type: 'replace', from: 0, to: 10, insert: [], after: null }
const set = (key: string, value: unknown) => ({ type: 'set', key, value })
const ids = (list: 'offcuts' | 'versions', ...values: ReturnType<typeof kept>[]) => [...recordsOf(PIECE, list, values).keys()]

it('an act that set aside puts one record, and takes it away when it is undone', () => {
  const [first, second] = [kept('17:40'), kept('17:41')]
  const [, id] = ids('offcuts', first, second)
  const act = { steps: [cut, set('offcuts', [first, second])], inverse: [set('offcuts', [first]), cut] }
  expect(asRecords(PIECE, act)).toEqual({
    steps: [cut, { type: 'keep', step: { type: 'put', record: { ...second, id, kind: 'offcut' } } }],
    inverse: [{ type: 'keep', step: { type: 'drop', id } }, cut],
  })
})

it('a version that was renamed, or removed, is still the same one', () => {
  const [id] = ids('versions', kept('17:40', 'long'))
  const renamed = asRecords(PIECE, {
    steps: [set('versions', [kept('17:40', 'short')])],
    inverse: [set('versions', [kept('17:40', 'long')])],
  })
  expect(renamed.steps).toEqual([{ type: 'keep', step: { type: 'set', id, key: 'name', value: 'short' } }])
  expect(renamed.inverse).toEqual([{ type: 'keep', step: { type: 'set', id, key: 'name', value: 'long' } }])
  const removed = asRecords(PIECE, { steps: [set('versions', [])], inverse: [{ type: 'set', key: 'versions' }] })
  expect(removed).toEqual({ steps: [], inverse: [] })
})

it('two of one moment are told apart, and of two pieces too', () => {
  const two = ids('offcuts', kept('17:40'), kept('17:40'))
  expect(new Set(two).size).toBe(2)
  expect(two.every((id) => /^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-8[0-9a-f]{3}-[0-9a-f]{12}$/.test(id))).toBe(true)
  expect([...recordsOf('another', 'offcuts', [kept('17:40')]).keys()]).not.toEqual(two.slice(0, 1))
})

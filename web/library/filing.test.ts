import { describe, expect, it } from 'vitest'
import type { LibraryRow } from '../../contract/library'
import { RATE } from '../../core/time'
import { ANYTHING, narrowed, stateOf } from './filing'

const row = (fields: Partial<LibraryRow>): LibraryRow => ({
  id: 'a',
  name: 'Deckhand, on the quay',
  speaker: 'Piet Aldous',
  role: 'deckhand',
  day: '2026-11-23',
  tags: ['ferry', 'quay'],
  stories: [],
  sides: [{ name: '', channels: [0] }],
  state: 'ready',
  progress: 1,
  fileName: '261123_1432.WAV',
  frames: 200 * RATE,
  added: '2026-11-24T09:00:00.000Z',
  aside: false,
  deleted: null,
  hasWords: true,
  heard: false,
  marks: 0,
  uses: 0,
  usedIn: [],
  findings: 0,
  disk: 1,
  ...fields,
})
describe('a tape', () => {
  it('has come as far as the furthest thing done with it', () => {
    expect([{}, { heard: true }, { heard: true, marks: 2 }, { marks: 1, uses: 1 }].map((fields) => stateOf(row(fields)))).toEqual([
      'new',
      'heard',
      'logged',
      'used',
    ])
  })
})

it('a filter that asks for nothing leaves all', () => {
  expect([narrowed(ANYTHING), narrowed({ ...ANYTHING, tag: 'quay' })]).toEqual([false, true])
})

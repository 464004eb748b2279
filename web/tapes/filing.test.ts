import { describe, expect, it } from 'vitest'
import type { LibraryRow } from '../../contract/library'
import { RATE } from '../../core/time'
import { ANYTHING, matches, narrowed, occurring, stateOf } from './filing'

const row = (fields: Partial<LibraryRow>): LibraryRow => ({
  id: 'a', name: 'Deckhand, on the quay', speaker: 'Piet Aldous', role: 'deckhand', day: '2026-11-23', tags: ['ferry', 'quay'], stories: [], sides: [{ name: '', channels: [0] }],
  state: 'ready', progress: 1, fileName: '261123_1432.WAV', frames: 200 * RATE, added: '2026-11-24T09:00:00.000Z', aside: false, deleted: null, hasWords: true, heard: false, marks: 0, uses: 0, usedIn: [], findings: 0, disk: 1, ...fields,
})
const found = (fields: Partial<LibraryRow>, filter: Partial<typeof ANYTHING>, said: string[] = []) => matches(row(fields), { ...ANYTHING, ...filter }, new Set(said))

describe('tapes are found', () => {
  it('by any words in their names, speakers, tags and files, in any order', () => {
    for (const text of ['quay', 'QUAY deck', 'aldous', 'ferry piet', '261123', '']) expect(found({}, { text })).toBe(true)
    for (const text of ['council', 'quay council']) expect(found({}, { text })).toBe(false)
    expect(found({ sides: [{ name: 'Una Brack', channels: [1] }] }, { text: 'una' })).toBe(true)
  })
  it('by what was said on them', () => {
    expect(found({}, { text: 'nobody told us' }, ['a'])).toBe(true)
    expect(found({}, { text: 'nobody told us' }, ['b'])).toBe(false)
  })
  it('by state, tag, speaker, story', () => {
    expect(found({}, { state: 'new' })).toBe(true)
    expect(found({ heard: true }, { state: 'new' })).toBe(false)
    expect([found({}, { tag: 'quay' }), found({}, { tag: 'council' })]).toEqual([true, false])
    expect([found({}, { speaker: 'Piet Aldous' }), found({}, { speaker: 'Piet' })]).toEqual([true, false])
    expect([found({ stories: ['s'] }, { story: 's' }), found({ usedIn: ['s'] }, { story: 's' }), found({}, { story: 's' })]).toEqual([true, true, false])
  })
  it('by day, of the recording where it is known, and by length', () => {
    expect([found({}, { from: '2026-11-23', to: '2026-11-23' }), found({}, { from: '2026-11-24' }), found({ day: '' }, { from: '2026-11-24' })]).toEqual([true, false, true])
    expect([found({}, { shortest: 200 * RATE }), found({}, { longest: 199 * RATE }), found({}, { shortest: RATE, longest: 300 * RATE })]).toEqual([true, false, true])
  })
  it('by all of it together', () => {
    expect(found({ heard: true }, { text: 'quay', tag: 'ferry', state: 'heard' })).toBe(true)
    expect(found({ heard: true }, { text: 'quay', tag: 'ferry', state: 'logged' })).toBe(false)
  })
})

describe('a tape', () => {
  it('has come as far as the furthest thing done with it', () => {
    expect([{}, { heard: true }, { heard: true, marks: 2 }, { marks: 1, uses: 1 }].map((fields) => stateOf(row(fields)))).toEqual(['new', 'heard', 'logged', 'used'])
  })
})

it('what occurs can be chosen from, once each and in order', () => {
  expect(occurring([row({ tags: ['quay', 'ferry'] }), row({ tags: ['council', 'quay'] })], ({ tags }) => tags)).toEqual(['council', 'ferry', 'quay'])
  expect([narrowed(ANYTHING), narrowed({ ...ANYTHING, tag: 'quay' })]).toEqual([false, true])
})

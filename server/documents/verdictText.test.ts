import { expect, it } from 'vitest'
import type { ToldEntry, Verdict } from '../../contract/documents'
import { verdictText } from './verdictText'

const entry = (revision: number): ToldEntry => ({
  revision,
  id: `id ${revision}`,
  author: 'me',
  label: 'take out “3 words”',
  steps: [{ type: 'set', id: 'story', key: 'slug', value: 'a "b"' }],
})

it.each<Verdict>([
  { taken: [3, 4], refused: null, since: [entry(1), entry(2)] },
  { taken: [], refused: 'Somebody was first.', since: [] },
])('a verdict reads as it is, told once or twice', (verdict) => {
  expect(JSON.parse(verdictText(verdict))).toEqual(verdict)
  expect(JSON.parse(verdictText(verdict))).toEqual(verdict)
})

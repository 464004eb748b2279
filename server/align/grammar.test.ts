import { expect, it } from 'vitest'
import { grammarOf } from './grammar'

it('a text becomes a grammar in which each spoken word tells whose it is', () => {
  const ways: Record<string, string[]> = { the: ['DH AH', 'DH IY'], boat: ['B OW T'] }
  const { fsg, dict, owner } = grammarOf(['The', '21', 'boat'], (word) => ways[word] ?? [])
  expect(owner).toEqual([0, 1, 1, 2])
  expect(dict.split('\n').slice(0, 2)).toEqual(['w0 DH AH', 'w0(2) DH IY'])
  expect(fsg).toContain('NUM_STATES 5')
  expect(fsg).not.toMatch(/TRANSITION 0 1 1e/)
  expect(grammarOf(['The'], () => [], { loose: true }).fsg).toMatch(/TRANSITION 0 1 1e-8\n/)
})

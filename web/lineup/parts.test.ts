import { describe, expect, it } from 'vitest'
import type { Fit } from '../../contract/lineups'
import { clearer, inWords, proposed } from './parts'

const fit = (tape: string, more: Partial<Fit> = {}): Fit => ({
  tape,
  belongs: true,
  reason: '',
  offset: 0,
  drift: 0,
  compared: 40,
  agree: 30,
  spread: 0.0004,
  clarity: 20,
  mixed: false,
  ...more,
})

describe('what was found of a line-up', () => {
  it('is said in words, with how sure it is', () => {
    expect(inWords(fit('a', { offset: 48_000 * 12.3, drift: -41e-6 }), false)).toBe(
      'It starts 0:12.3 later, and its clock ran 41 ppm fast. Sure: 30 of 40 places agree, to 0.4 ms.',
    )
    expect(inWords(fit('a', { offset: -48_000, agree: 13 }), false)).toBe(
      'It starts 0:01.0 earlier, and its clock kept time. Not very sure: listen: 13 of 40 places agree, to 0.4 ms.',
    )
    expect(inWords(fit('a', { belongs: false, reason: 'Too short.' }), false)).toBe('Not recorded together with the first. Too short.')
  })

  it('proposes the clearest of several microphones of one speaker', () => {
    const fits = [fit('a', { clarity: 20 }), fit('b', { clarity: 30 }), fit('c'), fit('d', { belongs: false })]
    const speakers = new Map([
      ['a', 'Tamsin Roe'],
      ['b', 'Tamsin Roe'],
      ['c', ''],
      ['d', ''],
    ])
    expect(proposed(fits, speakers).map(({ used }) => used)).toEqual([false, true, true, false])
    expect(clearer(fits[0], fits, speakers)?.tape).toBe('b')
    expect(clearer(fits[1], fits, speakers)).toBeUndefined()
  })
})

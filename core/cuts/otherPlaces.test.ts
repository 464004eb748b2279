import { expect, it } from 'vitest'
import type { Span } from '../edits/editList'
import type { Word } from '../tape/words'
import { otherPlaces } from './otherPlaces'

const WORDS = 'so the harbour office the harbour office sold it'
  .split(' ')
  .map((text, i): Word => ({ text: i === 5 ? 'Harbour' : text, from: i * 1000, to: i * 1000 + 900 }))
const span = (from: number, to: number, more: Partial<Span> = {}): Span => ({ tape: 'a', from, to, sound: 'tape', ...more })

it('of what is said twice, either take may be left at any word', () => {
  // the second take goes
  const cut = { left: span(0, 3950), right: span(6950, 9000) }
  expect(otherPlaces(cut, WORDS)).toEqual({ earlier: { left: 3000, right: 6000 }, later: null })
  const between = { left: span(0, 3000), right: span(6000, 9000) }
  expect(otherPlaces(between, WORDS)).toEqual({ earlier: { left: 2000, right: 5000 }, later: { left: 3900, right: 6900 } })
  // from the first word of the repetition on there is nothing earlier
  expect(otherPlaces({ left: span(0, 950), right: span(3950, 9000) }, WORDS)).toEqual({ earlier: null, later: { left: 1900, right: 4900 } })
})

it('there is none where other words were taken out, nor beside room tone, a patch or another tape', () => {
  expect(otherPlaces({ left: span(0, 950), right: span(2950, 9000) }, WORDS)).toEqual({ earlier: null, later: null })
  const patch = { tape: 'a', from: 0, to: 900, laid: { from: 6000, to: 6900 } }
  for (const right of [span(6000, 9000, { sound: 'tone' }), span(6000, 9000, { tape: 'b' }), span(6000, 9000, { patch })])
    expect(otherPlaces({ left: span(0, 3000), right }, WORDS)).toEqual({ earlier: null, later: null })
})

import { describe, expect, it } from 'vitest'
import { paragraphs } from './paragraphs'

describe('a script as paragraphs', () => {
  it('goes by empty lines, and by lines where there are none', () => {
    expect(paragraphs('The night boat\nmay be the last.\r\n\r\n \nNobody asked us.\n')).toEqual([
      'The night boat may be the last.',
      'Nobody asked us.',
    ])
    expect(paragraphs('\uFEFFThe night boat.\nNobody asked us.')).toEqual(['The night boat.', 'Nobody asked us.'])
    expect(paragraphs(' \n ')).toEqual([])
  })
})

import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { paceFrom, paceOf, readingTime, wordShares } from './reading'
import type { Block } from './story'
import { pacesOn } from './timing'

const seconds = (text: string, pace = 170) => readingTime(text, pace) / RATE

describe('reading', () => {
  it.each([
    ['£1.2m', 'one point two million pounds'],
    ['in 2019', 'in twenty nineteen'],
    ['at 3.30pm', 'at three thirty p. m.'],
    ['the B.F.U. meets', 'the b. f. u. meets'],
    ['bracklecouncil.org/ferry', 'bracklecouncil dot org slash ferry'],
    ['50%', 'fifty percent'],
  ])('takes as long for %s as for what is said', (written, said) => expect(readingTime(written, 170)).toBe(readingTime(said, 170)))

  it('takes longer for long words, and for what has pauses', () => {
    expect(seconds('statistical responsibilities')).toBeGreaterThan(3 * seconds('it is'))
    expect(seconds('The rain came in, and by noon, the road was gone.')).toBeCloseTo(
      seconds('The rain came in and by noon the road was gone.') + 2 * 0.315 * (196 / 170),
      2,
    )
    expect(seconds('Mr. Hollis keeps the shop')).toBe(seconds('Mister Hollis keeps the shop'))
  })

  it('is as fast as its pace; nothing and notes take no time', () => {
    expect(seconds('Nobody told us.', 120)).toBeCloseTo(seconds('Nobody told us.', 240) * 2, 3)
    expect([seconds(''), seconds(' — … '), seconds('[door opens]')]).toEqual([0, 0, 0])
    expect(seconds('Nobody [softly] told us.')).toBe(seconds('Nobody told us.'))
    expect(paceOf('', 0)).toBeNaN()
    expect(paceOf('Nobody told us.', readingTime('Nobody told us.', 143))).toBeCloseTo(143, 1)
  })

  it('knows where in it each word begins', () => {
    expect(wordShares('It is, — in 2019, over.')).toHaveLength(5)
    const [first, ...others] = wordShares('A responsibility was theirs')
    expect(first).toBe(0)
    expect(others[1] - others[0]).toBeGreaterThan(3 * others[0])
  })
})

describe('a reader’s pace', () => {
  const line = 'The nurses went home from the quay, and the council says nothing of it yet.'

  it('is learnt from takes, and not from what is too short or says something else', () => {
    expect(paceFrom([{ text: line, time: readingTime(line, 150) }])).toBeCloseTo(150, 1)
    expect(paceFrom([{ text: 'Yes.', time: readingTime('Yes.', 150) }])).toBeNull()
    expect(
      paceFrom([
        { text: line, time: readingTime(line, 150) },
        { text: line, time: 60 * RATE },
      ]),
    ).toBeCloseTo(150, 1)
    expect(paceFrom([])).toBeNull()
  })

  it('counts for what they have not recorded yet, where none is set; the host reads as most do', () => {
    const block = (id: string, kind: Block['kind'], fields: Partial<Block> = {}): Block => ({
      id,
      kind,
      order: id,
      aside: false,
      text: line,
      reader: 'Tamsin Roe',
      piece: null,
      ...fields,
    })
    const blocks = [block('read', 'copy', { piece: 'take' }), block('own', 'copy'), block('set', 'copy', { pace: 200 })]
    const paces = pacesOn([...blocks, block('host', 'intro')], () => ({ length: readingTime(line, 140) + 4800, head: 2400, tail: 2400 }))
    expect(paces(blocks[1])).toBeCloseTo(140, 1)
    expect(paces(blocks[2])).toBe(200)
    expect([paces(block('other', 'copy', { reader: 'Piet' })), paces(block('host', 'intro'))]).toEqual([170, 170])
  })
})

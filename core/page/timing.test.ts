import { describe, expect, it } from 'vitest'
import { RATE, toFrames } from '../time'
import type { Actuality } from '../edits/actuality'
import type { TapeFacts } from '../render/plan'
import { pagePlan } from './plan'
import { paceOf } from './reading'
import type { Block } from './story'
import { figures, inFile, lacks, onAir } from './timing'

const s = RATE
const block = (id: string, kind: Block['kind'], fields: Partial<Block> = {}): Block => ({
  id,
  kind,
  order: id,
  aside: false,
  text: '',
  reader: '',
  // three words a second
  pace: paceOf(fields.text ?? '', ((fields.text ?? '').split(' ').length * s) / 3),
  piece: null,
  ...fields,
})
const words = (count: number) => Array(count).fill('word').join(' ')
const pieces: Record<string, { length: number; head: number; tail: number }> = {
  one: { length: 10 * s, head: 1 * s, tail: 0.5 * s },
  two: { length: 6 * s, head: 0.5 * s, tail: 1 * s },
}
const lengthOf = (id: string) => pieces[id]
const intro = block('a', 'intro', { text: words(30) })
const act1 = block('b', 'actuality', { piece: 'one' })
const copy = block('c', 'copy', { text: words(15) })
const act2 = block('d', 'actuality', { piece: 'two' })

describe('page timing', () => {
  it('counts words; handles lie over neighbours, and take time only where nothing lies beside them', () => {
    const air = onAir([act1, act2], lengthOf)
    expect(air.placed.map((row) => [row.at / s, row.words / s])).toEqual([
      [1, 8.5],
      [9.5, 4.5],
    ])
    expect(air.placed[1].from / s).toBe(9)
    expect(air.length / s).toBe(1 + 8.5 + 4.5 + 1)
  })

  it('gives live and unrecorded copy their time on air, and the file none of it', () => {
    const spine = [intro, act1, copy, act2]
    // the handles of the actualities lie over the copy, as they will once it is recorded
    expect(onAir(spine, lengthOf).length / s).toBe(10 + 1 + 8.5 + 5 + 4.5 + 1)
    expect(inFile(spine, lengthOf, 'out').length / s).toBe(15)
    const toned = inFile(spine, lengthOf, 'tone')
    expect(toned.length / s).toBe(1 + 8.5 + 5 + 4.5 + 1)
    expect(toned.placed.map((row) => row.sound)).toEqual(['piece', 'room', 'piece'])
    expect(figures(spine, 30 * s, lengthOf, 'out')).toEqual({ trt: 30 * s, slot: 30 * s, over: 0, file: 15 * s })
  })

  it('stays as long as it was when a line is recorded at the same length, wherever it stands', () => {
    const handle = toFrames(0.3)
    pieces.track = { length: 5 * s + 2 * handle, head: handle, tail: handle }
    const voiced = { ...copy, piece: 'track' }
    for (const order of [[0, 1, 2, 3], [2, 0, 1, 3], [0, 1, 3, 2], [1, 2, 0, 3], [2]]) {
      const lines = order.map((at) => [intro, act1, copy, act2][at])
      const recorded = lines.map((one) => (one === copy ? voiced : one))
      expect(onAir(recorded, lengthOf).length).toBe(onAir(lines, lengthOf).length)
      expect(inFile(recorded, lengthOf, 'tone').length).toBe(inFile(lines, lengthOf, 'tone').length)
    }
  })

  it('never begins before the start', () => {
    pieces.long = { length: 8 * s, head: 5 * s, tail: 0 }
    pieces.tiny = { length: 1 * s, head: 0, tail: 0 }
    const air = onAir([block('a', 'actuality', { piece: 'tiny' }), block('b', 'actuality', { piece: 'long' })], lengthOf)
    expect(air.placed[1].from).toBe(0)
    expect(air.length / s).toBe(8)
  })

  it('takes a voice track’s length over the reading speed', () => {
    const voiced = block('v', 'copy', { text: words(100), piece: 'one' })
    expect(onAir([voiced], lengthOf).placed[0].words / s).toBe(8.5)
  })

  it('says what is lacking', () => {
    expect(lacks([], 0, lengthOf)).toEqual(['everything'])
    expect(lacks([act1, copy, block('x', 'copy', { text: 'hm' }), block('y', 'actuality')], 0, lengthOf)).toEqual([
      'a host intro',
      '2 voice tracks',
      'an actuality',
      'a slot',
    ])
    expect(lacks([intro, act1], s, lengthOf)).toEqual([])
  })

  it('becomes a plan as long as its layout, with a room under every frame of the file', () => {
    const spans = [{ tape: 't', from: 0, to: 10 * s, sound: 'tape' as const }]
    const piece = (id: string): Actuality => ({
      kind: 'actuality',
      slug: id,
      speaker: '',
      role: '',
      story: null,
      spans: [{ ...spans[0], to: pieces[id].length }],
      head: pieces[id].head,
      tail: pieces[id].tail,
    })
    const facts = (): TapeFacts => ({
      id: 't',
      frames: 20 * s,
      sides: [{ name: '', channels: [0] }],
      tone: { sound: 't', quiet: [{ from: 0, to: s }] },
    })
    const layout = inFile([act1, copy, act2], lengthOf, 'tone')
    const plan = pagePlan(layout, piece, facts)
    expect(plan.length).toBe(layout.length)
    for (let at = 0; at < plan.length; at += s / 10)
      expect(plan.strips.some((strip) => strip.at <= at && strip.at + strip.length > at)).toBe(true)
    expect(Math.max(...plan.strips.map((strip) => strip.at + strip.length))).toBe(plan.length)
  })
})

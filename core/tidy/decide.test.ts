import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { actualityType, type Actuality } from '../edits/actuality'
import { takeOut } from '../edits/acts'
import { drawnAct, drawSteps, piece as anyPiece } from '../edits/arbitrary'
import { cuts, listLength } from '../edits/editList'
import { nicks } from '../edits/gone'
import { applyAll, applyAndInvert, exchange } from '../steps/document'
import type { Suggestion } from '../tape/suggestion'
import { levelInForce, sidesInForce, suggestionsOn } from '../tape/inForce'
import { strikesOf, tapeType, type TapeDocument } from '../tape/tape'
import { applyIn, applyOn, dismissIn, insteadIn, placesIn, reopenIn, suggestionsOf } from './decide'

const found = (fields: Partial<Suggestion> = {}): Suggestion => ({
  id: 's1',
  kind: 'suggestion',
  at: '2026-11-25T17:40:00Z',
  tape: 'a',
  from: 2000,
  to: 3000,
  side: null,
  finder: 'fillers',
  settings: { longest: 0.6 },
  sure: 0.9,
  proposes: { do: 'takeOut', goes: { from: 2000, to: 3000 }, room: 0 },
  decision: null,
  ...fields,
})
const with_ = (...all: Suggestion[]): Actuality => ({
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  head: 0,
  tail: 0,
  spans: [{ tape: 'a', from: 0, to: 10_000, sound: 'tape' }],
  kept: Object.fromEntries(all.map((one) => [one.id, one])),
})
const deciding = (act: string) => ({ by: 'me', at: '2026-11-25T17:41:00Z', act })
const apply = (piece: Actuality, suggestion: Suggestion, act = 'act') =>
  applyAndInvert(actualityType, piece, applyIn(piece, suggestion, deciding(act)))

describe('a suggestion in a piece', () => {
  it('is applied with its decision in one act, and the join knows who found it', () => {
    const start = with_(found())
    const { document, inverse } = apply(start, found(), 'act 7')
    expect(suggestionsOf(document)[0].decision).toEqual({ is: 'applied', by: 'me', at: '2026-11-25T17:41:00Z', act: 'act 7' })
    expect(cuts(document.spans).map(({ at, join }) => [at, join.finder])).toEqual([[2000, 'fillers']])
    expect(nicks(document)).toHaveLength(1)
    // undone, it is open again
    expect(applyAll(actualityType, document, inverse)).toEqual(start)
  })

  it('lies where its frames are heard, after any edit', () => {
    const one = found()
    const { spans } = with_()
    expect(placesIn(spans, one)).toEqual([{ from: 2000, to: 3000 }])
    const earlier = applyAll(actualityType, with_(one), takeOut(with_(one), { from: 500, to: 1500 }))
    expect(placesIn(earlier.spans, one)).toEqual([{ from: 1000, to: 2000 }])
    const half = applyAll(actualityType, with_(one), takeOut(with_(one), { from: 1000, to: 2500 }))
    expect(placesIn(half.spans, one)).toEqual([{ from: 1000, to: 1500 }])
    const gone = applyAll(actualityType, with_(one), takeOut(with_(one), { from: 1500, to: 3500 }))
    expect(placesIn(gone.spans, one)).toEqual([])
    expect(() => applyIn(gone, one, deciding('act'))).toThrow('nothing of it is left')
    // a passage that stands twice holds it twice, and both go
    const twice: Actuality = {
      ...with_(one),
      spans: [...spans, { ...spans[0], join: { fade: 0, shape: 'gain', origin: 'hand', heard: false } }],
    }
    expect(placesIn(twice.spans, one)).toHaveLength(2)
    expect(placesIn(apply(twice, one).document.spans, one)).toEqual([])
  })

  it('does something else instead, and is undone to what it did before', () => {
    const closed = apply(with_(found()), found()).document
    const [applied] = suggestionsOf(closed)
    const hold = insteadIn(closed, applied, { do: 'hold', goes: { from: 2000, to: 3000 } }, { ...deciding('act 8'), changed: true })
    const { document, inverse } = applyAndInvert(actualityType, closed, hold)
    expect(document.spans.map(({ sound }) => sound)).toEqual(['tape', 'tone', 'tape'])
    expect(listLength(document.spans)).toBe(10_000)
    expect(suggestionsOf(document)[0]).toMatchObject({ proposes: { do: 'hold' }, decision: { is: 'changed', act: 'act 8' } })
    expect(applyAll(actualityType, document, inverse)).toEqual(closed)
  })

  it('does what it proposes', () => {
    const held = apply(with_(found()), found({ proposes: { do: 'hold', goes: { from: 2000, to: 3000 } } })).document
    expect(held.spans.map(({ sound }) => sound)).toEqual(['tape', 'tone', 'tape'])
    const points = [
      { at: 1900, dB: 0 },
      { at: 2400, dB: -9 },
      { at: 3100, dB: 0 },
    ]
    const level = apply(with_(found()), found({ from: 1900, to: 3100, proposes: { do: 'level', points } })).document
    expect(level.spans.map((span) => span.level)).toEqual([points])
    const muted = apply(with_(found()), found({ side: 1, proposes: { do: 'mute' } })).document
    expect(muted.spans.map(({ mutes }) => mutes)).toEqual([undefined, [null, true], undefined])
    expect(apply(with_(found()), found({ proposes: { do: 'mute' } })).document.spans[1].mute).toBe(true)
    const room = apply(with_(found()), found({ proposes: { do: 'takeOut', goes: { from: 2000, to: 3000 }, room: 300 } })).document
    expect(room.spans.map(({ sound, from, to }) => [sound, to - from])).toEqual([
      ['tape', 2000],
      ['room', 300],
      ['tape', 7000],
    ])
  })

  it('is decided on by one: of two at once the second is told, and others’ stay open', () => {
    const [one, two] = [
      found(),
      found({ id: 's2', from: 6000, to: 7000, proposes: { do: 'takeOut', goes: { from: 6000, to: 7000 }, room: 0 } }),
    ]
    const start = with_(one, two)
    expect(exchange(actualityType, [dismissIn(one, deciding(''))], applyIn(start, one, deciding('b')))).toBeNull()
    expect(exchange(actualityType, applyIn(start, one, deciding('a')), applyIn(start, two, deciding('b')))).not.toBeNull()
    const dismissed = applyAll(actualityType, start, [dismissIn(one, deciding(''))])
    expect(suggestionsOf(dismissed).map(({ decision }) => decision?.is)).toEqual(['dismissed', undefined])
    expect(applyAll(actualityType, dismissed, [reopenIn(one)])).toEqual(start)
  })

  it('is undone to the bit, whatever else was done before and meanwhile', () =>
    fc.assert(
      fc.property(
        anyPiece,
        fc.array(drawnAct, { maxLength: 5 }),
        fc.nat(20_000),
        fc.integer({ min: 1, max: 4000 }),
        (start, acts, from, length) => {
          const one = found({
            tape: start.spans[0].tape,
            from,
            to: from + length,
            proposes: { do: 'takeOut', goes: { from, to: from + length }, room: 0 },
          })
          let document = applyAll(actualityType, start, [{ type: 'keep', step: { type: 'put', record: one } }])
          for (const act of acts) {
            const next = applyAll(actualityType, document, drawSteps(document, act))
            if (!actualityType.fault!(next)) document = next
          }
          if (!placesIn(document.spans, one).length) return
          const steps = applyIn(document, one, deciding('act'))
          if (actualityType.fault!(applyAll(actualityType, document, steps))) return
          const done = applyAndInvert(actualityType, document, steps)
          expect(placesIn(done.document.spans, one)).toEqual([])
          expect(applyAll(actualityType, done.document, done.inverse)).toEqual(document)
        },
      ),
      { numRuns: 300 },
    ))
})

describe('a suggestion on a tape', () => {
  const tape = (...all: Suggestion[]): TapeDocument => ({
    kind: 'tape',
    records: {
      tape: {
        id: 'tape',
        kind: 'tape',
        name: '',
        speaker: '',
        role: '',
        day: '',
        tags: [],
        stories: [],
        sides: [
          { name: 'Piet', channels: [0] },
          { name: 'Tamsin', channels: [1] },
        ],
      },
      ...Object.fromEntries(all.map((one) => [one.id, one])),
    },
  })
  const done = (one: Suggestion) => applyAndInvert(tapeType, tape(one), applyOn(one, deciding('act'), 'new'))

  it('becomes a strike, a level or a mute of its side, and is undone with it', () => {
    const struck = done(found())
    expect(strikesOf(struck.document)).toEqual([{ id: 'new', kind: 'strike', from: 2000, to: 3000 }])
    expect(suggestionsOn(struck.document)[0].decision?.act).toBe('act')
    expect(applyAll(tapeType, struck.document, struck.inverse)).toEqual(tape(found()))
    const level = done(found({ proposes: { do: 'level', points: [{ at: 2500, dB: -6 }] } })).document
    expect(levelInForce(level)).toEqual([{ at: 2500, dB: -6 }])
    expect(sidesInForce(done(found({ side: 1, proposes: { do: 'mute' } })).document)[1].hush).toEqual([{ from: 2000, to: 3000 }])
    const repaired = sidesInForce(done(found({ side: 0, proposes: { do: 'repair', how: 'bridge' } })).document)
    expect(repaired.map(({ repairs }) => repairs)).toEqual([[{ from: 2000, to: 3000, how: 'bridge' }], undefined])
    const both = sidesInForce(done(found({ proposes: { do: 'mute' } })).document)
    expect(both.map(({ hush }) => hush)).toEqual([[{ from: 2000, to: 3000 }], [{ from: 2000, to: 3000 }]])
  })
})

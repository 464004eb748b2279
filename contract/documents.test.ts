import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ValidationError } from 'yup'
import { drawnAct, drawSteps, piece } from '../core/edits/arbitrary'
import { actualityType } from '../core/edits/actuality'
import { applyAll, applyAndInvert } from '../core/steps/document'
import { checkedBody, checkedSteps, submissionSchema } from './documents'

const tape = '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a01'
const span = { tape, from: 0, to: 100, sound: 'tape' }
const join = { fade: 384, shape: 'power', origin: 'hand', heard: false }
const refused = (kind: 'actuality' | 'tape' | 'story', step: unknown) => expect(() => checkedSteps(kind, [step])).toThrow(ValidationError)

describe('steps on a piece', () => {
  it.each([
    { type: 'replace', from: 0, to: 10, insert: [span, { ...span, join }], after: join },
    { type: 'replace', from: 0, to: 0, insert: [{ ...span, level: [{ at: 5, dB: -9 }] }], after: null },
    { type: 'join', at: 10, join },
    { type: 'set', key: 'slug', value: 'Nobody told us' },
    { type: 'set', key: 'story', value: null },
    {
      type: 'replace',
      from: 0,
      to: 10,
      insert: [
        { ...span, mute: true, slip: [0, -480], patch: { tape, from: 0, to: 100, laid: { from: 0, to: 100 }, own: true, held: true } },
      ],
      after: null,
    },
    { type: 'set', key: 'gain', value: -3.5 },
    { type: 'set', key: 'fadeIn', value: { length: 480, shape: 'power' } },
    { type: 'set', key: 'fadeOut' },
    { type: 'keep', step: { type: 'put', record: { id: tape, kind: 'offcut', at: '2026-11-25T17:40:00Z', spans: [span] } } },
    { type: 'keep', step: { type: 'set', id: tape, key: 'name', value: 'long' } },
    { type: 'keep', step: { type: 'drop', id: tape } },
  ])('pass where they make sense: %j', (step) => expect(checkedSteps('actuality', [step])).toEqual([step]))

  it.each([
    { type: 'replace', from: 0.5, to: 10, insert: [], after: null },
    { type: 'replace', from: 0, to: 10, insert: [] },
    { type: 'replace', from: 0, to: 10, insert: [{ ...span, from: 200 }], after: null },
    { type: 'replace', from: 0, to: 10, insert: [{ ...span, from: '0' }], after: null },
    { type: 'replace', from: 0, to: 10, insert: [{ ...span, level: [{ at: 5, dB: 99 }] }], after: null },
    { type: 'join', at: 10, join: { ...join, fade: -1 } },
    { type: 'replace', from: 0, to: 10, insert: [{ ...span, mute: false }], after: null },
    { type: 'replace', from: 0, to: 10, insert: [{ ...span, slip: [1e9] }], after: null },
    { type: 'set', key: 'gain', value: 61 },
    { type: 'set', key: 'fadeIn', value: { length: 480 } },
    { type: 'keep', step: { type: 'put', record: { id: tape, kind: 'offcut', at: 'now', spans: [] } } },
    { type: 'keep', step: { type: 'put', record: { id: tape, kind: 'mark', at: 'now', spans: [span] } } },
    { type: 'join', at: 10, join: { ...join, more: true } },
    { type: 'set', key: 'kind', value: 'tape' },
    { type: 'set', key: 'constructor', value: 1 },
    { type: 'set', key: 'head', value: NaN },
    null,
    'replace',
  ])('are refused where they do not: %j', (step) => refused('actuality', step))
})

it('whatever is done to a piece, and its undoing, crosses the wire', () =>
  fc.assert(
    fc.property(piece, drawnAct, (document, drawn) => {
      const steps = drawSteps(document, drawn)
      fc.pre(applyAll(actualityType, document, steps).spans.length > 0)
      const { inverse } = applyAndInvert(actualityType, document, steps)
      // tapes are known by longer ids here; what is undefined does not cross
      const sent = (list: unknown) =>
        JSON.parse(
          JSON.stringify(list)
            .replaceAll('"tape":"a"', `"tape":"${tape}"`)
            .replaceAll('"tape":"b"', `"tape":"${tape}"`)
            .replaceAll('"a":[', `"${tape}":[`)
            .replaceAll('"b":[', `"${tape.replace('5e', '6e')}":[`),
        ) as unknown
      expect(checkedSteps('actuality', sent(steps))).toHaveLength(steps.length)
      expect(checkedSteps('actuality', sent(inverse))).toHaveLength(inverse.length)
    }),
    { numRuns: 300 },
  ))

describe('steps on records', () => {
  const strike = { id: tape, kind: 'strike', from: 0, to: 10 }
  const level = { id: tape, kind: 'level', points: [{ at: 10, dB: -3 }] }
  it('pass where they make sense', async () => {
    for (const step of [
      { type: 'put', record: strike },
      { type: 'put', record: level },
      { type: 'set', id: tape, key: 'points', value: [] },
      { type: 'drop', id: tape },
      { type: 'set', id: 'tape', key: 'name', value: 'Quay' },
    ])
      expect(checkedSteps('tape', [step])).toEqual([step])
    const block = { id: tape, kind: 'copy', order: 'a0', aside: false, text: '', reader: '', pace: 170, piece: null }
    expect(
      checkedSteps('story', [
        { type: 'put', record: block },
        { type: 'set', id: tape, key: 'pace', value: 160 },
      ]),
    ).toHaveLength(2)
  })
  it.each([
    { type: 'put', record: { ...strike, kind: 'note' } },
    { type: 'put', record: { ...strike, extra: 1 } },
    { type: 'put', record: { ...level, points: [{ at: 1.5, dB: 0 }] } },
    { type: 'put' },
    { type: 'set', id: 'tape', key: 'id', value: 'x' },
    { type: 'set', id: 'tape', key: 'toString', value: 'x' },
    { type: 'drop', id: '../x' },
  ])('are refused where they do not: %j', (step) => refused('tape', step))
  it('keep air times readable', () => refused('story', { type: 'set', id: 'story', key: 'airs', value: 'at teatime' }))
})

describe('new documents', () => {
  it('begin whole, and tapes not at all', async () => {
    const piece = { kind: 'actuality', slug: '', speaker: '', role: '', story: null, spans: [span], head: 0, tail: 0 }
    expect(await checkedBody(piece)).toEqual(piece)
    await expect(checkedBody({ ...piece, spans: [] })).rejects.toThrow(ValidationError)
    await expect(checkedBody({ kind: 'tape', records: {} })).rejects.toThrow(ValidationError)
    await expect(checkedBody(undefined)).rejects.toThrow(ValidationError)
  })
  it('take acts with an id, an author and steps', async () => {
    const entry = { id: tape, author: tape, label: 'x', steps: [] }
    expect(await submissionSchema.validate({ base: 3, entries: [entry] }, { strict: true })).toEqual({ base: 3, entries: [entry] })
    await expect(submissionSchema.validate({ base: 3, entries: [] }, { strict: true })).rejects.toThrow(ValidationError)
    await expect(submissionSchema.validate({ base: -1, entries: [entry] }, { strict: true })).rejects.toThrow(ValidationError)
    await expect(submissionSchema.validate({ base: 0, entries: [{ ...entry, id: 'x' }] }, { strict: true })).rejects.toThrow(
      ValidationError,
    )
  })
})

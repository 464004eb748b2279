import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyAll, applyAndInvert, exchange } from '../steps/document'
import { actualityType, clipLength, mapPosition, wordsLength, type Actuality, type ActualityStep } from './actuality'
import { ACT_NAMES, drawnAct, drawSteps, editList, piece, shareOf, type DrawnAct } from './arbitrary'
import { listLength, normal, plainJoin, slice, splice, toTape } from './editList'

const act = (document: Actuality, drawn: DrawnAct) => applyAndInvert(actualityType, document, drawSteps(document, drawn))

/** Whether anything of the piece is left after an act; one that leaves nothing is refused. */
const stays = (document: Actuality, drawn: DrawnAct) => applyAll(actualityType, document, drawSteps(document, drawn)).spans.length > 0

describe('edit list', () => {
  it('loses and doubles no frame when split and joined again', () =>
    fc.assert(
      fc.property(editList, shareOf, (list, share) => {
        const at = Math.floor(listLength(list) * share)
        expect(listLength(slice(list, 0, at)) + listLength(slice(list, at, Infinity))).toBe(listLength(list))
        expect(normal([...slice(list, 0, at), ...slice(list, at, Infinity)])).toEqual(list)
      }),
    ))
  it('keeps a split that was meant', () => {
    const list = [{ tape: 'a', from: 0, to: 100, sound: 'tape' as const }]
    const split = splice(list, 40, 40, [], plainJoin())
    expect(split).toHaveLength(2)
    expect(splice(split, 40, 40, [], null)).toEqual(list)
  })
  it('never leaves a cut without a join', () =>
    fc.assert(
      fc.property(editList, (list) => {
        const bare = list.map(({ join: _, ...span }) => span)
        for (const [i, span] of normal(bare).entries()) expect(Boolean(span.join)).toBe(i > 0)
      }),
    ))
})

describe('steps on a piece', () => {
  it('give back the piece when inverted', () =>
    fc.assert(
      fc.property(piece, drawnAct, (before, drawn) => {
        fc.pre(stays(before, drawn))
        const { document, inverse } = act(before, drawn)
        expect(applyAll(actualityType, document, inverse)).toEqual(before)
      }),
      { numRuns: 500 },
    ))

  it('lead back to the beginning when a whole history is undone, of every kind of act', () => {
    const acted = new Map<string, number>(ACT_NAMES.map((name) => [name, 0]))
    fc.assert(
      fc.property(piece, fc.array(drawnAct, { minLength: 20, maxLength: 40 }), (start, history) => {
        let document = start
        const undo: ReturnType<typeof act>['inverse'][] = []
        for (const drawn of history) {
          if (!stays(document, drawn)) continue
          const done = act(document, drawn)
          if (done.inverse.length) acted.set(drawn[0], acted.get(drawn[0])! + 1)
          document = done.document
          expect(normal(document.spans)).toEqual(document.spans)
          // nothing that is heard lies before its tape
          expect(document.spans.every(({ from }) => from >= 0)).toBe(true)
          undo.unshift(done.inverse)
        }
        for (const inverse of undo) document = applyAll(actualityType, document, inverse)
        expect(document).toEqual(start)
      }),
      { numRuns: 600 },
    )
    expect([...acted].filter(([, times]) => times < 50)).toEqual([])
  })

  it('end equal on two sides that exchange them, in every kind of act, and mostly at places that do not touch', () => {
    const acted = new Map<string, number>(ACT_NAMES.map((name) => [name, 0]))
    let met = 0
    fc.assert(
      fc.property(piece, drawnAct, drawnAct, (start, a, b) => {
        const mine = drawSteps(start, a)
        const theirs = drawSteps(start, b)
        if (mine.length) acted.set(a[0], acted.get(a[0])! + 1)
        if (theirs.length) acted.set(b[0], acted.get(b[0])! + 1)
        const swapped = exchange(actualityType, mine, theirs)
        const back = exchange(actualityType, theirs, mine)
        expect(Boolean(swapped)).toBe(Boolean(back))
        if (!swapped) return
        if (mine.length && theirs.length && a[1] !== b[1]) met++
        const here = applyAll(actualityType, applyAll(actualityType, start, mine), swapped.theirs)
        const there = applyAll(actualityType, applyAll(actualityType, start, theirs), swapped.mine)
        expect(here).toEqual(there)
      }),
      { numRuns: 7500 },
    )
    // what must have been there first is made in histories: see the test of a whole history
    const built = ['takeOffPatch', 'patchesOff', 'putBack', 'goBackToVersion', 'unsplit']
    expect([...acted].filter(([name, times]) => times < 30 && !built.includes(name))).toEqual([])
    expect(met).toBeGreaterThanOrEqual(300)
  })

  it('end equal on two sides where edges lie at the very same places', () => {
    const eighths = fc.noBias(fc.nat(7)).map((n) => n / 8)
    const onEdges = fc
      .tuple(drawnAct, eighths, eighths)
      .map(([[name, , , choice], from, to]): DrawnAct => [name, from, Math.sqrt(to), choice])
    fc.assert(
      fc.property(piece, onEdges, onEdges, (start, a, b) => {
        const [mine, theirs] = [drawSteps(start, a), drawSteps(start, b)]
        const swapped = exchange(actualityType, mine, theirs)
        if (!swapped) return
        const here = applyAll(actualityType, applyAll(actualityType, start, mine), swapped.theirs)
        expect(here).toEqual(applyAll(actualityType, applyAll(actualityType, start, theirs), swapped.mine))
      }),
      { numRuns: 3000 },
    )
  })

  it('map positions forward and back', () =>
    fc.assert(
      fc.property(piece, drawnAct, shareOf, (start, drawn, share) => {
        let document = start
        let position = Math.floor(clipLength(start) * share)
        for (const step of drawSteps(start, drawn)) {
          const there = mapPosition(step, position)
          const touched = step.type === 'replace' && position >= step.from && position <= step.to
          if (touched && step.to - step.from === listLength(step.insert)) expect(there).toBe(position)
          if (touched && position < step.to && step.insert.some(({ sound }) => sound === 'tape')) {
            const [before, after] = [(position - step.from) / (step.to - step.from), (there - step.from) / listLength(step.insert)]
            expect(Math.abs(before - after) * listLength(step.insert)).toBeLessThan(1)
          }
          if (step.type === 'move' && position >= step.from && position < step.to)
            expect(toTape(actualityType.apply(document, step).spans, there)).toEqual(toTape(document.spans, position))
          if (!touched) expect(mapPosition(actualityType.invert(document, step), there)).toBe(position)
          document = actualityType.apply(document, step)
          position = there
          expect(position).toBeGreaterThanOrEqual(0)
          expect(position).toBeLessThanOrEqual(clipLength(document))
        }
      }),
      { numRuns: 500 },
    ))

  it('keep handles and words apart', () =>
    fc.assert(
      fc.property(piece, drawnAct, (start, drawn) => {
        const length = clipLength(start)
        const handled = { ...start, head: Math.floor(length / 5), tail: Math.floor(length / 7) }
        fc.pre(stays(handled, drawn))
        const { document } = act(handled, drawn)
        expect(document.head).toBeGreaterThanOrEqual(0)
        expect(document.tail).toBeGreaterThanOrEqual(0)
        expect(document.head + document.tail + wordsLength(document)).toBe(clipLength(document))
      }),
    ))

  it('refuse a stretch that is not there', () => {
    const start = fc.sample(piece, 1)[0]
    expect(() => actualityType.apply(start, { type: 'replace', from: 0, to: clipLength(start) + 1, insert: [], after: null })).toThrow(
      RangeError,
    )
    expect(() => actualityType.apply(start, { type: 'join', at: 0, join: plainJoin() })).toThrow(RangeError)
    // a join that is gone was played in vain
    expect(actualityType.apply(start, { type: 'heard', at: 0, heard: true })).toBe(start)
  })

  it('refuse to leave nothing, though a step of an act may', () => {
    const start = fc.sample(piece, 1)[0]
    const out: ActualityStep = { type: 'replace', from: 0, to: clipLength(start), insert: [], after: null }
    const back: ActualityStep = { type: 'replace', from: 0, to: 0, insert: slice(start.spans, 0, 1), after: null }
    expect(() => applyAndInvert(actualityType, start, [out])).toThrow(/nothing/)
    expect(clipLength(applyAndInvert(actualityType, start, [out, back]).document)).toBe(1)
  })
})

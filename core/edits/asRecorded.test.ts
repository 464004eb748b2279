import { expect, it } from 'vitest'
import { applyAll } from '../steps/document'
import { actualityType, type Actuality, type ActualityStep } from './actuality'
import { holdTime, takeOut } from './acts'
import { asRecorded, fadesOff, patchesOff } from './asRecorded'
import { plainJoin } from './editList'
import { levelOff, shapeLevel } from './levelLine'
import { toggleMute } from './mute'
import { layPatch } from './patch'

const whole: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 10_000, to: 60_000, sound: 'tape' }],
  head: 0,
  tail: 0,
}
const run = (piece: Actuality, ...acts: ((piece: Actuality) => ActualityStep[])[]) =>
  acts.reduce((now, act) => applyAll(actualityType, now, act(now)), piece)
const all = { from: 0, to: 90_000 }

const edited = run(
  whole,
  (piece) => layPatch(piece, { from: 2000, to: 3000 }, { tape: 'a', from: 50_000, to: 51_000 }, { left: plainJoin(), right: plainJoin() }),
  (piece) => shapeLevel(piece, { from: 5000, to: 9000 }, () => -6),
  (piece) =>
    layPatch(piece, { from: 20_000, to: 21_000 }, { tape: 'a', from: 40_000, to: 40_900 }, { left: plainJoin(), right: plainJoin() }),
  (piece) => takeOut(piece, { from: 30_000, to: 34_000 }, { ...plainJoin(), fade: 999 }),
)

it('takes off one kind and leaves the others', () => {
  const noPatch = run(edited, (piece) => patchesOff(piece, all))
  expect(noPatch.spans.some(({ patch }) => patch)).toBe(false)
  expect(noPatch.spans.some(({ level }) => level)).toBe(true)
  expect(noPatch.spans.length).toBeLessThan(edited.spans.length)
  const noLevel = run(edited, (piece) => levelOff(piece, all))
  expect(noLevel.spans.some(({ level }) => level)).toBe(false)
  expect(noLevel.spans.filter(({ patch }) => patch)).toHaveLength(2)
  const plain = run(edited, (piece) => fadesOff(piece, all, () => 90_000))
  expect(plain.spans.flatMap(({ join }) => (join ? [join.fade] : []))).not.toContain(999)
  expect(run(noLevel, (piece) => patchesOff(piece, { from: 0, to: 4000 })).spans.filter(({ patch }) => patch)).toHaveLength(1)
})

it('gives the tape’s own sound at a place, whatever was done there', () => {
  const more = run(
    edited,
    (piece) => toggleMute(piece, { from: 35_000, to: 36_000 }),
    (piece) => holdTime(piece, { from: 38_000, to: 39_000 }),
  )
  expect(run(more, (piece) => asRecorded(piece, { from: 0, to: 45_900 })).spans).toEqual(whole.spans)
  // in part: what lies beyond stays
  const half = run(edited, (piece) => asRecorded(piece, { from: 0, to: 10_000 }))
  expect(half.spans[0]).toEqual({ tape: 'a', from: 10_000, to: 20_000, sound: 'tape' })
  expect(half.spans.filter(({ patch }) => patch)).toHaveLength(1)
})

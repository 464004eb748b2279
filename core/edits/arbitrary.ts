import fc from 'fast-check'
import type { Actuality, ActualityStep } from './actuality'
import { bringBack, holdTime, markHeard, moveCut, moveEdge, nicks, setEdges, takeOut } from './acts'
import { asRecorded, fadesOff, patchesOff } from './asRecorded'
import { withChanges } from './evenOut'
import { overlap, setEndFade, unsplit } from './fades'
import { changeGaps, changePause, holdOrClose } from './gaps'
import { changeHandle } from './handles'
import { levelOff, movePoint, shapeLevel } from './levelLine'
import { movePassage, putIn } from './order'
import { toggleMute } from './mute'
import { offcutsOf, setAside, takeBack } from './offcuts'
import { fillHeld, layPatch, patches, takeOffPatch } from './patch'
import { goBackTo, keepVersion, versionsOf } from './versions'
import { slipSide, toggleHush } from './voices'
import type { Side } from '../tape/tape'
import { cuts, listLength, normal, plainJoin, slice, type EditList, type Span } from './editList'

/** Made-up edit lists and steps, for property tests. */

export const TAPE_LENGTH = 100_000
/** Of so many kinds steps are drawn. */
const KINDS = 34

const span: fc.Arbitrary<Span> = fc
  .record({
    tape: fc.constantFrom('a', 'b'),
    from: fc.integer({ min: 0, max: TAPE_LENGTH - 1 }),
    length: fc.integer({ min: 1, max: 5000 }),
    sound: fc.constantFrom<Span['sound']>('tape', 'tape', 'tone'),
    fade: fc.option(fc.integer({ min: 0, max: 2000 }), { nil: undefined }),
  })
  .map(({ tape, from, length, sound, fade }) => ({
    tape,
    from,
    to: Math.min(TAPE_LENGTH, from + length),
    sound,
    ...(fade === undefined ? {} : { join: { ...plainJoin(), fade } }),
  }))

export const editList: fc.Arbitrary<EditList> = fc.array(span, { minLength: 1, maxLength: 8 }).map(normal)

const SIDES: Side[] = [{ name: 'Piet', channels: [0] }, { name: 'Kit', channels: [1] }]

export const piece: fc.Arbitrary<Actuality> = editList.map((spans) => ({
  kind: 'actuality',
  slug: 'Nobody told us',
  speaker: '',
  role: '',
  story: null,
  spans,
  head: 0,
  tail: 0,
  sides: { a: SIDES, b: SIDES },
}))

/** A step that fits the document; drawn from numbers, so that it can be drawn again for a later one. */
export const drawStep = (document: Actuality, [kind, a, b]: readonly [number, number, number]): ActualityStep[] => {
  const length = listLength(document.spans)
  const from = Math.floor(a * length)
  const to = Math.min(length, from + Math.floor(b * b * length))
  const joins = cuts(document.spans)
  switch (kind % KINDS) {
    case 0:
      return from < to ? takeOut(document, { from, to }) : []
    case 1:
      return from < to ? holdTime(document, { from, to }) : []
    case 2:
      return [{ type: 'replace', from, to: from, insert: [{ tape: 'b', from: 50, to: 450, sound: 'tape', join: plainJoin() }], after: plainJoin() }]
    case 3:
      return joins.length ? [{ type: 'join', at: joins[Math.floor(b * joins.length) % joins.length].at, join: { ...plainJoin(), fade: from, heard: true } }] : []
    case 4:
      return from < to ? shapeLevel(document, { from, to }, () => -6, 100) : []
    case 5:
      return movePassage(document, { from, to }, Math.floor(b * length))
    case 6: {
      const cut = joins[Math.floor(b * joins.length) % joins.length]
      return cut ? setEdges(document, cut, { left: Math.max(0, cut.left.to - Math.floor(a * 300)), right: cut.right.from + Math.floor(b * 300) }, plainJoin(), Math.floor(a * 100)) : []
    }
    case 7: {
      const laid = { tape: 'b', from: Math.floor(a * 5000), to: Math.floor(a * 5000) + 1 + Math.floor(b * 3000), level: Math.floor(b * 6) }
      return from < to ? layPatch(document, { from, to }, laid, { left: plainJoin(), right: plainJoin() }) : []
    }
    case 8: {
      const laid = patches(document)
      return laid.length ? takeOffPatch(document, laid[Math.floor(b * laid.length) % laid.length]) : []
    }
    case 9:
      return toggleMute(document, { from, to })
    case 10:
      return from < to && to - from < length ? setAside(document, { from, to }, `2026-11-25T17:${from}`) : []
    case 11: {
      const [offcut] = offcutsOf(document)
      return offcut ? takeBack(document, offcut, to) : []
    }
    case 12: {
      const cut = joins[Math.floor(b * joins.length) % joins.length]
      return cut ? overlap(document, cut, Math.floor((a - 0.5) * 2000)) : []
    }
    case 13:
      return from < to ? toggleHush(document, { from, to }, a < 0.5 ? 0 : 1) : []
    case 14:
      return from < to ? slipSide(document, { from, to }, 1, Math.floor((b - 0.5) * 2000)) : []
    case 15:
      return from < to ? changePause(document, { from, to }, Math.floor((b - 0.5) * 2000)) : []
    case 16: {
      const held = nicks(document).find((nick) => nick.held > 0)
      return held ? fillHeld(document, { from: held.at, to: held.at + held.held }, { tape: 'b', from: 1000, to: 17_000 }) : []
    }
    case 17:
      return [...levelOff(document, { from, to }), ...fadesOff(document, { from, to }, () => TAPE_LENGTH)]
    case 18:
      return from < to ? asRecorded(document, { from, to }) : []
    case 19:
      return unsplit(document, joins[Math.floor(b * joins.length) % joins.length]?.at ?? 0)
    case 20:
      return setEndFade(document, a < 0.5 ? 'fadeIn' : 'fadeOut', b < 0.3 ? null : { length: from, shape: 'power' })
    case 21: {
      const [nick] = nicks(document).slice(Math.floor(b * nicks(document).length))
      return nick ? (a < 0.5 ? bringBack(document, nick) : holdOrClose(document, nick)) : []
    }
    case 22:
    case 23: {
      const cut = joins[Math.floor(b * joins.length) % joins.length]
      const by = Math.floor((a - 0.5) * 3000)
      return cut ? (kind % KINDS === 22 ? moveEdge(document, cut, b < 0.5 ? 'left' : 'right', by, TAPE_LENGTH) : moveCut(document, cut, by, TAPE_LENGTH)) : []
    }
    case 24:
      return changeGaps(document, joins, Math.floor((b - 0.5) * 2000), [])
    case 25:
      return changeHandle(document, a < 0.5 ? 'head' : 'tail', Math.floor((b - 0.5) * 2000), TAPE_LENGTH)
    case 26: {
      const line = document.spans.findIndex(({ level }) => level)
      const start = document.spans.slice(0, line).reduce((sum, { from: left, to: right }) => sum + right - left, 0)
      const span = document.spans[line]
      return span ? movePoint(document, start + span.level![0].at - span.from, { at: start + Math.floor(a * 500), dB: -3 }) : []
    }
    case 27:
      return patchesOff(document, { from, to })
    case 28:
      return from < to ? withChanges(document, [{ from, to, dB: 4 * b - 2 }]) : []
    case 29:
      return putIn(document, slice(document.spans, from, to), Math.floor(b * length))
    case 30: {
      const [version] = versionsOf(document)
      return version && a < 0.5 ? goBackTo(document, version) : keepVersion(document, 'kept', '2026-11-25T17:40:00Z')
    }
    case 31:
      return [{ type: 'set', key: 'gain', value: b < 0.3 ? undefined : Math.round(10 * b) }]
    case 32: {
      const cut = joins[Math.floor(b * joins.length) % joins.length]
      return cut ? markHeard(document, cut.at) : []
    }
    default:
      return [{ type: 'set', key: a < 0.5 ? 'slug' : 'role', value: `name ${from}` }]
  }
}

export const numbers = fc.tuple(fc.nat(KINDS - 1), fc.double({ min: 0, max: 0.999, noNaN: true }), fc.double({ min: 0, max: 0.999, noNaN: true }))

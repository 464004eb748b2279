import fc from 'fast-check'
import type { Side } from '../tape/tape'
import type { Frames, Stretch } from '../time'
import type { Actuality, ActualityStep } from './actuality'
import { holdTime, markHeard, moveCut, moveEdge, setEdges, takeOut } from './acts'
import { asRecorded, fadesOff, patchesOff } from './asRecorded'
import { bringBack } from './bringBack'
import {
  cuts,
  edits,
  listLength,
  normal,
  paintJoin,
  plainJoin,
  runsOn,
  sameFrames,
  slice,
  type Cut,
  type Edit,
  type EditList,
  type Span,
} from './editList'
import { withChanges } from './evenOut'
import { overlap, setEndFade, unsplit } from './fades'
import { changeGaps, changePause, holdOrClose, setGap } from './gaps'
import { nicks } from './gone'
import { changeHandle } from './handles'
import { levelOff, shapeLevel } from './levelLine'
import { addPoint, levelPoints, movePoint, removePoint } from './levelPoints'
import { setLowCut } from './lowCut'
import { toggleMute } from './mute'
import { offcutsOf, setAside, takeBack } from './offcuts'
import { movePassage, putIn } from './order'
import { fillHeld, layPatch, patches, takeOffPatch } from './patch'
import { goBackTo, keepVersion, versionsOf } from './versions'
import { levelSide, slipSide, toggleSideMute, unmuteSides } from './voices'

/** Made-up pieces and acts on them, for property tests: of each kind as many, and at places drawn evenly. */

export const TAPE_LENGTH = 100_000

/** A share of something, 0 to 1, drawn evenly: numbers drawn without care come mostly from the ends. */
const share = fc.noBias(fc.integer({ min: 0, max: 999_999 })).map((millionth) => millionth / 1_000_000)
const whole = (max: number) => fc.noBias(fc.integer({ min: 0, max }))

const SIDES: Side[] = [
  { name: 'Piet', channels: [0] },
  { name: 'Kit', channels: [1], hush: [{ from: 20_000, to: 30_000 }] },
]

const span: fc.Arbitrary<Span> = fc
  .record({
    tape: fc.constantFrom('a', 'b'),
    from: whole(TAPE_LENGTH - 6000),
    length: whole(5000).map((frames) => frames + 1),
    sound: fc.constantFrom<Span['sound']>('tape', 'tape', 'tape', 'tape', 'tone', 'room'),
    look: fc.constantFrom<Partial<Span>>(
      {},
      {},
      {},
      { mute: true },
      { mutes: [true] },
      { slip: [0, 480] },
      { levels: [0, -6] },
      { lowCut: 80 },
      { gain: -3 },
    ),
    level: fc.option(whole(20), { nil: undefined }),
    fade: fc.option(whole(2000), { nil: undefined }),
  })
  .map(({ tape, from, length, sound, look, level, fade }) => ({
    tape,
    from,
    to: from + length,
    sound,
    ...(sound === 'room' ? {} : look),
    ...(level !== undefined && sound === 'tape' ? { level: [{ at: from + 10, dB: level - 10 }] } : {}),
    ...(fade === undefined ? {} : { join: { ...plainJoin(), fade } }),
  }))

/** Some spans run on from the one before: splits, and paints over a part. */
const runsOnSometimes = (spans: Span[], marks: readonly boolean[]): Span[] => {
  const out: Span[] = []
  spans.forEach((one, i) => {
    const last = out[out.length - 1]
    if (!marks[i] || !last || last.sound !== 'tape') return out.push(one)
    const { level: _, ...bare } = last
    const next: Span = {
      ...bare,
      from: last.to,
      to: Math.min(TAPE_LENGTH, last.to + one.to - one.from),
      ...(one.mute ? { mute: true } : {}),
    }
    return out.push({
      ...next,
      join: one.mute && sameFrames(last, next) ? paintJoin() : { fade: 0, shape: 'gain', origin: 'split', heard: true },
    })
  })
  return out
}

export const editList: fc.Arbitrary<EditList> = fc
  .tuple(fc.array(span, { minLength: 1, maxLength: 8 }), fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }))
  .map(([spans, marks]) =>
    normal(
      runsOnSometimes(
        spans,
        marks.map((mark, i) => mark && i % 3 === 2),
      ),
    ),
  )

export const piece: fc.Arbitrary<Actuality> = fc.tuple(editList, share, share).map(([spans, head, tail]) => {
  const length = listLength(spans)
  return {
    kind: 'actuality',
    slug: 'Nobody told us',
    speaker: '',
    role: '',
    story: null,
    spans,
    head: Math.floor((head * length) / 4),
    tail: Math.floor((tail * length) / 4),
    sides: { a: SIDES, b: SIDES },
  }
})

/** What an act is drawn from: a stretch of the piece, and a share that chooses among what is there. */
export interface Drawn {
  document: Actuality
  stretch: Stretch
  /** 0 to 1. */
  share: number
  cut: Cut | undefined
  edit: Edit | undefined
}

const one = <T>(list: readonly T[], at: number): T | undefined => list[Math.floor(at * list.length)]
/** A change by a share, from -most to most. */
const byShare = (at: number, most: number): Frames => Math.floor((2 * at - 1) * most)

/** An id for every share. */
const idBy = (at: number): string =>
  `00000000-0000-4000-8000-${Math.round(at * 1e6)
    .toString()
    .padStart(12, '0')}`

/** Every kind of act on a piece, by name. Each gives no steps where nothing is there for it to do. */
export const ACTS = {
  takeOut: ({ document, stretch }) => takeOut(document, stretch),
  takeOutWithPause: ({ document, stretch }) => takeOut(document, stretch, plainJoin(), 900),
  holdTime: ({ document, stretch }) => holdTime(document, stretch),
  insert: ({ stretch: { from } }) => [
    { type: 'replace', from, to: from, insert: [{ tape: 'b', from: 50, to: 450, sound: 'tape', join: plainJoin() }], after: plainJoin() },
  ],
  changeJoin: ({ cut, share: at }) =>
    cut ? [{ type: 'join', at: cut.at, join: { ...cut.join, fade: Math.floor(at * 2000), heard: true } }] : [],
  shapeLevel: ({ document, stretch }) => shapeLevel(document, stretch, () => -6, 100),
  movePassage: ({ document, stretch, share: at }) => movePassage(document, stretch, Math.floor(at * listLength(document.spans))),
  setEdges: ({ document, edit, share: at }) =>
    edit
      ? setEdges(
          document,
          edit,
          { left: Math.max(0, edit.left.to + byShare(at, 300)), right: Math.max(0, edit.right.from + byShare(at, 300)) },
          plainJoin(),
          Math.floor(at * 100),
        )
      : [],
  layPatch: ({ document, stretch, share: at }) => {
    const from = Math.floor(at * 5000)
    return layPatch(
      document,
      stretch,
      { tape: 'b', from, to: from + 1 + Math.floor(at * 3000), level: Math.floor(at * 6) },
      { left: plainJoin(), right: plainJoin() },
    )
  },
  layOwnPatch: ({ document, stretch }) =>
    layPatch(document, stretch, { tape: 'b', from: 9000, to: 10_000, own: true }, { left: plainJoin(), right: plainJoin() }),
  takeOffPatch: ({ document, share: at }) => {
    const patch = one(patches(document), at)
    return patch ? takeOffPatch(document, patch) : []
  },
  toggleMute: ({ document, stretch }) => toggleMute(document, stretch),
  muteSide: ({ document, stretch, share: at }) => toggleSideMute(document, stretch, at < 0.5 ? 0 : 1),
  unmuteSides: ({ document, stretch }) => unmuteSides(document, stretch),
  levelSide: ({ document, stretch, share: at }) => levelSide(document, stretch, 1, (dB) => dB + byShare(at, 12) - 6),
  lowCut: ({ document, stretch, share: at }) => setLowCut(document, stretch, at < 0.2 ? null : 40 + Math.floor(at * 4) * 40),
  slipSide: ({ document, stretch, share: at }) => slipSide(document, stretch, 1, byShare(at, 1000)),
  setAside: ({ document, stretch, share }) =>
    stretch.to - stretch.from < listLength(document.spans)
      ? setAside(document, stretch, { id: idBy(share), at: `2026-11-25T17:${stretch.from}` })
      : [],
  putBack: ({ document, stretch }) => {
    const [offcut] = offcutsOf(document)
    return offcut ? takeBack(document, offcut, stretch.to) : []
  },
  overlap: ({ document, edit, share: at }) => (edit ? overlap(document, edit, byShare(at, 1000)) : []),
  changePause: ({ document, stretch, share: at }) => changePause(document, stretch, byShare(at, 1000)),
  fillHeld: ({ document }) => {
    const held = nicks(document).find((nick) => nick.held > 0)
    return held ? fillHeld(document, { from: held.at, to: held.at + held.held }, { tape: 'b', from: 1000, to: 17_000 }) : []
  },
  levelOff: ({ document, stretch }) => levelOff(document, stretch),
  fadesOff: ({ document, stretch }) => fadesOff(document, stretch, () => TAPE_LENGTH),
  asRecorded: ({ document, stretch }) => asRecorded(document, stretch),
  split: ({ document, stretch: { from } }) =>
    from > 0 && !cuts(document.spans).some(({ at }) => at === from)
      ? [{ type: 'replace', from, to: from, insert: [], after: { fade: 0, shape: 'gain', origin: 'split', heard: true } }]
      : [],
  unsplit: ({ document, share: at }) => {
    const split = one(
      cuts(document.spans).filter(({ left, right }) => runsOn(left, right)),
      at,
    )
    return split ? unsplit(document, split.at) : []
  },
  endFade: ({ document, stretch, share: at }) =>
    setEndFade(document, at < 0.5 ? 'fadeIn' : 'fadeOut', at < 0.15 ? null : { length: stretch.from, shape: 'power' }),
  bringBack: ({ document, share: at }) => {
    const nick = one(nicks(document), at)
    return nick ? bringBack(document, nick) : []
  },
  bringBackPart: ({ document, share: at }) => {
    const nick = one(nicks(document), at)
    return nick ? bringBack(document, nick, { from: nick.from, to: Math.ceil((nick.from + nick.to) / 2) }) : []
  },
  holdOrClose: ({ document, share: at }) => {
    const nick = one(nicks(document), at)
    return nick ? holdOrClose(document, nick) : []
  },
  moveEdge: ({ document, edit, stretch, share: at }) =>
    edit ? moveEdge(document, edit, stretch.from % 2 ? 'left' : 'right', byShare(at, 1500), TAPE_LENGTH) : [],
  moveCut: ({ document, edit, share: at }) => (edit ? moveCut(document, edit, byShare(at, 1500), TAPE_LENGTH) : []),
  changeGaps: ({ document, edit, share: at }) => (edit ? changeGaps(document, [edit], byShare(at, 1000), []) : []),
  setGap: ({ document, edit, share: at }) => (edit ? setGap(document, edit, Math.floor(at * 4000), { left: 100, right: 100 }) : []),
  changeHandle: ({ document, share: at, stretch }) => changeHandle(document, stretch.from % 2 ? 'head' : 'tail', byShare(at, 1000), 400),
  addPoint: ({ document, share: at }) => addPoint(document, Math.floor(at * listLength(document.spans))),
  removePoint: ({ document, share: at }) => {
    const points = levelPoints(document)
    return points.length ? removePoint(document, points[Math.floor(at * (points.length - 1))].at) : []
  },
  movePoint: ({ document, share: at }) => {
    let start = 0
    for (const { from, to, level } of document.spans) {
      if (level) return movePoint(document, start + level[0].at - from, { at: start + Math.floor(at * 500), dB: -3 })
      start += to - from
    }
    return []
  },
  // few pieces have a patch, and fewer one in a stretch that was drawn: half the time it is all of the piece
  patchesOff: ({ document, stretch, share: at }) => patchesOff(document, at < 0.5 ? { from: 0, to: listLength(document.spans) } : stretch),
  evenOut: ({ document, stretch, share: at }) => withChanges(document, [{ ...stretch, dB: Math.round(4 * at) - 2 }]),
  paste: ({ document, stretch, share: at }) =>
    putIn(document, slice(document.spans, stretch.from, stretch.to), Math.floor(at * listLength(document.spans))),
  keepVersion: ({ document, share }) => keepVersion(document, { id: idBy(share), name: 'kept', at: '2026-11-25T17:40:00Z' }),
  goBackToVersion: ({ document }) => {
    const [version] = versionsOf(document)
    return version ? goBackTo(document, version) : []
  },
  setGain: ({ share: at }) => [{ type: 'set', key: 'gain', value: at < 0.3 ? undefined : Math.round(10 * at) }],
  setName: ({ stretch, share: at }) => [{ type: 'set', key: at < 0.5 ? 'slug' : 'role', value: `name ${stretch.from}` }],
  markPlayed: ({ document, cut }) => (cut ? markHeard(document, cut.at) : []),
} satisfies Record<string, (drawn: Drawn) => ActualityStep[]>

export type ActName = keyof typeof ACTS
export const ACT_NAMES = Object.keys(ACTS) as ActName[]

/** An act by name and the shares that it is drawn from, so that it can be drawn again for a later piece. */
export type DrawnAct = readonly [name: ActName, from: number, length: number, choice: number]

/** Steps that fit the piece; empty where the act has nothing to do there. */
export function drawSteps(document: Actuality, [name, from, length, choice]: DrawnAct): ActualityStep[] {
  const all = listLength(document.spans)
  const start = Math.floor(from * all)
  // short stretches are as likely as long ones
  const stretch = { from: start, to: Math.min(all, start + 1 + Math.floor(length * length * (all - start))) }
  const act = ACTS[name] as (drawn: Drawn) => ActualityStep[]
  return act({ document, stretch, share: choice, cut: one(cuts(document.spans), choice), edit: one(edits(document.spans), choice) })
}

export const drawnAct: fc.Arbitrary<DrawnAct> = fc.tuple(
  fc.noBias(fc.nat(ACT_NAMES.length - 1)).map((i) => ACT_NAMES[i]),
  share,
  share,
  share,
)
export const shareOf = share

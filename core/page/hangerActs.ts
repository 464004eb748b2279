import { toTape } from '../edits/editList'
import { lineAt, type LevelPoint } from '../sound/level'
import { milliseconds, type Frames } from '../time'
import { shiftedAnchor, type Anchor } from './anchors'
import { lengthFor, soundOfTape } from './hangerSound'
import type { PlacedHanger } from './lay'
import type { Hanger, PanStop, StoryStep } from './story'

/** What is done to a sound in a lane, as steps. Places are frames of the page; an `AnchorOf` tells what holds one of them. */
export type AnchorOf = (at: Frames) => Anchor

/** The two parts of a split sound cross over so long: the same frames, so that nothing is heard of it. */
const SEAM: Frames = milliseconds(20)

/** How far into its sound a sound is at a place of the page, in frames. */
export const intoSound = ({ from, skip }: Pick<PlacedHanger, 'from' | 'skip'>, at: Frames): Frames => at - from + skip

const set = <K extends keyof Hanger>({ id }: Pick<Hanger, 'id'>, key: K, value: Hanger[K]): StoryStep => ({ type: 'set', id, key, value })

/** Level points or places of pan, counted from a later frame of the sound. */
const later = <T extends { at: Frames }>(things: readonly T[] | undefined, by: Frames): T[] | undefined =>
  things?.map((thing) => ({ ...thing, at: thing.at - by }))

/** Splits a sound of a tape in two at a place within it; the second part is called `id`. Empty where there is nothing to split. */
export function splitHanger(one: PlacedHanger, at: Frames, anchorOf: AnchorOf, id: string): StoryStep[] {
  const { hanger, from, to, skip } = one
  const { plays } = hanger
  if (!('tape' in plays) || at - SEAM <= from || at + SEAM >= to) return []
  const into = intoSound(one, at)
  const goesOn = hanger.goesOn && plays.from + into >= plays.to
  const repeated = hanger.back && lengthFor(hanger, plays.to - plays.from, intoSound(one, to)) > plays.to - plays.from
  const whole = repeated ? soundOfTape(hanger, plays, intoSound(one, to)) : null
  const frameAt = (place: Frames) => (whole && toTape(whole, place)?.frame) ?? plays.from + place
  const round = repeated && frameAt(into) < hanger.back!.to ? hanger.back! : null
  // a part that goes back does so wherever it comes to that place, however long it is by itself
  const end = round ? round.to : plays.to
  const second: Hanger = {
    ...hanger,
    id,
    // what goes on with other parts of its tape does so again
    plays: goesOn ? plays : { ...plays, from: frameAt(into), to: hanger.by === 'end' ? plays.to : end },
    back: repeated ? (round ?? undefined) : hanger.back,
    start: anchorOf(at),
    level: before(later(hanger.level, into)),
    pan: before(later(hanger.pan, into)),
    fadeIn: SEAM,
    shapeIn: goesOn ? 'power' : 'gain',
  }
  const first = (): StoryStep[] => {
    if (hanger.by !== 'end') return round ? [set(hanger, 'plays', { ...plays, to: round.to })] : []
    // what has gone back for the last time still ends with its end, which is here now
    if (repeated && !round) return [set(hanger, 'plays', { ...plays, to: frameAt(into) + SEAM })]
    return fromItsBeginning(one, { ...plays, from: frameAt(skip), to: end }, anchorOf)
  }
  return [
    ...first(),
    set(hanger, 'end', shiftedAnchor(second.start, SEAM)),
    set(hanger, 'fadeOut', SEAM),
    set(hanger, 'shapeOut', goesOn ? 'power' : 'gain'),
    { type: 'put', record: withoutAbsent(second) },
  ]
}

/** What ends with its last note, held by its first frame instead, where it now begins: its end no longer tells what is left out. */
const fromItsBeginning = ({ hanger, from, skip }: PlacedHanger, plays: Hanger['plays'], anchorOf: AnchorOf): StoryStep[] => [
  set(hanger, 'by', undefined),
  set(hanger, 'plays', plays),
  set(hanger, 'start', anchorOf(from)),
  set(hanger, 'level', before(later(hanger.level, skip))),
  set(hanger, 'pan', before(later(hanger.pan, skip))),
]

/** What lies before the first frame is one thing there: a tape has no frames below 0. */
function before<T extends { at: Frames }>(things: T[] | undefined): T[] | undefined {
  const last = things?.findLast(({ at }) => at <= 0)
  const rest = things?.filter(({ at }) => at > 0) ?? []
  const all = last ? [{ ...last, at: 0 }, ...rest] : rest
  return all.length ? all : undefined
}

const withoutAbsent = (hanger: Hanger): Hanger =>
  Object.fromEntries(Object.entries(hanger).filter(([, value]) => value !== undefined)) as unknown as Hanger

/** The same sound once more from a place of the page on, as long as it is; it is called `id`. */
export function copyHanger({ hanger, from, to }: PlacedHanger, at: Frames, anchorOf: AnchorOf, id: string): StoryStep[] {
  const { sections: _, ...rest } = hanger
  return [{ type: 'put', record: { ...rest, id, start: anchorOf(at), end: hanger.end && anchorOf(at + to - from) } }]
}

/**
 * Another stretch of tape in place of the one that a sound plays: its edges, its pan, and how it comes, goes and dips stay, and
 * with `by` (dB) it is turned to be as loud as the other was.
 */
export function exchanged(hanger: Hanger, plays: Hanger['plays'], by: number): StoryStep[] {
  const gain = Math.max(-60, Math.min(24, Math.round((hanger.gain + by) * 10) / 10))
  // what was alike in the old one is not in the new one
  const back = hanger.back ? [set(hanger, 'back', undefined)] : []
  return [set(hanger, 'plays', plays), ...back, ...(gain === hanger.gain ? [] : [set(hanger, 'gain', gain)])]
}

/** Another stretch of the same tape, so much later, between the same edges. `frames`: of the tape. Empty where it has no more. */
export function slipHanger({ hanger }: PlacedHanger, by: Frames, frames: Frames): StoryStep[] {
  const { plays } = hanger
  if (!('tape' in plays)) return []
  const most = Math.max(-plays.from, Math.min(by, frames - plays.to))
  return most ? [set(hanger, 'plays', { ...plays, from: plays.from + most, to: plays.to + most })] : []
}

/** A place this near to a level point is that point. */
const ON_POINT: Frames = milliseconds(60)

/** The level point of a sound at a place of the page; null where there is none. */
export function levelPointAt(one: PlacedHanger, at: Frames): LevelPoint | null {
  const into = intoSound(one, at)
  return one.hanger.level?.find((point) => Math.abs(point.at - into) <= ON_POINT) ?? null
}

/** Steps for another level point at a place of the page, at the level that the sound has there. */
export function addLevelPoint(one: PlacedHanger, at: Frames): StoryStep[] {
  const { level = [] } = one.hanger
  const into = intoSound(one, at)
  if (levelPointAt(one, at) || into < 0) return []
  return [set(one.hanger, 'level', inOrder([...level, { at: into, dB: lineAt(level, into) }]))]
}

/** Steps for a level point that is moved, turned, or removed (`null`). */
export function setLevelPoint({ hanger }: PlacedHanger, point: LevelPoint, to: LevelPoint | null): StoryStep[] {
  const others = (hanger.level ?? []).filter((other) => other.at !== point.at)
  const kept = to && { at: Math.max(0, Math.round(to.at)), dB: Math.max(-60, Math.min(24, Math.round(to.dB * 10) / 10)) }
  const all = inOrder(kept ? [...others.filter(({ at }) => at !== kept.at), kept] : others)
  return [set(hanger, 'level', all.length ? all : undefined)]
}

/** Steps by which a sound is at a place between left and right from a place of the page on; all along where it was nowhere yet. */
export function panFrom(one: PlacedHanger, at: Frames, to: number): StoryStep[] {
  const into = Math.max(0, intoSound(one, at))
  const stops = one.hanger.pan ?? []
  const others = stops.filter((stop) => Math.abs(stop.at - into) > ON_POINT)
  return [set(one.hanger, 'pan', spare(inOrder([...others, { at: stops.length ? into : 0, to }])))]
}

/** A place of pan that is set, or removed (`null`). */
export function setPanStop({ hanger }: Pick<PlacedHanger, 'hanger'>, index: number, to: number | null): StoryStep[] {
  const stops = hanger.pan ?? []
  const changed = stops.flatMap((stop, i) => (i !== index ? stop : to === null ? [] : { ...stop, to }))
  return [set(hanger, 'pan', spare(changed))]
}

/** Nothing is said of what stays in the middle. */
const spare = (stops: readonly PanStop[]): readonly PanStop[] | undefined => (stops.some(({ to }) => to !== 0) ? stops : undefined)

const inOrder = <T extends { at: Frames }>(things: readonly T[]): T[] => [...things].sort((a, b) => a.at - b.at)

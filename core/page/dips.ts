import { lineAt, type LevelPoint } from '../sound/level'
import { united, without } from '../stretches'
import { toFrames, type Frames, type Stretch } from '../time'

/** A bed or an ambience goes under by itself where somebody speaks, and comes back between. */

/** How a hanger goes under voices. */
export interface Dip {
  /** How much softer it is under a voice, in dB: below 0. */
  dB: number
  /** How long it takes down, all of it before the first word, and back after the last. */
  down: Frames
  back: Frames
  /** A pause between voices that is shorter than this is held. */
  hold: Frames
  /** How much softer it is where it is deep under a voice, in dB; absent, `DEEPER` below `dB`. */
  deep?: number
}

/** How much further a sound goes down where it is deep under, in dB, where nothing else is set. */
const DEEPER = -6

export const deepOf = ({ dB, deep }: Dip): number => deep ?? dB + DEEPER

export const USUAL_DIP: Readonly<Dip> = { dB: -13, down: toFrames(0.7), back: toFrames(1.5), hold: toFrames(2.5) }

/** What a hanger is from a place on, whoever speaks; up to the next such place. `deep` is a second, lower stage of `under`. */
export type SectionIs = 'under' | 'deep' | 'up'

export interface Section {
  at: Frames
  is: SectionIs
}

/** Where somebody speaks on a page, short pauses between held: in order. */
export function voicesHeld(placed: readonly { at: Frames; words: Frames }[], hold: Frames): Stretch[] {
  const held: Stretch[] = []
  for (const one of united(placed.flatMap(({ at, words }) => (words > 0 ? [{ from: at, to: at + words }] : [])))) {
    const before = held.at(-1)
    if (before && one.from - before.to < hold) held[held.length - 1] = { from: before.from, to: one.to }
    else held.push(one)
  }
  return held
}

/** Where a hanger is under: where somebody speaks (`voices`), and as its sections say, however short they are; in order. */
export function underOf(voices: readonly Stretch[], sections: readonly Section[], end: Frames): readonly Stretch[] {
  let under = voices
  for (const { from, to, is } of stretchesOf(sections, end)) {
    const others = under.flatMap((one) => without(one, [{ from, to }]))
    under = united(is === 'up' ? others : [...others, { from, to }])
  }
  return under
}

/** Each section up to the next, in order. */
function stretchesOf(sections: readonly Section[], end: Frames): (Stretch & Pick<Section, 'is'>)[] {
  const ordered = [...sections].sort((a, b) => a.at - b.at)
  return ordered.flatMap(({ at, is }, i) => {
    const to = ordered[i + 1]?.at ?? end
    return to > at ? [{ from: at, to, is }] : []
  })
}

/** The level line of a hanger on the page, in frames after its start: under where somebody speaks, and as its sections say. */
export function levelUnder(place: Stretch, voices: readonly Stretch[], sections: readonly Section[], dip: Dip): LevelPoint[] {
  const line = dipLine(place, underOf(voices, sections, place.to), dip)
  const deep = united(stretchesOf(sections, place.to).filter(({ is }) => is === 'deep'))
  if (!deep.length) return line
  return summed(line, dipLine(place, deep, { ...dip, dB: deepOf(dip) - dip.dB }))
}

/** One line upon another: it has the points of both, and eases anew from each to the next. */
function summed(a: readonly LevelPoint[], b: readonly LevelPoint[]): LevelPoint[] {
  const places = [...new Set([...a, ...b].map(({ at }) => at))].sort((x, y) => x - y)
  return places.map((at) => ({ at, dB: lineAt(a, at) + lineAt(b, at) }))
}

/** The level line of a hanger that lies on the page from `from` to `to`, in frames after its start. Empty where it is never under. */
export function dipLine({ from, to }: Stretch, under: readonly Stretch[], { dB, down, back }: Dip): LevelPoint[] {
  const points: LevelPoint[] = []
  /** Where the line is on its way back from, and how low it was there. */
  let last: Frames | null = null
  for (const one of under) {
    if (one.to + back <= from || one.from - down >= to) continue
    if (last !== null && last + back > one.from - down) {
      // it is called down again before it is back: there the two slopes meet
      const meet = (last * down + one.from * back) / (down + back)
      points.push({ at: Math.round(meet), dB: dB * (1 - (meet - last) / Math.max(1, back)) })
    } else {
      if (last !== null) points.push({ at: last + back, dB: 0 })
      points.push({ at: one.from - down, dB: 0 })
    }
    points.push({ at: one.from, dB }, { at: one.to, dB })
    last = one.to
  }
  if (last !== null) points.push({ at: last + back, dB: 0 })
  return fromStart(points, from)
}

/** Points after the start; what lies before it is one point there. */
function fromStart(points: readonly LevelPoint[], from: Frames): LevelPoint[] {
  const moved = points.map(({ at, dB }) => ({ at: at - from, dB }))
  const first = moved.findIndex(({ at }) => at >= 0)
  if (first <= 0) return first < 0 ? [] : moved
  const [before, after] = [moved[first - 1], moved[first]]
  const dB = before.dB + ((after.dB - before.dB) * -before.at) / Math.max(1, after.at - before.at)
  return after.at === 0 ? moved.slice(first) : [{ at: 0, dB }, ...moved.slice(first)]
}

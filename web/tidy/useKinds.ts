import { useMemo, useRef } from 'react'
import type { Proposal, Suggestion } from '../../core/tape/suggestion'
import { FINDER_NAMES, saves, type FinderName, type Found, type Looked, type Ready, type Setting } from '../../core/tidy/finder'
import { FINDERS } from '../../core/tidy/finders'
import { overlapsAny } from '../../core/stretches'
import { openOf } from '../../core/tidy/open'
import { dismissedBy, type Dismissal } from '../../core/tidy/rules'
import type { Frames, Stretch } from '../../core/time'

/** A place of a kind: found and open, or decided on. */
export interface Place extends Found {
  /** The tape that it lies on. */
  tape: string
  /** What it was decided as; null while it is open. */
  decided: Suggestion | null
  /** What was found, where it is proposed with wider or narrower edges: the cut is placed first, then its edges are. */
  bare?: Proposal
  edge?: Frames
}

/** Places are told from each other by where they lie. */
export const keyOf = ({ tape, from, to, side }: Pick<Place, 'tape' | 'from' | 'to' | 'side'>): string =>
  `${tape} ${side ?? ''} ${from} ${to}`

export interface Kind {
  name: FinderName
  places: readonly Place[]
  /** How many are open, and the time that they would save. */
  open: number
  saves: Frames
  /** What was dismissed for good, and how many places are not offered for it. */
  dismissed: readonly { by: Dismissal; count: number }[]
}

/** What is looked at, and what of it needs no deciding any more. */
export interface Sought {
  looked: Looked
  /** What is out already, and what is off the record. */
  gone: readonly Stretch[]
  off: readonly Stretch[]
  /** Whether time can be held where something goes; what would be held is closed where it cannot. */
  holds: boolean
  /** Only what lies in one of these counts; all of it where there are none. */
  within?: readonly Stretch[]
}

export type Turned = Partial<Record<FinderName, number>>

/** What finders find on one tape or several, kind by kind; a kind whose setting is turned is sought anew, and none of the others. */
export function useKinds(sought: readonly Sought[], decided: readonly Suggestion[], turned: Turned, dismissals: readonly Dismissal[]) {
  const ready = useMemo(() => sought.map(({ looked }) => readyFor(looked)), [sought])
  const settings = useMemo(
    () => new Map(FINDER_NAMES.map((name): [FinderName, Setting | null] => [name, ready[0]?.get(name)?.setting ?? null])),
    [ready],
  )
  const known = useRef(new Map<FinderName, { by: readonly unknown[]; kind: Kind }>())
  const kinds = FINDER_NAMES.map((name): Kind => {
    const by = [ready, decided, turned[name], dismissals]
    const before = known.current.get(name)
    if (before?.by.every((one, i) => one === by[i])) return before.kind
    const own = decided.filter(({ finder }) => finder === name)
    const counts = new Map<Dismissal, number>()
    // also where it was decided already: another one may be chosen
    const takesAt = new Map<string, Found['takes']>()
    const found = sought.flatMap(({ looked, gone, off, holds, within }, i): Place[] => {
      const { setting, find } = ready[i].get(name)!
      const here = own.filter(({ tape }) => tape === looked.tape)
      const dismissed = dismissedBy(dismissals, name, looked)
      const offered = (one: Found) => {
        const by = dismissed(one)
        if (by) counts.set(by, (counts.get(by) ?? 0) + 1)
        return !by
      }
      const all = find(turned[name] ?? setting?.usual ?? 0)
      for (const { takes } of all) for (const take of takes ?? []) takesAt.set(`${looked.tape} ${take.from}`, takesOf(takes, within, off))
      return openOf(all, here, gone, off)
        .filter((one) => !within || within.some(({ from, to }) => one.from >= from && one.to <= to))
        .filter(offered)
        .map((one) => ({ ...(holds ? one : closing(one)), takes: takesOf(one.takes, within, off), tape: looked.tape, decided: null }))
    })
    const places = [...found, ...own.map((one): Place => ({ ...one, takes: takesAt.get(`${one.tape} ${one.from}`), decided: one }))]
    const kind: Kind = {
      name,
      places: sought.length > 1 ? places : places.sort((a, b) => a.from - b.from),
      open: found.length,
      saves: found.reduce((sum, place) => sum + saves(place), 0),
      dismissed: [...counts].map(([by, count]) => ({ by, count })),
    }
    known.current.set(name, { by, kind })
    return kind
  })
  return { kinds, settings }
}

const measured = new WeakMap<Looked, ReadonlyMap<FinderName, Ready>>()

/** All finders for what is looked at. It is measured once: what was struck or decided there changes nothing of it. */
function readyFor(looked: Looked): ReadonlyMap<FinderName, Ready> {
  const before = measured.get(looked)
  if (before) return before
  const ready = new Map(FINDER_NAMES.map((name) => [name, FINDERS[name](looked)]))
  measured.set(looked, ready)
  return ready
}

/** The takes that can be chosen from: what a piece does not have, and what is off the record, is none of them. */
function takesOf(takes: Found['takes'], within: readonly Stretch[] | undefined, off: readonly Stretch[]): Found['takes'] {
  const here = takes?.filter(
    (take) => !overlapsAny(off, take) && (!within || within.some(({ from, to }) => take.from >= from && take.to <= to)),
  )
  return here && here.length > 1 ? here : undefined
}

const closing = (one: Found): Found =>
  one.proposes.do === 'hold' ? { ...one, proposes: { do: 'takeOut', goes: one.proposes.goes, room: 0 } } : one

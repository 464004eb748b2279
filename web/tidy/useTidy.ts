import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import { keptBefore } from '../../core/tape/skipping'
import { normal } from '../../core/edits/editList'
import { unstruck } from '../../core/edits/ofTape'
import { planOf, type FactsOf } from '../../core/render/plan'
import type { LevelPoint } from '../../core/sound/level'
import { overlapsAny, united, without } from '../../core/stretches'
import type { Suggestion } from '../../core/tape/suggestion'
import type { Strike, TapeDocument, TapeStep } from '../../core/tape/tape'
import { applyOn, suggestionsOn } from '../../core/tidy/decide'
import { isDecided, saves, type FinderName, type Found, type Looked } from '../../core/tidy/finder'
import { FINDER_NAMES, FINDERS } from '../../core/tidy/finders'
import { RATE, type Frames, type Stretch } from '../../core/time'
import type { LiveDocument } from '../documents/liveDocument'
import { author } from '../documents/waiting'
import type { SheetFound } from '../sheet/paint/model'
import { player } from '../sound/player'
import { useKept } from '../ui/useKept'
import { FINDER_KINDS } from './kinds'

const NONE: readonly Place[] = []
/** Heard around a place, before it and after it. */
const AROUND: Frames = 1.5 * RATE

/** A place of a kind: found and open, or decided on. */
export interface Place extends Found {
  /** What it was decided as; null while it is open. */
  decided: Suggestion | null
}

export interface Kind {
  name: FinderName
  places: readonly Place[]
  /** How many are open, and the time that they would save. */
  open: number
  saves: Frames
}

interface OnTape {
  looked: Looked
  live: LiveDocument<'tape'>
  body: TapeDocument
  strikes: readonly Strike[]
  off: readonly Stretch[]
  level: LevelPoint[] | undefined
  factsOf: FactsOf
  goTo: (frame: Frames) => void
}

/** Tidying a tape: what finders find on it, place by place and kind by kind, and what is decided. */
export function useTidy({ looked, live, body, strikes, off, level, factsOf, goTo }: OnTape) {
  const { tape, frames } = looked
  const [open, setOpen] = useKept(`tape/${tape}/tidy`, false)
  const [name, setName] = useKept<FinderName>(`tape/${tape}/tidyKind`, 'pauses')
  const [turned, setTurned] = useState<Partial<Record<FinderName, number>>>({})
  const [chosen, setChosen] = useState<Frames | null>(null)
  const ready = useMemo(() => (open ? FINDER_NAMES.map((one) => [one, FINDERS[one](looked)] as const) : []), [open, looked])
  const decided = useMemo(() => suggestionsOn(body).filter(({ decision }) => decision), [body])
  const kinds = useMemo(
    () =>
      ready.map(([one, { setting, find }]): Kind => {
        const found = find(turned[one] ?? setting?.usual ?? 0)
          // what is off the record, or struck already, needs no tidying
          .filter((place) => !isDecided(place, one, decided) && !overlapsAny(off, place) && !isStruck(place, strikes))
          .map((place): Place => ({ ...place, decided: null }))
        const known = decided.filter(({ finder }) => finder === one).map((suggestion): Place => ({ ...suggestion, decided: suggestion }))
        return {
          name: one,
          places: [...found, ...known].sort((a, b) => a.from - b.from),
          open: found.length,
          saves: found.reduce((sum, place) => sum + saves(place), 0),
        }
      }),
    [ready, turned, decided, off, strikes],
  )
  const kind = kinds.find((one) => one.name === name)
  const places = kind?.places ?? NONE
  const place = places.find(({ from }) => from === chosen) ?? null
  const setting = ready.find(([one]) => one === name)?.[1].setting ?? null
  /** What is found by two finders is saved once. */
  const savesInAll = useMemo(() => {
    const goes = kinds.flatMap((one) => one.places.flatMap((each) => (!each.decided && 'goes' in each.proposes ? each.proposes.goes : [])))
    return united(goes).reduce((sum, { from, to }) => sum + to - from, 0)
  }, [kinds])

  const choose = (next: Place | undefined) => {
    setChosen(next?.from ?? null)
    if (next) goTo(next.from)
  }
  const step = (by: 1 | -1) => {
    const at = chosen ?? -1
    choose(by > 0 ? places.find(({ from }) => from > at) : places.findLast(({ from }) => from < at))
  }
  /** To the next that is open; where there is none, the last one stays. */
  const onwards = () => {
    const next = places.find(({ from, decided: was }) => !was && from > (chosen ?? -1))
    if (next) choose(next)
  }

  const suggestionOf = ({ from, to, sure, proposes }: Place): Suggestion => ({
    id: crypto.randomUUID(),
    kind: 'suggestion',
    at: new Date().toISOString(),
    tape,
    from,
    to,
    side: null,
    finder: name,
    settings: setting ? { longer: turned[name] ?? setting.usual } : {},
    sure,
    proposes,
    decision: null,
  })
  const applying =
    (one: Place) =>
    (now: TapeDocument, act: string): TapeStep[] => {
      const suggestion = suggestionOf(one)
      return [{ type: 'put', record: suggestion }, ...applyOn(now, suggestion, { by: author, at: suggestion.at, act }, crypto.randomUUID())]
    }
  const { one: called, title } = FINDER_KINDS[name]
  const apply = () => {
    if (!place || place.decided) return
    live.actEach([applying(place)], { label: `take out a ${called}` })
    onwards()
  }
  const dismiss = () => {
    if (!place || place.decided) return
    const suggestion = suggestionOf(place)
    const record: Suggestion = { ...suggestion, decision: { is: 'dismissed', by: author, at: suggestion.at } }
    live.act([{ type: 'put', record }], { label: `leave a ${called}` })
    onwards()
  }
  /** What was decided is open again, and what went is there again. */
  const reopen = () => {
    const was = place?.decided
    if (!was) return
    const { proposes } = was
    const gone = 'goes' in proposes ? strikes.filter(({ from, to }) => from === proposes.goes.from && to === proposes.goes.to) : []
    live.act([...gone.map(({ id }): TapeStep => ({ type: 'drop', id })), { type: 'drop', id: was.id }], { label: `bring a ${called} back` })
  }
  const applyAll = () => {
    const all = places.filter(({ decided: was, care }) => !was && !care)
    const left = places.filter(({ decided: was, care }) => !was && care).length
    if (!all.length) return void toast(left ? 'Those that are left may be the story: decide on each.' : 'There is nothing of this kind.')
    const done = live.actEach(all.map(applying), { label: `tidy: ${all.length} ${title.toLowerCase()}` })
    toast(`${done} applied${left ? `; ${left} may be the story, left open` : ''}.`)
    const next = kinds.find((one) => one.name !== name && one.open > 0)
    if (next) setName(next.name)
    setChosen(null)
  }

  /** Plays across a place: as it would be, or as it is. */
  const play = (as: 'result' | 'original') => {
    if (!place) return
    const { proposes } = place
    const goes = 'goes' in proposes ? proposes.goes : place
    // what else is struck there is out of both
    const out = [...strikes.filter(({ from, to }) => from !== goes.from || to !== goes.to), ...(as === 'result' ? [goes] : [])]
    const plan = planOf(normal(unstruck(tape, { from: 0, to: frames }, out, level)), factsOf)
    const parts = without({ from: 0, to: frames }, out)
    const [before, after] = [keptBefore(parts, goes.from), keptBefore(parts, goes.to)]
    player.load(`tape/${tape}/tidy`, plan)
    void player.play(Math.max(0, before - AROUND), Math.min(plan.length, after + AROUND))
  }

  const onSheet = useMemo(
    () =>
      places
        .filter((one) => !one.decided)
        .map((one): SheetFound => {
          const goes = 'goes' in one.proposes ? one.proposes.goes : one
          const seconds = (length: Frames) => (length / RATE).toFixed(1)
          return {
            from: one.from,
            to: one.to,
            look: name === 'pauses' ? 'bracket' : 'ring',
            goes,
            chosen: one.from === chosen,
            text: `${seconds(one.to - one.from)} → ${seconds(one.to - one.from - (goes.to - goes.from))}`,
          }
        }),
    [places, chosen, name],
  )

  return {
    open,
    kinds,
    kind,
    place,
    savesInAll,
    setting: setting && { ...setting, value: turned[name] ?? setting.usual },
    onSheet: open ? onSheet : undefined,
    choose,
    chooseKind: (next: FinderName) => {
      setName(next)
      setChosen(null)
    },
    turn: (value: number) => setTurned((all) => ({ ...all, [name]: value })),
    play,
    apply,
    dismiss,
    reopen,
    applyAll,
    close: () => setOpen(false),
    commands: {
      'tidy.open': { run: () => setOpen(!open), on: open },
      ...(open
        ? {
            'tidy.all': { run: applyAll, unable: kind?.open ? null : 'There is nothing of this kind.' },
            'join.next': { run: () => step(1), title: 'Next place' },
            'join.previous': { run: () => step(-1), title: 'Previous place' },
          }
        : {}),
    },
    /** What the keys of taking out and bringing back mean while a place is looked at; null where none is. */
    onPlace: open &&
      place && {
        takeOut: { run: apply, title: 'Apply' },
        bringBack: place.decided ? { run: reopen, title: 'Bring back' } : { run: dismiss, title: 'Dismiss' },
        across: { run: () => play('result'), title: 'Play the result' },
        before: { run: () => play('original'), title: 'Play the original' },
      },
  }
}

const isStruck = (place: Found, strikes: readonly Strike[]): boolean => {
  const goes = 'goes' in place.proposes ? place.proposes.goes : place
  return without(goes, strikes).reduce((sum, { from, to }) => sum + to - from, 0) * 2 < goes.to - goes.from
}

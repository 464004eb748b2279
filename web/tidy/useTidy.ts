import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import type { WordsOf } from '../../core/edits/pieceWords'
import type { FactsOf } from '../../core/render/plan'
import { overlapsAny, united } from '../../core/stretches'
import type { Proposal, Suggestion } from '../../core/tape/suggestion'
import { SPOKEN } from '../../core/tape/tape'
import { FINDER_NAMES, type FinderName, type Take } from '../../core/tidy/finder'
import { leftOf, longer, louder } from '../../core/tidy/changes'
import { MARGIN_STEP, MOST_MARGIN } from '../../core/tidy/margins'
import { AUDIBLE } from '../../core/tidy/outlook'
import { clamp, type Frames } from '../../core/time'
import type { Handlers } from '../commands/commands'
import { author } from '../documents/waiting'
import { useKept } from '../ui/useKept'
import { FINDER_KINDS } from './kinds'
import { keyOf, useKinds, type Kind, type Place, type Sought, type Turned } from './useKinds'
import { useChange } from './useChange'
import { marginInWords, useMargins } from './useMargins'
import { usePredictions } from './usePredictions'
import { placed, suggestionFor } from './suggestionFor'
import { useTakes } from './useTakes'
import type { Rules } from './useRules'

const NONE: readonly Place[] = []
const NO_TAKES = 'Choose a retake first.'
const NOT_HEARD = 'Hear a take first.'
const NO_EDGES = 'Nothing of this kind is taken out, so it has no edges.'
/** What is tidied: a tape, or a piece of several. It carries out what is decided, each as an act of its own document. */
export interface Target {
  /** What it is kept by while one is elsewhere. */
  owner: string
  sought: readonly Sought[]
  decided: readonly Suggestion[]
  factsOf: FactsOf
  wordsOf: WordsOf
  /** Whether time can be held where something goes. */
  holds: boolean
  goTo: (place: Place) => void
  play: (place: Place, as: 'result' | 'original') => void
  /** All joins of what was applied in a row, where that can be. */
  playAll?: (places: readonly Place[]) => void
  /**
   * Applies all of them in one act each, undone together (and with others that are told the same `together`), and returns how many;
   * `changed`: a person changed what was proposed.
   */
  apply: (suggestions: readonly Suggestion[], label: string, changed?: boolean, together?: string) => number
  /** Does something else instead at places that were applied, where that can be; undone together. */
  instead?: (changes: readonly { applied: Suggestion; proposes: Proposal }[], label: string) => void
  dismiss: (suggestions: readonly Suggestion[], label: string, together?: string) => void
  reopen: (suggestions: readonly Suggestion[], label: string, together?: string) => void
}

/** Tidying: what finders find, place by place and kind by kind, and what is decided. `target` is null until it is opened. */
export function useTidy(target: Target | null, rules: Rules, open: boolean, setOpen: (open: boolean) => void) {
  const owner = target?.owner ?? ''
  const [name, setName] = useKept<FinderName>(`${owner}/tidyKind`, 'pauses')
  const [turned, setTurned] = useState<Turned>({})
  const [chosen, setChosen] = useState<string | null>(null)
  /** The kind of which something was left open. */
  const [insists, setInsists] = useState<FinderName | null>(null)
  /** All of a kind goes with its time held. */
  const [holding, setHolding] = useKept(`${owner}/tidyHolds`, false)
  const { kinds, settings } = useKinds(target && open ? target.sought : NOTHING, target?.decided ?? NOBODY, turned, rules.rules.dismissals)
  const kind = kinds.find((one) => one.name === name)!
  const margins = useMargins(owner, name, open ? kind.places : NONE, target?.wordsOf ?? noWords)
  const { places } = margins
  const proposed = (chosen !== null && places.find((one) => keyOf(one) === chosen)) || null
  const { place, changed, change } = useChange(proposed)
  const setting = settings.get(name) ?? null
  const takes = useTakes(place)
  const { outlookFor, outlookOf } = usePredictions(places, proposed, target?.factsOf ?? noFacts, target?.wordsOf ?? noWords)
  /** What is found by two finders is saved once. */
  const savesInAll = useMemo(() => savedBy(kinds), [kinds])

  const choose = (next: Place | undefined) => {
    setChosen(next ? keyOf(next) : null)
    if (next) target?.goTo(next)
  }
  const step = (by: 1 | -1) => {
    const at = proposed ? places.indexOf(proposed) : by > 0 ? -1 : places.length
    choose(places[at + by] ?? proposed ?? undefined)
  }
  /** To the next that is open; where there is none, the last one stays. */
  const onwards = () => {
    const at = proposed ? places.indexOf(proposed) : -1
    const next = places.slice(at + 1).find(({ decided }) => !decided)
    if (next) choose(next)
  }

  const suggestionOf = (one: Place, proposes: Proposal): Suggestion =>
    suggestionFor(name, one, proposes, { ...(setting ? { setting: turned[name] ?? setting.usual } : {}), ...margins.settings })
  /** What is proposed, with its join where it is heard least, as far as that is known. */
  const placedAt = (one: Place): Proposal => (one === place && changed ? one.proposes : placed(one, outlookFor(one)))
  const { one: called, title, does } = FINDER_KINDS[name]
  const applyAs = (proposes: Proposal, how: string, otherwise: boolean) => {
    if (!place || place.decided || !target) return
    target.apply([suggestionOf(place, proposes)], how, otherwise)
    onwards()
  }
  const apply = (hold = holding) => {
    if (!place) return
    const proposes = placedAt(place)
    const held: Proposal = hold && 'goes' in proposes ? { do: 'hold', goes: proposes.goes } : proposes
    applyAs(held, hold ? `${does} a ${called}, hold its time` : `${changed ? DOES[proposes.do] : does} a ${called}`, changed)
  }
  /** One take stays, and all others of that sentence go, whatever was decided on them before. */
  const keepTake = (at: number) => {
    const stays = place?.takes?.[at]
    if (!place || !target || !stays) return
    const [label, together] = [`keep take ${at + 1} of ${place.takes!.length}`, crypto.randomUUID()]
    const ofThese = (one: Place) => place.tape === one.tape && overlapsAny(place.takes!, one)
    const before = places.flatMap((one) => (one.decided && ofThese(one) ? one.decided : []))
    if (before.length) target.reopen(before, label, together)
    const decided = (take: Take) => suggestionOf({ ...place, ...take, care: undefined }, take.proposes)
    const others = place.takes!.filter((take) => take !== stays)
    const gone = target.apply(others.map(decided), label, !stays.stays, together)
    // or it would be offered, and all of them would go
    const dismissed = { is: 'dismissed', by: author, at: new Date().toISOString() } as const
    if (!stays.stays) target.dismiss([{ ...decided(stays), decision: dismissed }], label, together)
    const rest = gone === 1 ? 'the other one goes' : `the other ${gone} go`
    toast(`Take ${at + 1} stays, ${gone === others.length ? rest : `${gone} of the other ${others.length} go`}.`)
    onwards()
  }
  const lacksTake = !takes.takes.length ? NO_TAKES : takes.heard < 0 ? NOT_HEARD : null
  const hearTake = (at: number) => {
    const looked = target?.sought.find((one) => one.looked.tape === place?.tape)?.looked
    if (target) takes.hear(at, { owner, looked, factsOf: target.factsOf })
  }
  const mute = () => applyAs({ do: 'mute' }, `mute a ${called}`, true)
  const dismiss = (some: readonly Place[]) => {
    const open_ = some.filter(({ decided }) => !decided)
    if (!open_.length || !target) return
    const at = new Date().toISOString()
    const dismissed = open_.map((one): Suggestion => ({
      ...suggestionOf(one, one.proposes),
      decision: { is: 'dismissed', by: author, at },
    }))
    target.dismiss(dismissed, open_.length > 1 ? `dismiss ${open_.length} ${title.toLowerCase()}` : `dismiss a ${called}`)
    onwards()
  }
  /** All of a kind. What would be audible, and what takes care, is left open, and goes when it is asked for once more. */
  const applyAll = async () => {
    if (!target) return
    const all = places.filter(({ decided }) => !decided)
    if (!all.length) return void toast('There is nothing of this kind.')
    const outlooks = await Promise.all(all.map((one) => ('goes' in one.proposes ? outlookOf(one) : null)))
    const why = (one: Place, i: number) => one.care ?? ((outlooks[i]?.heard ?? 0) >= AUDIBLE ? 'would be audible' : null)
    const left = new Map<string, number>()
    const suggestions = all.flatMap((one, i) => {
      const reason = insists === name ? null : why(one, i)
      if (reason) left.set(reason, (left.get(reason) ?? 0) + 1)
      const proposes = placed(one, outlooks[i])
      const held = holding && 'goes' in proposes ? ({ do: 'hold', goes: proposes.goes } as const) : proposes
      return reason ? [] : [suggestionOf(one, held)]
    })
    const done = suggestions.length ? target.apply(suggestions, `tidy: ${suggestions.length} ${title.toLowerCase()}`) : 0
    const open_ = [...left].map(([reason, count]) => `${count} ${reason}`).join(', ')
    toast(open_ ? `${done} applied; ${open_}: left open. Once more applies them too.` : `${done} applied.`)
    setInsists(left.size ? name : null)
    const next = [...kinds.slice(kinds.indexOf(kind) + 1), ...kinds].find((one) => one.name !== name && one.open > 0)
    if (next && !left.size) setName(next.name)
    setChosen(null)
  }
  const play = (as: 'result' | 'original') => place && target?.play(place.decided ? place : { ...place, proposes: placedAt(place) }, as)
  /** Time held where gaps were closed, or gaps closed where it was held. */
  const switchTime = (hold: boolean) => {
    const changes = applied.flatMap(({ decided, proposes }) => {
      if (!decided || !('goes' in proposes) || (proposes.do === 'hold') === hold) return []
      const { goes } = proposes
      const other: Proposal = hold ? { do: 'hold', goes } : { do: 'takeOut', goes, room: 0 }
      return [{ applied: decided, proposes: other }]
    })
    target?.instead?.(changes, `${hold ? 'hold the time' : 'close the gaps'} of ${changes.length} ${title.toLowerCase()}`)
  }
  const applied = places.filter(({ decided }) => decided && decided.decision!.is !== 'dismissed')
  /** What was applied with other margins than are set now. */
  const otherwise = applied.flatMap(({ decided }) => {
    const now = decided && margins.forApplied(decided)
    return now ? [{ before: decided, now }] : []
  })
  /** Whether anything of this kind goes, so that it has edges. */
  const goes = places.some(({ proposes }) => 'goes' in proposes)
  const moveMargin = (by: 1 | -1) => {
    if (!goes) return void toast(NO_EDGES, { duration: 1500 })
    const edge = clamp(margins.edge + by * MARGIN_STEP, -MOST_MARGIN, MOST_MARGIN)
    margins.set({ edge })
    toast(marginInWords(edge), { id: 'margin', duration: 1500 })
  }
  /** In one act: on a piece in its place, on a tape as what is decided anew. */
  const setOthers = () => {
    if (!target || !otherwise.length) return
    const label = `edges of ${otherwise.length} ${title.toLowerCase()}`
    if (target.instead)
      return target.instead(
        otherwise.map(({ before, now }) => ({ applied: { ...before, settings: now.settings }, proposes: now.proposes })),
        label,
      )
    const together = crypto.randomUUID()
    target.reopen(
      otherwise.map(({ before }) => before),
      label,
      together,
    )
    target.apply(
      otherwise.map(({ now }) => ({ ...now, id: crypto.randomUUID(), decision: null })),
      label,
      true,
      together,
    )
  }

  return {
    open,
    kinds,
    kind,
    place,
    /** Where it stands among them; -1 for none. */
    at: proposed ? places.indexOf(proposed) : -1,
    places,
    outlookFor,
    savesInAll,
    setting: setting && { ...setting, value: turned[name] ?? setting.usual },
    holds: target?.holds ?? false,
    /** Whether what goes has its time held; what was applied already can follow. */
    holding: {
      on: holding,
      set: setHolding,
      others: target?.instead ? applied.filter(({ proposes }) => 'goes' in proposes && (proposes.do === 'hold') !== holding).length : 0,
      switchOthers: () => switchTime(holding),
    },
    /** Edges of all of a kind, and how long its pauses are left; `others`: how many were applied with others, which can follow. */
    margins: { ...margins, others: otherwise.length, setOthers },
    rules,
    tapes: target?.sought.map(({ looked }) => looked.tape) ?? [],
    languageOf: (tape: string | undefined) => target?.sought.find(({ looked }) => looked.tape === tape)?.looked.language ?? SPOKEN,
    /** The takes of the place that is looked at, which one was heard last (-1 for none), and what can be done with them. */
    takes: { all: takes.takes, heard: takes.heard, hear: hearTake, keep: keepTake },
    changed,
    change,
    mute,
    choose,
    chooseKind: (next: FinderName) => {
      setName(next)
      setChosen(null)
      setInsists(null)
    },
    turn: (value: number) => setTurned((all) => ({ ...all, [name]: value })),
    play,
    applied,
    playApplied: target?.playAll && (() => target.playAll!(applied)),
    apply,
    dismiss: () => place && dismiss([place]),
    dismissAll: () => dismiss(places),
    reopen: () => place?.decided && target?.reopen([place.decided], `bring a ${called} back`),
    reopenAll: () =>
      target?.reopen(
        places.flatMap(({ decided }) => decided ?? []),
        `bring ${title.toLowerCase()} back`,
      ),
    applyAll: () => void applyAll(),
    close: () => setOpen(false),
    commands: {
      'tidy.open': { run: () => setOpen(!open), on: open },
      ...(open
        ? {
            'tidy.all': { run: () => void applyAll(), unable: kind.open ? null : 'There is nothing of this kind.' },
            'tidy.marginLess': { run: () => moveMargin(-1), unable: goes ? null : NO_EDGES },
            'tidy.marginMore': { run: () => moveMargin(1), unable: goes ? null : NO_EDGES },
            'tidy.hearTake': {
              run: () => (takes.takes.length ? hearTake(takes.next()) : toast(NO_TAKES, { duration: 1500 })),
              unable: takes.takes.length ? null : NO_TAKES,
            },
            'tidy.keepTake': {
              run: () => (lacksTake ? toast(lacksTake, { duration: 1500 }) : keepTake(takes.heard)),
              unable: lacksTake,
            },
            'join.next': { run: () => step(1), title: 'Next place', free: true },
            'join.previous': { run: () => step(-1), title: 'Previous place', free: true },
          }
        : {}),
    },
    /** What the keys of taking out and bringing back mean while a place is looked at; null where none is. */
    onPlace:
      open && place && target
        ? {
            takeOut: { run: () => apply(), title: 'Apply' },
            hold: { run: () => apply(true), title: 'Apply and hold its time', unable: target.holds ? null : 'On a tape no time is held.' },
            bringBack: place.decided
              ? { run: () => target.reopen([place.decided!], `bring a ${called} back`), title: 'Bring back' }
              : { run: () => dismiss([place]), title: 'Dismiss' },
            across: { run: () => play('result'), title: 'Play the result' },
            before: { run: () => play('original'), title: 'Play the original' },
            // a place that was decided on stays as it is
            changes: place.decided
              ? {}
              : ({
                  'edit.mute': { run: mute, title: 'Mute the place' },
                  'level.softer': { run: () => change(louder(place, -1)), title: 'Turn the place down', free: true },
                  'level.louder': { run: () => change(louder(place, 1)), title: 'Turn the place up', free: true },
                  ...(leftOf(place) === null
                    ? {}
                    : {
                        'join.gapShorter': { run: () => change(longer(place, -1)), title: 'Leave the pause shorter', free: true },
                        'join.gapLonger': { run: () => change(longer(place, 1)), title: 'Leave the pause longer', free: true },
                      }),
                } satisfies Handlers),
          }
        : null,
  }
}

export type Tidy = ReturnType<typeof useTidy>

/** What applying does, where a person changed what was proposed. */
const DOES: Record<Proposal['do'], string> = {
  takeOut: 'shorten',
  hold: 'take out',
  level: 'change the level of',
  mute: 'mute',
  repair: 'repair',
}

const NOTHING: readonly Sought[] = []
const NOBODY: readonly Suggestion[] = []
const noFacts: FactsOf = () => {
  throw new Error('nothing is tidied')
}
const noWords: WordsOf = () => []

function savedBy(kinds: readonly Kind[]): Frames {
  const byTape = new Map<string, { from: Frames; to: Frames }[]>()
  for (const { places } of kinds)
    for (const { tape, decided, proposes } of places)
      if (!decided && 'goes' in proposes) byTape.set(tape, [...(byTape.get(tape) ?? []), proposes.goes])
  return [...byTape.values()].flatMap(united).reduce((sum, { from, to }) => sum + to - from, 0)
}

/** Kinds that have anything, and those that have nothing. */
export const found = (kinds: readonly Kind[]): { some: Kind[]; none: FinderName[] } => ({
  some: kinds.filter(({ places }) => places.length),
  none: FINDER_NAMES.filter((name) => !kinds.find((one) => one.name === name)?.places.length),
})

import { useMemo } from 'react'
import { actualityType, type Actuality, type ActualityStep } from '../../core/edits/actuality'
import { piecePlan } from '../../core/page/plan'
import { applyAll } from '../../core/steps/document'
import type { Suggestion } from '../../core/tape/suggestion'
import { applyIn, insteadIn, placesIn, suggestionsOf, takeBackIn } from '../../core/tidy/decide'
import type { TidyRules } from '../../core/tidy/rules'
import type { HeardSide } from '../../core/tidy/listen/side'
import { RATE, type Frames, type Stretch } from '../../core/time'
import type { TapeInfo } from '../../contract/tapes'
import type { Bench } from './bench'
import { author } from '../documents/waiting'
import { player } from '../sound/player'
import { keyOf, type Place } from '../tidy/useKinds'
import { applyingIn, usePieceSought } from '../tidy/usePieceSought'
import type { Target } from '../tidy/useTidy'

/** Heard around a place, before it and after it. */
const AROUND: Frames = 1.5 * RATE

/** A piece, to be tidied: by what its tapes tell of their speakers, and only where it still says it. */
export function usePieceTidy(
  { owner, live, piece, factsOf, wordsOf, offOf, goTo }: Bench,
  tapes: readonly TapeInfo[],
  heard: ReadonlyMap<string, readonly HeardSide[] | null>,
  rules: TidyRules,
): Target {
  const sought = usePieceSought({ spans: piece.spans, tapes, heard, factsOf, wordsOf, offOf, rules })
  const decided = useMemo(() => suggestionsOf(piece).filter(({ decision }) => decision), [piece])

  const putting = (record: Suggestion): ActualityStep => ({ type: 'keep', step: { type: 'put', record } })

  return {
    owner,
    sought,
    decided,
    factsOf,
    wordsOf,
    holds: true,
    goTo: (place) => {
      const [first] = placesIn(live.body.spans, place)
      if (first) goTo(first.from)
    },
    apply: (suggestions, label, changed, together) => live.actEach(suggestions.map(applyingIn(changed)), { label, together }),
    instead: (changes, label) => {
      const at = new Date().toISOString()
      live.actEach(
        changes.map(
          ({ applied, proposes }) =>
            (now: Actuality, act: string) =>
              insteadIn(now, applied, proposes, { by: author, at, act, changed: true }),
        ),
        { label },
      )
    },
    dismiss: (suggestions, label, together) => {
      live.actEach(
        suggestions.map((record) => () => [putting(record)]),
        { label, together },
      )
    },
    reopen: (suggestions, label, together) => {
      live.actEach(
        suggestions.map((one) => (now) => takeBackIn(now, one)),
        { label, together },
      )
    },
    play: (place, as) => {
      const { document, from, to } = place.decided ? decidedAs(live.body, place, as) : openAs(live.body, place, as)
      const plan = piecePlan(document, factsOf)
      player.load(`${owner}/tidy`, plan)
      void player.play(Math.max(0, from - AROUND), Math.min(plan.length, to + AROUND))
    },
  }
}

/** A piece, and where a place lies in it. */
interface Heard extends Stretch {
  document: Actuality
}

/** A place that is open: the piece as it is, or with it applied. */
function openAs(piece: Actuality, place: Place, as: 'result' | 'original'): Heard {
  const { proposes, tape } = place
  const [{ from, to } = { from: 0, to: 0 }] = placesIn(piece.spans, { tape, ...('goes' in proposes ? proposes.goes : place) })
  if (as === 'original') return { document: piece, from, to }
  const suggestion = trial(place)
  const document = applyAll(actualityType, piece, [
    { type: 'keep', step: { type: 'put', record: suggestion } },
    ...applyIn(piece, suggestion, { by: '', at: '', act: '' }),
  ])
  return { document, from, to: proposes.do === 'takeOut' ? from + proposes.room : to }
}

/** A place that was decided on: the piece as it is, or with that taken back. */
function decidedAs(piece: Actuality, place: Place, as: 'result' | 'original'): Heard {
  const was = openAs(applyAll(actualityType, piece, takeBackIn(piece, place.decided!)), place, 'original')
  return as === 'original' ? was : { document: piece, from: was.from, to: place.proposes.do === 'takeOut' ? was.from : was.to }
}

const trial = (place: Place): Suggestion => ({
  id: keyOf(place),
  kind: 'suggestion',
  at: '',
  tape: place.tape,
  from: place.from,
  to: place.to,
  side: place.side ?? null,
  finder: '',
  settings: {},
  sure: place.sure,
  proposes: place.proposes,
  decision: null,
})

import { useMemo } from 'react'
import { normal, type EditList } from '../../core/edits/editList'
import { unstruck } from '../../core/edits/ofTape'
import type { WordsOf } from '../../core/edits/pieceWords'
import { planOf, withSides, type FactsOf } from '../../core/render/plan'
import { levelInForce, sidesInForce, suggestionsOn } from '../../core/tape/inForce'
import type { Suggestion } from '../../core/tape/suggestion'
import type { Strike, TapeDocument, TapeStep } from '../../core/tape/tape'
import { applyOn, takeBackOn } from '../../core/tidy/decide'
import type { Looked } from '../../core/tidy/finder'
import { RATE, type Frames, type Stretch } from '../../core/time'
import type { LiveDocument } from '../documents/liveDocument'
import { author } from '../documents/waiting'
import { player } from '../sound/player'
import { keyOf, type Place } from './useKinds'
import type { Target } from './useTidy'

/** Heard around a place, before it and after it. */
const AROUND: Frames = 1.5 * RATE

interface OnTape {
  looked: Looked
  live: LiveDocument<'tape'>
  body: TapeDocument
  strikes: readonly Strike[]
  off: readonly Stretch[]
  factsOf: FactsOf
  wordsOf: WordsOf
  goTo: (frame: Frames) => void
}

/** A tape, to be tidied: what goes is struck; levels, mutes and repairs count for all that is pulled from then on. */
export function useTapeTidy({ looked, live, body, strikes, off, factsOf, wordsOf, goTo }: OnTape): Target {
  const { tape } = looked
  const sought = useMemo(() => [{ looked, gone: strikes, off, holds: false }], [looked, strikes, off])
  const decided = useMemo(() => suggestionsOn(body).filter(({ decision }) => decision), [body])

  return {
    owner: `tape/${tape}`,
    sought,
    decided,
    factsOf,
    wordsOf,
    holds: false,
    goTo: ({ from }) => goTo(from),
    apply: (suggestions, label, changed, together) => live.actEach(suggestions.map(applying(changed)), { label, together }),
    dismiss: (suggestions, label, together) => {
      live.actEach(
        suggestions.map((record) => () => [{ type: 'put', record }]),
        { label, together },
      )
    },
    reopen: (suggestions, label, together) => {
      live.actEach(
        suggestions.map((one) => (now: TapeDocument) => takeBackOn(now, one)),
        { label, together },
      )
    },
    play: (place, as) => playLists([heardAs(body, looked, strikes, place, as)]),
    playAll: (places) => playLists(places.map((place) => heardAs(body, looked, strikes, place, 'result'))),
  }

  function playLists(lists: readonly ReturnType<typeof heardAs>[]): void {
    const plan = planOf(normal(lists.flatMap(({ list }) => list)), withSides(factsOf, { sides: { [tape]: lists[0].sides } }))
    player.load(`tape/${tape}/tidy`, plan)
    void player.play(0, plan.length)
  }
}

/** The act by which a tape takes what a suggestion proposes. `changed`: a person changed it. */
export const applying =
  (changed?: boolean) =>
  (suggestion: Suggestion) =>
  (_: TapeDocument, act: string): TapeStep[] => [
    { type: 'put', record: suggestion },
    ...applyOn(suggestion, { by: author, at: suggestion.at, act, changed }, crypto.randomUUID()),
  ]

/** What is heard around a place, as it would be once it is applied or as it is without that. What else is struck is out of both. */
function heardAs(body: TapeDocument, { tape, frames }: Looked, strikes: readonly Strike[], place: Place, as: 'result' | 'original') {
  const { proposes } = place
  const without = place.decided ? dropped(body, place.decided.id) : body
  const heard = as === 'result' ? added(without, place) : without
  const goes = 'goes' in proposes ? proposes.goes : null
  const others = strikes.filter(({ from, to }) => from !== goes?.from || to !== goes.to)
  const out = [...others, ...(goes && as === 'result' ? [goes] : [])]
  const { from, to } = goes ?? place
  const stretch = { from: Math.max(0, from - AROUND), to: Math.min(frames, to + AROUND) }
  const list: EditList = unstruck(tape, stretch, out, levelInForce(heard))
  return { list, sides: sidesInForce(heard) }
}

/** A tape as it would be with a place applied: only what a suggestion does by being in force. */
const added = (body: TapeDocument, place: Place): TapeDocument => {
  const { from, to, side = null, proposes, sure } = place
  const record: Suggestion = {
    id: keyOf(place),
    kind: 'suggestion',
    at: '',
    tape: place.tape,
    from,
    to,
    side,
    finder: '',
    settings: {},
    sure,
    proposes,
    decision: { is: 'applied', by: '', at: '' },
  }
  return { ...body, records: { ...body.records, [record.id]: record } }
}

const dropped = (body: TapeDocument, id: string): TapeDocument => {
  const { [id]: _, ...records } = body.records
  return { ...body, records }
}

import { useState } from 'react'
import { toOneLevel } from '../../core/tidy/takes'
import type { Looked } from '../../core/tidy/finder'
import { planOf, type FactsOf } from '../../core/render/plan'
import { player } from '../sound/player'
import { keyOf, type Place } from './useKinds'

interface Heard {
  owner: string
  looked: Looked | undefined
  factsOf: FactsOf
}

/**
 * The takes of the place that is looked at, side by side: each is heard, all at one loudness, one after the other by one key, and the
 * one that was heard last is the one that is meant.
 */
export function useTakes(place: Place | null) {
  const [heard, setHeard] = useState<{ place: string; take: number } | null>(null)
  const takes = place?.takes ?? []
  const here = place && heard?.place === keyOf(place) ? heard.take : -1

  const hear = (take: number, { owner, looked, factsOf }: Heard) => {
    if (!place || !takes[take]) return
    setHeard({ place: keyOf(place), take })
    const { from, to } = takes[take]
    const dB = looked ? toOneLevel(looked, takes, takes[take]) : 0
    const level = dB ? { level: [{ at: from, dB }] } : {}
    player.load(`${owner}/tidy`, planOf([{ tape: place.tape, from, to, sound: 'tape', ...level }], factsOf))
    void player.play(0)
  }
  return { takes, heard: here, hear, next: () => (here + 1) % Math.max(1, takes.length) }
}

import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import type { Actuality } from '../../core/edits/actuality'
import { toTape } from '../../core/edits/editList'
import { lesserSide, sideMutedIn, slipSide, toggleSideMute } from '../../core/edits/voices'
import { onlySide, type FactsOf, type Plan } from '../../core/sound/plan'
import { milliseconds, type Frames } from '../../core/time'
import type { Bench } from './bench'

/** By how much a key moves one voice against the other. */
const SLIP: Frames = milliseconds(50)

/** One of two voices heard alone, for listening only. */
export function useAlone({ spans }: Actuality, whole: Plan, factsOf: FactsOf) {
  const [alone, setAlone] = useState<number | null>(null)
  const [{ tape }] = spans
  const facts = useMemo(() => factsOf(tape), [factsOf, tape])
  const plan = useMemo(() => (alone === null ? whole : onlySide(whole, facts, alone)), [whole, facts, alone])
  return { alone, plan, facts, sides: facts.sides, hear: setAlone, next: () => setAlone(alone === null ? 0 : alone + 1 < facts.sides.length ? alone + 1 : null) }
}

/** What is done to one of two voices. The one that is heard alone is meant; else the one that says less of what is selected. */
export function useVoices({ live, factsOf, wordsOf, selected, act }: Bench, { alone, next }: Pick<ReturnType<typeof useAlone>, 'alone' | 'next'>) {
  const now = () => live.body as Actuality
  const meant = (): { side: number; name: string } | null => {
    const not = (why: string) => {
      toast(why)
      return null
    }
    if (!selected) return not('Select what one of the speakers says.')
    const [from, to] = [toTape(now().spans, selected.from), toTape(now().spans, selected.to - 1)]
    if (!from || !to || from.tape !== to.tape || to.frame < from.frame) return not('Select an unbroken stretch of one tape.')
    const { sides } = factsOf(from.tape)
    if (sides.length < 2) return not('This tape has only one side, so its speakers can’t be separated.')
    const side = alone ?? lesserSide(sides, wordsOf(from.tape), { from: from.frame, to: to.frame + 1 })
    if (side === null) return not('No transcribed speech there. Solo the side you mean first.')
    return { side, name: sides[side].name || `side ${side + 1}` }
  }
  const mute = () => {
    const which = meant()
    if (!which || !selected) return
    const back = sideMutedIn(now(), selected, which.side)
    act(toggleSideMute(now(), selected, which.side), back ? `unmute ${which.name}` : `mute ${which.name}`)
    toast(back ? `${which.name} is heard there again.` : `${which.name} is muted there; time and the other speaker stay.`, { duration: 2000 })
  }
  const slip = (by: Frames) => {
    const which = meant()
    if (!which || !selected) return
    act(slipSide(now(), selected, which.side, by), by > 0 ? `${which.name} later` : `${which.name} earlier`)
  }
  return { 'voice.alone': next, 'voice.mute': mute, 'voice.earlier': () => slip(-SLIP), 'voice.later': () => slip(SLIP) }
}

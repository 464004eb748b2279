import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import type { Actuality } from '../../../core/edits/actuality'
import { toTape } from '../../../core/edits/editList'
import { lesserSide, sideMutedIn, slipSide, toggleSideMute } from '../../../core/edits/voices'
import { onlySide, type FactsOf, type Plan } from '../../../core/render/plan'
import { milliseconds, type Frames } from '../../../core/time'
import type { Bench } from '../bench'

/** By how much a key moves one voice against the other. */
const SLIP: Frames = milliseconds(50)

/** One of two sides heard alone, for listening only; and the side that levels and mutes address. */
export function useAlone({ spans }: Actuality, whole: Plan, factsOf: FactsOf) {
  const [alone, setAlone] = useState<number | null>(null)
  const [{ tape }] = spans
  const facts = useMemo(() => factsOf(tape), [factsOf, tape])
  const plan = useMemo(() => (alone === null ? whole : onlySide(whole, facts, alone)), [whole, facts, alone])
  const [meant, setMeant] = useState<number | null>(null)
  const { sides } = facts
  const after = (side: number | null) => (side === null ? 0 : side + 1 < sides.length ? side + 1 : null)
  // what is heard alone is meant
  const index = sides.length > 1 ? (alone ?? meant) : null
  return {
    alone,
    plan,
    facts,
    sides,
    hear: setAlone,
    next: () => setAlone(after(alone)),
    /** The side that levels and mutes address; null for all of them. */
    addressed: index === null ? null : { index, name: sides[index].name || `side ${index + 1}` },
    address: setMeant,
    addressNext: () => setMeant(after(meant)),
  }
}

/** What is done to one of two sides: the one that is addressed; else the one that says less of what is selected. */
export function useVoices(
  { live, factsOf, wordsOf, selected, act }: Bench,
  { addressed, addressNext, next, sides: ofPiece }: ReturnType<typeof useAlone>,
) {
  const now = () => live.body
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
    const side = addressed?.index ?? lesserSide(sides, wordsOf(from.tape), { from: from.frame, to: to.frame + 1 })
    if (side === null) return not('No transcribed speech there. Solo the side you mean first.')
    return { side, name: sides[side].name || `side ${side + 1}` }
  }
  const mute = () => {
    const which = meant()
    if (!which || !selected) return
    const back = sideMutedIn(now(), selected, which.side)
    act(toggleSideMute(now(), selected, which.side), back ? `unmute ${which.name}` : `mute ${which.name}`)
    toast(back ? `${which.name} is heard there again.` : `${which.name} is muted there; time and the other speaker stay.`, {
      duration: 2000,
    })
  }
  const slip = (by: Frames) => {
    const which = meant()
    if (!which || !selected) return
    act(slipSide(now(), selected, which.side, by), by > 0 ? `${which.name} later` : `${which.name} earlier`)
  }
  const one = ofPiece.length < 2 ? 'This piece has only one side.' : null
  const commands = {
    'voice.alone': { run: next, unable: one },
    'voice.choose': { run: addressNext, unable: one, on: addressed !== null },
    'voice.mute': mute,
    'voice.earlier': () => slip(-SLIP),
    'voice.later': () => slip(SLIP),
  }
  return {
    commands,
    /** What muting does while one side is addressed; null where it mutes all that is heard. */
    muteAddressed: addressed && { run: mute, title: `Mute / unmute ${addressed.name}` },
  }
}

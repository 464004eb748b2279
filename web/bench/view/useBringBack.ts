import { toast } from 'sonner'
import type { BenchLayout } from '../../../core/edits/benchLayout'
import { nicksIn } from '../../../core/edits/benchLayout'
import { bringBack } from '../../../core/edits/bringBack'
import type { Nick } from '../../../core/edits/gone'
import { patches, type PatchPlace } from '../../../core/edits/patch'
import type { Frames, Stretch } from '../../../core/time'
import { keysInWords } from '../../commands/keys'
import { usePlacesNow } from '../usePlacesNow'
import type { Bench } from '../bench'
import type { useOpenNicks } from '../useOpenNicks'

interface Shown {
  nicks: ReturnType<typeof useOpenNicks>
  layout: BenchLayout
  laid: readonly PatchPlace[]
  chosen: Frames | null
  /** In frames of the Bench. */
  selected: Stretch | null
  /** Takes what is offered just now; false where nothing is. */
  take: () => boolean
  takeOff: (patch: PatchPlace) => void
}

/** One key for what is offered, for a patch that is to go, and for what was taken out. */
export function useBringBack(
  { live, piece, act, select, selected: inPiece }: Bench,
  { nicks, layout, laid, chosen, selected, take, takeOff }: Shown,
) {
  const placeNow = usePlacesNow(live)
  const back = () => {
    if (take()) return
    const [over] = selected ? patches(piece, inPiece!) : laid.filter(({ from, to }) => chosen === from || chosen === to)
    if (over) return takeOff(over)
    const parts = selected ? nicksIn(layout, selected.from, selected.to) : []
    if (parts.length) {
      const [{ nick, ...part }] = parts
      act(bringBack(piece, nick, part), 'bring back')
      return select(null)
    }
    const nick = nicks.at(chosen)
    if (nick) bringBackAll(nick)
    else toast(`Choose a join first: click one, or press ${keysInWords('join.previous', 'join.next')}.`)
  }
  const bringBackAll = (nick: Nick) => {
    nicks.close(nick)
    act(bringBack(live.body, { ...nick, at: placeNow(piece.spans, nick.at) }), 'bring back')
  }
  return { back, bringBackAll }
}

import { useState, type DragEvent } from 'react'
import { toast } from 'sonner'
import { tapeQuery } from '../../api/queries'
import { useQueryClient } from '@tanstack/react-query'
import type { Lane } from '../../../core/page/story'
import type { Frames } from '../../../core/time'
import { likely, type Under } from '../../story/layUnder'
import { dropped } from '../../tapes/dropped'
import { bringIn } from '../../tapes/uploads'
import { useLasting } from '../../ui/useLasting'
import { carriedIn, isCarried } from './carried'
import type { Hangers } from './useHangers'

/** What lies on a lane of this name, or what a tape is likely to be by its own. */
const asOn = (lane: Lane, tape: string): Under =>
  /ambien|atmos|room|sea|wind/i.test(lane.name) ? 'ambience' : /effect|sound/i.test(lane.name) ? 'effect' : likely(tape)

interface Drop {
  story: string
  hangers: Hangers
  slugOf: (piece: string) => string
  /** Which lane and which frame of the page lie under the pointer. */
  placeOf: (event: DragEvent) => { lane: Lane; at: Frames } | null
}

/** Takes pieces, tapes and files that are let go over a lane: they lie there from that place on. */
export function useLaneDrop({ story, hangers, slugOf, placeOf }: Drop) {
  const queries = useQueryClient()
  /** Where it would be let go. */
  const [over, setOver] = useState<{ lane: string; at: Frames } | null>(null)
  // a file is a tape only some time later
  const { layTape } = useLasting({
    layTape: async (id: string, lane: Lane, at: Frames) => {
      const tape = await queries.fetchQuery(tapeQuery(id))
      hangers.lay(tape, asOn(lane, tape.name), undefined, { lane: lane.id, at })
    },
  })
  const onDragOver = (event: DragEvent) => {
    if (!isCarried(event)) return
    event.preventDefault()
    event.dataTransfer.dropEffect = 'copy'
    const place = placeOf(event)
    setOver(place && { lane: place.lane.id, at: place.at })
  }
  const onDrop = (event: DragEvent) => {
    const [carried, place] = [carriedIn(event), placeOf(event)]
    setOver(null)
    if (!carried || !place) return
    event.preventDefault()
    const { lane, at } = place
    if (lane.locked) return void toast(`“${lane.name}” is locked.`)
    if ('piece' in carried) return hangers.layPiece(carried.piece, slugOf(carried.piece), { lane: lane.id, at })
    if ('tape' in carried) return void layTape(carried.tape, lane, at).catch((error: Error) => toast.error(error.message))
    void dropped(event.dataTransfer as unknown as DataTransfer).then((files) =>
      bringIn(files, { story, onReady: (tape) => void layTape(tape, lane, at) }),
    )
  }
  return { over, on: { onDragOver, onDragLeave: () => setOver(null), onDrop } }
}

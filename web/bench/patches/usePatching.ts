import { useMemo, useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import type { FoundBy, Twin } from '../../../contract/twins'
import { actualityType, type Actuality, type ActualityStep } from '../../../core/edits/actuality'
import { isRoom, spanAt, spanLength, type Join } from '../../../core/edits/editList'
import { layPatch } from '../../../core/edits/patch'
import { applyAll } from '../../../core/steps/document'
import { clamp, type Frames, type Stretch } from '../../../core/time'
import { get } from '../../api/client'

/** So many are offered at most. */
const OFFERED = 9

/** A bad spot for which a patch is sought: where it is in the piece, and on its tape. */
export interface Spot {
  tape: string
  onTape: Stretch
  inPiece: Stretch
  /** The stretch of the piece, all of one span, within which a patch has to lie. */
  within: Stretch
}

/** Null where a stretch is not all of one span of tape. */
export function spotAt(piece: Actuality, stretch: Stretch): Spot | null {
  const found = spanAt(piece.spans, stretch.from)
  if (!found || isRoom(found.span) || stretch.to > found.start + spanLength(found.span)) return null
  const onTape = (at: Frames) => found.span.from + at - found.start
  return {
    tape: found.span.tape,
    onTape: { from: onTape(stretch.from), to: onTape(stretch.to) },
    inPiece: stretch,
    within: { from: found.start, to: found.start + spanLength(found.span) },
  }
}

/** The spot where it lies now, after a change that moved places so; null where it was changed itself. */
function followed(spot: Spot, piece: Actuality, moved: (place: Frames) => Frames): Spot | null {
  const { from, to } = spot.inPiece
  const now = spotAt(piece, { from: moved(from), to: moved(to - 1) + 1 })
  return now && now.tape === spot.tape && now.onTape.from === spot.onTape.from && now.onTape.to === spot.onTape.to ? now : null
}

const joinOf = (join: Pick<Join, 'fade' | 'shape'>): Join => ({ ...join, origin: 'hand', heard: false })

/** The steps that lay a twin over a spot of a piece. */
export function laying(piece: Actuality, { tape, inPiece, onTape, within }: Spot, twin: Twin): ActualityStep[] {
  const place = (frame: Frames) => clamp(inPiece.from + frame - onTape.from, within.from, within.to)
  const over = { from: place(twin.over.from), to: place(twin.over.to) }
  // what lies beyond the span is not laid over
  const short = { from: over.from - inPiece.from - twin.over.from + onTape.from, to: over.to - inPiece.from - twin.over.to + onTape.from }
  return layPatch(
    piece,
    over,
    { tape, from: twin.laid.from + short.from, to: twin.laid.to + short.to, level: twin.level },
    { left: joinOf(twin.joins.left), right: joinOf(twin.joins.right) },
  )
}

export interface Patching {
  spot: Spot
  /** What was found until now; undefined as long as that is nothing. */
  twins: readonly Twin[] | undefined
  /** More is being sought. */
  more: boolean
  problem: string | null
  current: number
  /** The piece with the twin laid that is looked at. */
  trial: Actuality | null
}

/** What may be laid over a spot, and which of it is looked at. `follow` takes it along when the piece has become another, or lets it go. */
export function usePatching(piece: Actuality): {
  patching: Patching | null
  begin: (spot: Spot) => void
  choose: (index: number) => void
  leave: () => void
  follow: (piece: Actuality, moved: (place: Frames) => Frames) => void
} {
  const [sought, setSpot] = useState<Spot | null>(null)
  // in the moment before it has followed it is nowhere
  const spot = useMemo(() => sought && followed(sought, piece, (place) => place), [sought, piece])
  const [current, setCurrent] = useState(0)
  const sides = spot ? piece.sides?.[spot.tape] : undefined
  const heard = sides?.flatMap(({ rendition }) => rendition ?? []).join()
  const seek = (by: FoundBy, enabled: boolean) => ({
    queryKey: ['twins', spot?.tape, spot?.onTape.from, spot?.onTape.to, by, heard],
    enabled: spot !== null && enabled,
    staleTime: Infinity,
    queryFn: () =>
      get<Twin[]>(
        `/tapes/${spot!.tape}/twins?from=${spot!.onTape.from}&to=${spot!.onTape.to}&by=${by}` +
          (heard === undefined ? '' : `&heard=${heard}`),
      ),
  })
  // by words it is known at once; what only similar sound comes after it, and takes longer on a long tape
  const byWords = useQuery(seek('words', true))
  const bySound = useQuery(seek('sound', byWords.isSuccess))
  const found = useMemo(() => [...(byWords.data ?? []), ...(bySound.data ?? [])].slice(0, OFFERED), [byWords.data, bySound.data])
  const more = byWords.isPending || (byWords.isSuccess && bySound.isPending)
  const error = byWords.error ?? bySound.error
  const twin = found.at(current)
  const trial = useMemo(() => (spot && twin ? applyAll(actualityType, piece, laying(piece, spot, twin)) : null), [piece, spot, twin])
  return {
    patching: spot && {
      spot,
      twins: found.length || !more ? found : undefined,
      more,
      problem: error && !found.length ? error.message : null,
      current,
      trial,
    },
    begin: (fresh) => {
      setSpot(fresh)
      setCurrent(0)
    },
    choose: setCurrent,
    leave: () => setSpot(null),
    follow: (now, moved) => setSpot((last) => last && followed(last, now, moved)),
  }
}

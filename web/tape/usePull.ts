import { useEffect, useRef } from 'react'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import type { PieceRow } from '../../contract/desk'
import type { Actuality } from '../../core/edits/actuality'
import { edits } from '../../core/edits/editList'
import type { WordsOf } from '../../core/edits/pieceWords'
import { sayPutOnBoard } from '../live/sayPutOnBoard'
import { pull } from '../../core/edits/pull'
import type { FactsOf } from '../../core/render/plan'
import { levelInForce, sidesInForce } from '../../core/tape/inForce'
import { offRecord, strikesOf, tapeHead } from '../../core/tape/tape'
import { wordAround } from '../../core/tape/words'
import type { Frames, Stretch } from '../../core/time'
import { put } from '../api/client'
import { useOnce } from '../api/useOnce'
import { ownFades } from '../joins/ownFades'
import { withPlacedJoins } from '../joins/placedJoins'
import type { LiveDocument } from '../documents/liveDocument'
import { liveDocument } from '../documents/useDocument'
import { overlapsAny, without } from '../../core/stretches'

interface Pulling {
  id: string
  frames: Frames
  live: LiveDocument<'tape'>
  /** Pieces of this tape. */
  pieces: readonly PieceRow[] | undefined
  story: string | null
  passages: readonly Stretch[]
  deselect: (passages: readonly Stretch[]) => void
  place: () => Frames
  zero: (frame: Frames) => Promise<Frames>
  factsOf: FactsOf
  wordsOf: WordsOf
}

/** Pulls what is selected of a tape into a piece. */
export function usePull({ id, frames, live, pieces, story, passages, deselect, place, zero, factsOf, wordsOf }: Pulling) {
  const navigate = useNavigate()
  /** The last pull, and where the playhead was then. */
  const last = useRef<{ piece: Promise<string | undefined>; place: Frames } | null>(null)

  /** A quiet zero crossing near an edge, unless that lies in a word which was not chosen. */
  const quietEdge = async (edge: Frames): Promise<Frames> => {
    const found = await zero(edge)
    return wordAround(wordsOf(id), found) && !wordAround(wordsOf(id), edge) ? edge : found
  }

  const pullIt = async () => {
    if (!passages.length) return void toast('Select a passage first: drag over the words, or mark in and out while it plays.')
    try {
      const parts = await Promise.all(
        passages.map(async (passage) => {
          const [from, to] = await Promise.all([quietEdge(passage.from), quietEdge(passage.to)])
          return to > from ? { from, to } : passage
        }),
      )
      // several passages make one piece: what lies between them is left out
      const stretch = { from: parts[0].from, to: parts[parts.length - 1].to }
      const between = without(stretch, parts)
      // as the tape is now: it may have changed while the sound was fetched
      const there = live.body
      const words = wordsOf(id)
      const { sides: _, ...named } = tapeHead(there)
      // where the tape does not say who speaks, and its words do not, another piece of it may
      const { speaker, role } =
        named.speaker || words.some((word) => word.speaker)
          ? named
          : (pieces?.findLast(({ body: { speaker: known } }) => known)?.body ?? named)
      const piece = pull({
        tape: id,
        tapeLength: frames,
        stretch,
        struck: [...strikesOf(there), ...between],
        off: offRecord(there),
        level: levelInForce(there),
        words,
        story,
        speaker,
        role,
        sides: sidesInForce(there),
      })
      if (!piece)
        return void toast(
          parts.some((part) => overlapsAny(offRecord(there), part))
            ? 'Part of that is off the record, so it can’t be pulled.'
            : 'All of that is struck: there is nothing to pull.',
        )
      const made = crypto.randomUUID()
      const { fadeIn, fadeOut } = ownFades()
      await put(`/documents/${made}`, { ...piece, ...(fadeIn ? { fadeIn } : {}), ...(fadeOut ? { fadeOut } : {}) })
      void placeJoins(made, piece).catch((error: Error) =>
        toast.warning(`The joins of “${piece.slug}” lie where the strikes do: ${error.message}`),
      )
      deselect(passages)
      toast.success(`Pulled “${piece.slug}”`, { action: { label: 'To the Bench', onClick: () => void navigate(`/pieces/${made}`) } })
      return made
    } catch (error) {
      toast.error((error as Error).message)
    }
  }

  /**
   * What is struck within a pull leaves joins, which are placed like those of any cut; it is nothing that a person did, so
   * undo passes it by.
   */
  const placeJoins = async (made: string, piece: Actuality) => {
    const places = edits(piece.spans).map(({ at }) => at)
    if (!places.length) return
    const steps = await withPlacedJoins(piece, [], places, factsOf, wordsOf)
    const pulled = await liveDocument(made, 'actuality')
    pulled.act(steps, { label: 'place joins', quiet: true })
  }

  const pulling = useOnce(() => {
    const piece = pullIt()
    last.current = { piece, place: place() }
    return piece
  })

  const mounted = useRef(true)
  useEffect(() => {
    mounted.current = true
    return () => void (mounted.current = false)
  }, [])

  /** Goes to the piece that was just pulled, once the server has it; false if none was, or the playhead has moved since. */
  const goToPulled = async (): Promise<boolean> => {
    const fresh = last.current?.place === place() ? await last.current.piece : undefined
    // who has gone elsewhere meanwhile stays there
    if (fresh && mounted.current) void navigate(`/pieces/${fresh}`)
    return fresh !== undefined
  }

  /** In one stroke from what is selected to a key of the board. */
  const pullToBoard = useOnce(async () => {
    const piece = await pullIt()
    if (piece) await sayPutOnBoard(piece, navigate)
  })

  return { pulling, goToPulled, pullToBoard }
}

import { useEffect, useMemo, useState } from 'react'
import { clipLength, type Actuality } from '../../../core/edits/actuality'
import { tapesOf } from '../../../core/edits/editList'
import { pagePlan } from '../../../core/page/plan'
import { BLOCK_KINDS, spineOf, type Block, type StoryDocument } from '../../../core/page/story'
import { onAir } from '../../../core/page/timing'
import { milliseconds, type Frames } from '../../../core/time'
import { useFacts, useStoryPieces } from '../../api/queries'
import { player } from '../../sound/player'
import { usePlaying } from '../../sound/usePlayer'

/** So much of the tape is heard after the line before it, and before the line after it. */
const OF_TAPE: Frames = milliseconds(6000)

/** What stands beside a piece on its page, and how it sounds running into it. */
export function useIntoTape(story: StoryDocument, id: string, piece: Actuality) {
  const owner = `into/${id}`
  const spine = useMemo(() => spineOf(story), [story])
  const index = spine.findIndex((block) => block.piece === id && !BLOCK_KINDS[block.kind].written)
  const line = (block: Block | undefined): Block | null => (index >= 0 && block && BLOCK_KINDS[block.kind].written ? block : null)
  const before = line(spine[index - 1])
  const after = line(spine[index + 1])

  const rows = useStoryPieces(piece.story).data
  const pieceOf = useMemo(() => {
    const known = new Map<string, Actuality>(rows?.map((row) => [row.id, row.body]))
    return (one: string) => (one === id ? piece : known.get(one))
  }, [rows, id, piece])
  const blocks = useMemo(
    () => (index < 0 ? [] : [before, spine[index], after].filter((block) => block !== null)),
    [before, after, spine, index],
  )
  const tapes = useMemo(
    () => [...new Set(blocks.flatMap((block) => tapesOf((block.piece && pieceOf(block.piece)?.spans) || [])))].sort(),
    [blocks, pieceOf],
  )
  const facts = useFacts(tapes)
  const layout = useMemo(
    () =>
      onAir(blocks, (one) => {
        const found = pieceOf(one)
        return found && { length: clipLength(found), head: found.head, tail: found.tail }
      }),
    [blocks, pieceOf],
  )
  const plan = useMemo(() => (facts ? pagePlan(layout, pieceOf, facts.factsOf) : null), [facts, layout, pieceOf])

  const playing = usePlaying(owner)
  const [, redraw] = useState(0)
  useEffect(() => {
    if (!playing) return
    const timer = setInterval(() => redraw((count) => count + 1), 100)
    return () => clearInterval(timer)
  }, [playing])
  useEffect(() => () => void (player.owner === owner && player.stop()), [owner])

  const rowOf = (block: Block | null) => layout.placed.find((row) => row.block.id === block?.id)
  /** Plays a line into the tape, or the tape into the line after it. */
  const play = (which: Block) => {
    const row = rowOf(which)
    const tape = layout.placed.find((one) => !BLOCK_KINDS[one.block.kind].written && one.block.piece === id)
    if (!plan || !row || !tape) return
    player.load(owner, plan)
    if (which === before) void player.play(row.from, Math.min(layout.length, tape.at + OF_TAPE))
    else void player.play(Math.max(0, row.at - OF_TAPE), Math.min(layout.length, row.to))
  }
  /** How much of a line has been read, 0 to 1; null where it is not being read. */
  const share = (block: Block): number | null => {
    const row = rowOf(block)
    if (!playing || !row || player.position < row.at) return null
    return Math.min(1, (player.position - row.at) / Math.max(1, row.words))
  }
  const lengthOf = (block: Block): Frames => rowOf(block)?.words ?? 0
  return { before, after, playing, play, stop: () => player.stop(), share, lengthOf }
}

import { useCallback, useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import { moved } from '../../core/page/following'
import { BLOCK_KINDS, type Block } from '../../core/page/story'
import type { Layout } from '../../core/page/timing'
import type { Frames } from '../../core/time'
import { player } from '../sound/player'
import { usePlaying } from '../sound/usePlayer'
import { keptNow } from '../ui/useKept'
import { BLOCK_NAMES } from '../../core/page/blockNames'
import type { Mode, usePage } from './laid/usePage'

type Played = Pick<ReturnType<typeof usePage>, 'plan' | 'layout' | 'air' | 'file'>

/** Playing a page: from anywhere, on through every edit, and at rest where one left it. `owner`: by whom what plays is known. */
export function usePagePlaying(owner: string, { plan, layout, air, file }: Played, mode: Mode, setMode: (mode: Mode) => void) {
  const playing = usePlaying(owner)
  const resting = useRef<Frames>(keptNow.get(`${owner}/place`, 0))
  const place = useCallback(() => (player.playing && player.owner === owner ? player.position : resting.current), [owner])
  const [, redraw] = useState(0)
  const rest = (frame: Frames) => {
    resting.current = frame
    redraw((count) => count + 1)
  }
  const was = useRef(false)
  useEffect(() => {
    if (was.current && !playing && player.owner === owner) rest(player.position)
    was.current = playing
  })
  useEffect(
    () => () => {
      keptNow.set(`${owner}/place`, place())
      if (player.owner === owner) player.stop()
    },
    [owner, place],
  )
  const before = useRef<Layout>(layout)
  useEffect(() => {
    if (plan && player.owner === owner) player.exchange(owner, plan, moved(before.current, layout))
    before.current = layout
  }, [plan, layout, owner])

  /** To its end; between two places over and over, or once. */
  const playFrom = (frame: Frames, to?: Frames, over = true) => {
    if (!plan) return void toast('The page is still loading.', { duration: 1500 })
    if (plan.length === 0) return void toast(mode === 'sent' ? 'The file would be empty.' : 'The page is empty.')
    player.load(owner, plan)
    if (to === undefined) void player.play(frame >= plan.length ? 0 : frame)
    else void player.play(frame, to, over)
  }
  /** A block to be rehearsed as soon as the page is laid out for it. */
  const [wanted, setWanted] = useState<string | null>(null)
  useEffect(() => {
    const row = mode === 'rehearse' && plan && layout.placed.find((one) => one.block.id === wanted)
    if (!row) return
    setWanted(null)
    playFrom(Math.max(0, row.from))
    // playFrom is of this very render
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [wanted, mode, plan, layout])

  const playBlock = (block: Block) => {
    const row = layout.placed.find((one) => one.block.id === block.id)
    if (row) return playFrom(Math.max(0, row.from))
    toast(
      BLOCK_KINDS[block.kind].live
        ? `The ${BLOCK_NAMES[block.kind].toLowerCase()} is read live and is not in the file.`
        : 'This copy has no voice track and is not in the file.',
    )
  }
  /** From so long before a block's words begin to as long after. */
  const playAcross = (block: Block, around: Frames) => {
    const row = layout.placed.find((one) => one.block.id === block.id)
    if (row) playFrom(Math.max(0, row.at - around), Math.min(layout.length, row.at + around), false)
    else playBlock(block)
  }
  /** From a place within a block, as a share of its words. */
  const playWithin = (block: Block, share: number) => {
    const row = layout.placed.find((one) => one.block.id === block.id)
    if (row) playFrom(Math.round(row.at + share * row.words))
    else playBlock(block)
  }
  /** Blocks over and over, from the first of them to the last; all of the page where there are none. */
  const loop = (blocks: readonly Block[]) => {
    const rows = layout.placed.filter((row) => blocks.some(({ id }) => id === row.block.id))
    const [first, last] = [rows[0], rows.at(-1)]
    if (first && last) return playFrom(Math.max(0, first.at), last.at + last.words)
    if (blocks.length) return playBlock(blocks[0])
    playFrom(0, layout.length)
  }
  const changeMode = (next: Mode) => {
    const here = layout.placed.filter((row) => row.at <= place()).at(-1)
    player.stop()
    setMode(next)
    resting.current = (here && (next === 'rehearse' ? air : file).placed.find((row) => row.block.id === here.block.id)?.at) ?? 0
  }
  const rehearse = (block: string) => {
    const row = mode === 'rehearse' && layout.placed.find((one) => one.block.id === block)
    if (row) return playFrom(Math.max(0, row.from))
    changeMode('rehearse')
    setWanted(block)
  }
  const jump = (frame: Frames) => {
    rest(Math.max(0, Math.min(layout.length, frame)))
    if (playing) playFrom(resting.current)
  }
  return { playing, place, playFrom, playBlock, playAcross, playWithin, loop, changeMode, rehearse, jump }
}

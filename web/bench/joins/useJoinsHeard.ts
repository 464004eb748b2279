import { useRef } from 'react'
import { toast } from 'sonner'
import { markHeard } from '../../../core/edits/acts'
import type { Edit } from '../../../core/edits/editList'
import type { Plan } from '../../../core/render/plan'
import { milliseconds, RATE, type Frames } from '../../../core/time'
import { player } from '../../sound/player'
import { useFrames } from '../../sound/usePlayer'
import type { Bench } from '../bench'
import type { JoinRow } from '../benchSheet'
import { playAcross } from '../playing'

/** Plays this far past a join before it counts as heard. */
const PAST = milliseconds(400)

interface Hearing {
  joins: readonly JoinRow[]
  row: JoinRow | undefined
  chosen: Frames | null
  /** What of the piece is heard. */
  plan: Plan
  playing: boolean
  /** What plays is not the piece as it will go out: nothing is heard of its joins. */
  otherwise: boolean
}

/** Whether what plays came to its end by itself. */
const ended = (): Promise<boolean> =>
  new Promise((resolve) => {
    const watch = player.subscribe(() => {
      if (player.playing) return
      watch()
      resolve(player.cameToEnd)
    })
  })

/** Goes from join to join and plays them: one, round and round, or all in a row. A join that was played across has been heard. */
export function useJoinsHeard(
  { owner, live, place, goTo, reveal, setChosen, asEdited, act }: Bench,
  { joins, row, chosen, plan, playing, otherwise }: Hearing,
) {
  const step = (by: 1 | -1) => {
    if (!joins.length) return
    const here = chosen ?? place()
    const next =
      by > 0 ? (joins.find((join) => join.cut.at > here) ?? joins[0]) : (joins.filter((join) => join.cut.at < here).at(-1) ?? joins.at(-1)!)
    setChosen(next.cut.at)
    goTo(next.cut.at)
  }
  const playOver = (cut: Edit | undefined) => {
    if (!cut) return void toast('There are no joins yet.')
    asEdited()
    setChosen(cut.at)
    playAcross(owner, plan, cut.at)
  }
  /** The piece as it is at this moment: what is played in a row goes on over edits that are made meanwhile. */
  const now = useRef({ joins, plan, chosen })
  now.current = { joins, plan, chosen }
  const playAround = (at: Frames, around: Frames, again: boolean) => {
    asEdited()
    player.load(owner, now.current.plan)
    return player.play(Math.max(0, at - around), Math.min(now.current.plan.length, at + around), again)
  }
  const playAll = async () => {
    // the one that plays is the chosen one, which goes along with every edit
    for (let next: Frames | undefined = joins[0]?.cut.at; next !== undefined;) {
      setChosen(next)
      now.current.chosen = next
      reveal(next)
      await playAround(next, 2 * RATE, false)
      if (!(await ended())) return
      const here: Frames = now.current.chosen ?? 0
      next = now.current.joins.find(({ cut }) => cut.at > here)?.cut.at
    }
  }

  const last = useRef({ position: 0, time: 0 })
  useFrames(() => {
    if (!player.playing || player.owner !== owner || otherwise) return
    const [position, time] = [player.position, performance.now()]
    const from = last.current.position
    const ranOn = Math.abs(position - from - ((time - last.current.time) / 1000) * RATE) < RATE / 5
    last.current = { position, time }
    if (!ranOn) return
    for (const { cut } of joins)
      if (!cut.played && cut.at + cut.room + PAST > from && cut.at + cut.room + PAST <= position)
        act(markHeard(live.body, cut.at), 'heard', true)
  }, playing)

  return {
    'join.previous': () => step(-1),
    'join.next': () => step(1),
    'join.loop': () => row && void playAround(row.cut.at, 0.7 * RATE, true),
    'join.all': () => void playAll(),
    'play.across': () => playOver(row?.cut ?? joins[0]?.cut),
  }
}

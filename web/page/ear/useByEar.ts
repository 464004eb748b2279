import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import { tapesOf } from '../../../core/edits/editList'
import { piecePlan } from '../../../core/page/plan'
import type { PieceRow } from '../../../contract/desk'
import { useFacts } from '../../api/queries'
import { useSame } from '../../api/useSame'
import type { Handlers } from '../../commands/commands'
import { player } from '../../sound/player'
import { usePlaying } from '../../sound/usePlayer'
import type { usePage } from '../laid/usePage'

interface OnPage {
  owner: string
  story: string
  page: ReturnType<typeof usePage>
  /** Puts a piece below what is chosen on the page, and chooses it. */
  putNext: (piece: string) => void
}

const NOBODY: readonly string[] = []

/** Ordering by ear: the actualities that are not on the page yet, each heard by a key and put next by another. */
export function useByEar({ owner, story, page, putNext }: OnPage) {
  const [open, setOpen] = useState(false)
  const [at, setAt] = useState<string | null>(null)
  const own = `${owner}/ear`
  const playing = usePlaying(own)
  const used = new Set(page.spine.flatMap(({ piece }) => piece ?? []))
  const left = page.rows.filter(({ id, aside, body }) => body.story === story && !aside && !body.line && !used.has(id))
  const tapes = useSame([...new Set(left.flatMap(({ body }) => tapesOf(body.spans)))].sort())
  const facts = useFacts(useMemo(() => (open ? tapes : NOBODY), [open, tapes]))
  const index = left.findIndex(({ id }) => id === at)

  const hear = (row: PieceRow | undefined) => {
    if (!row) return
    setAt(row.id)
    if (!facts) return void toast('The pieces are still loading.', { duration: 1500 })
    player.load(own, piecePlan(row.body, facts.factsOf))
    void player.play(0)
  }
  const close = () => {
    if (player.owner === own) player.stop()
    setOpen(false)
  }
  /** It goes on the page, and the next one is heard. */
  const place = (row: PieceRow | undefined) => {
    if (!row) return
    player.stop()
    putNext(row.id)
    const place = left.indexOf(row)
    hear(left[place + 1] ?? left[place - 1])
  }
  const none = left.length ? null : 'Every piece of the story is on the page.'
  const commands = {
    'page.byEar': { run: () => (open ? close() : none ? toast(none) : setOpen(true)), on: open, unable: open ? null : none },
  } satisfies Handlers
  /** What keys do in place of what they do on the page, while it is open. */
  const instead: Handlers = open
    ? {
        'page.previous': { run: () => hear(left[Math.max(0, index - 1)]), title: 'Hear the piece above' },
        'page.next': { run: () => hear(left[Math.min(left.length - 1, index + 1)]), title: 'Hear the piece below' },
        'page.write': {
          run: () => place(left[index]),
          title: 'Put it next on the page',
          unable: index < 0 ? 'Hear a piece first.' : none,
        },
        'play.toggle': { run: () => (playing ? player.stop() : hear(left[Math.max(0, index)])), title: 'Hear the piece, or stop' },
        'select.clear': { run: close, title: 'Close ordering by ear', free: true },
      }
    : {}
  return { open, left, at, playing, facts, hear, place, close, commands, instead }
}

export type ByEar = ReturnType<typeof useByEar>

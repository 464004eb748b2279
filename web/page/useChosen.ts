import { useMemo, useState, type MouseEvent } from 'react'
import type { Block } from '../../core/page/story'
import { useKept } from '../ui/useKept'

/**
 * Which blocks are chosen: one, or on purpose several. A click chooses one; with Ctrl or ⌘ it adds or takes away one,
 * with Shift all as far as there. `active` is the one that was chosen last.
 */
export function useChosen(owner: string, spine: readonly Block[]) {
  const [ids, setIds] = useKept<readonly string[]>(`${owner}/chosen`, [])
  const [from, setFrom] = useState<string | null>(null)
  const blocks = useMemo(() => spine.filter(({ id }) => ids.includes(id)), [spine, ids])
  const active = spine.find(({ id }) => id === ids[ids.length - 1]) ?? null

  const choose = (id: string | null): void => {
    setIds(id === null ? [] : [id])
    setFrom(id)
  }
  const chooseAsFarAs = (id: string): void => {
    const [a, b] = [spine.findIndex((block) => block.id === (from ?? id)), spine.findIndex((block) => block.id === id)]
    if (a < 0 || b < 0) return choose(id)
    const run = spine.slice(Math.min(a, b), Math.max(a, b) + 1).map((block) => block.id)
    setIds(a <= b ? run : run.reverse())
  }
  const toggle = (id: string): void => {
    setIds(ids.includes(id) ? ids.filter((one) => one !== id) : [...ids, id])
    setFrom(id)
  }
  /** What a press on a block means; in a field its keys belong to the writing. */
  const pressed = (id: string, event: Pick<MouseEvent, 'button' | 'shiftKey' | 'ctrlKey' | 'metaKey' | 'target'>): void => {
    const writing = event.target instanceof Element && event.target.closest('textarea, input, select')
    if (event.button === 2 && ids.includes(id)) return
    if (!writing && event.shiftKey) chooseAsFarAs(id)
    else if (!writing && (event.ctrlKey || event.metaKey)) toggle(id)
    else choose(id)
  }
  return { blocks, active, choose, chooseAsFarAs, pressed, is: (id: string) => ids.includes(id) }
}

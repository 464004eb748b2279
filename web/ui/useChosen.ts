import { useMemo, useState, type MouseEvent } from 'react'
import { useKept } from './useKept'

/**
 * Which of some things in a row are chosen: one, or on purpose several. A click chooses one; with Ctrl or ⌘ it adds or takes away one,
 * with Shift all as far as there. `active` is the one that was chosen last.
 */
export function useChosen<T extends { id: string }>(owner: string, all: readonly T[]) {
  const [ids, setIds] = useKept<readonly string[]>(`${owner}/chosen`, [])
  const [from, setFrom] = useState<string | null>(null)
  const chosen = useMemo(() => all.filter(({ id }) => ids.includes(id)), [all, ids])
  const active = all.find(({ id }) => id === ids[ids.length - 1]) ?? null

  const choose = (id: string | null): void => {
    setIds(id === null ? [] : [id])
    setFrom(id)
  }
  const chooseAsFarAs = (id: string): void => {
    const [a, b] = [all.findIndex((one) => one.id === (from ?? id)), all.findIndex((one) => one.id === id)]
    if (a < 0 || b < 0) return choose(id)
    const run = all.slice(Math.min(a, b), Math.max(a, b) + 1).map((one) => one.id)
    setIds(a <= b ? run : run.reverse())
  }
  const toggle = (id: string): void => {
    setIds(ids.includes(id) ? ids.filter((one) => one !== id) : [...ids, id])
    setFrom(id)
  }
  /** What a press on one means; in a field its keys belong to the writing. */
  const pressed = (id: string, event: Pick<MouseEvent, 'button' | 'shiftKey' | 'ctrlKey' | 'metaKey' | 'target'>): void => {
    const writing = event.target instanceof Element && event.target.closest('textarea, input, select')
    if (event.button === 2 && ids.includes(id)) return
    if (!writing && event.shiftKey) chooseAsFarAs(id)
    else if (!writing && (event.ctrlKey || event.metaKey)) toggle(id)
    else choose(id)
  }
  return { all: chosen, active, choose, chooseAsFarAs, toggle, pressed, is: (id: string) => ids.includes(id) }
}

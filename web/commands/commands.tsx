import { useLayoutEffect, useMemo, useRef } from 'react'
import { create } from 'zustand'
import { commandsFor, keyOf } from './keys'
import type { CommandId } from './table'

/** What some commands do. */
export type Handlers = Partial<Record<CommandId, () => void>>

/** What commands do now: each view that is shown adds its own, the newest first. */
const useHandlers = create<{ sets: { current: Handlers }[] }>(() => ({ sets: [] }))

/** Says what commands do while this view is shown. */
export function useCommands(handlers: Handlers): void {
  const latest = useRef(handlers)
  latest.current = handlers
  // before it is painted: what can be seen hears its keys
  useLayoutEffect(() => {
    useHandlers.setState(({ sets }) => ({ sets: [latest, ...sets] }))
    return () => useHandlers.setState(({ sets }) => ({ sets: sets.filter((set) => set !== latest) }))
  }, [])
}

const handlerOf = (id: CommandId): (() => void) | undefined => useHandlers.getState().sets.find((set) => set.current[id])?.current[id]

/** Does a command; false where it does nothing here. */
export function run(id: CommandId): boolean {
  const handler = handlerOf(id)
  handler?.()
  return Boolean(handler)
}

export function useAvailable(): (id: CommandId) => boolean {
  const sets = useHandlers((state) => state.sets)
  return useMemo(() => (id) => sets.some((set) => set.current[id]), [sets])
}

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || target.matches('input:not([type=checkbox], [type=radio], [type=range]), textarea, select'))

/** While a dialog is open, keys belong to it. */
const inDialog = (): boolean => document.querySelector('[role=dialog], [role=menu], [role=listbox]') !== null

/** Hears keys for the whole window. */
export function useKeyboard(): void {
  useLayoutEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const key = keyOf(event)
      if (!key || event.defaultPrevented) return
      const withControl = key.startsWith('Ctrl+')
      if (typing(event.target) && !(withControl && !/^Ctrl\+(Shift\+)?[AZXCVY]$|Arrow/.test(key))) return
      if (inDialog() && key !== 'Ctrl+K') return
      // a button that has the focus is pressed by its own keys
      if ((key === 'Space' || key === 'Enter') && event.target instanceof HTMLElement && event.target.closest('button, a, [role=button], [role=menuitem], summary')) {
        if (key === 'Enter' || event.target.closest('[data-own-space]')) return
      }
      const id = commandsFor(key).find((candidate) => handlerOf(candidate))
      if (!id) return
      event.preventDefault()
      run(id)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
}

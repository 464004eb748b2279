import { useLayoutEffect, useMemo, useRef } from 'react'
import { create } from 'zustand'
import { commandsFor, keyOf } from './keys'
import { commandOf, type CommandId } from './table'

/** What a command does here, where it is called something else than elsewhere, or cannot be done now for a reason. */
export interface Doing {
  run: () => void
  title?: string
  unable?: string | null
  /** It acts on something else here than on the selection or the join that it needs elsewhere. */
  free?: boolean
  /** It is switched on. */
  on?: boolean
}

/** What some commands do. */
export type Handlers = Partial<Record<CommandId, (() => void) | Doing>>

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

/** What there is to act on in the view that is shown. */
export const useActedOn = create<{ selection: boolean; join: boolean }>(() => ({ selection: false, join: false }))

/** Says what there is to act on, for as long as this view is shown. */
export function useActingOn({ selection, join }: { selection: boolean; join: boolean }): void {
  useLayoutEffect(() => useActedOn.setState({ selection, join }), [selection, join])
  useLayoutEffect(() => () => useActedOn.setState({ selection: false, join: false }), [])
}

const LACKS = { selection: 'Select a passage first.', join: 'There is no join here.' }

function doingOf(id: CommandId): Doing | undefined {
  const handler = useHandlers.getState().sets.find((set) => set.current[id])?.current[id]
  return typeof handler === 'function' ? { run: handler } : handler
}

/** What a command is called here. */
export const titleOf = (id: CommandId): string => doingOf(id)?.title ?? commandOf(id).title

export const isOn = (id: CommandId): boolean => doingOf(id)?.on ?? false

/** Why a command cannot be done now; null where it can. */
export function unableTo(id: CommandId): string | null {
  const doing = doingOf(id)
  if (!doing) return 'It does nothing on this screen.'
  const { needs } = commandOf(id)
  return doing.unable ?? (needs && !doing.free && !useActedOn.getState()[needs] ? LACKS[needs] : null)
}

/** Does a command; false where it does nothing here. */
export function run(id: CommandId): boolean {
  const doing = doingOf(id)
  doing?.run()
  return Boolean(doing)
}

export function useAvailable(): (id: CommandId) => boolean {
  const sets = useHandlers((state) => state.sets)
  return useMemo(() => (id) => sets.some((set) => set.current[id]), [sets])
}

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || target.matches('input:not([type=checkbox], [type=radio], [type=range]), textarea, select'))

/** While a dialog is open, keys belong to it. */
const inDialog = (): boolean => document.querySelector('[role=dialog], [role=menu], [role=listbox]') !== null

/** What has the focus was pointed at, and not reached by keys. */
let pointed = false

/** Somebody types, and the field they type in went away under their hands: what they go on to type is no command. */
class Typing {
  private field: Element | null = null
  private last = 0

  /** Hears of a key in a field. */
  inField(event: KeyboardEvent): void {
    // these end the writing on purpose
    const ends = ['Enter', 'Escape', 'Tab'].includes(event.key)
    this.field = ends ? null : (event.target as Element)
    this.last = performance.now()
  }

  /** Whether a key belongs to what is being typed, though its field is gone. */
  goesOn(event: KeyboardEvent): boolean {
    // a field that was left on purpose, or a key that writes nothing, ends the writing
    if (this.field?.isConnected || event.key.length > 1 || event.ctrlKey || event.metaKey) this.field = null
    if (!this.field || performance.now() - this.last > TYPING_MS) return false
    this.last = performance.now()
    return true
  }
}
const TYPING_MS = 800
const PRESSED_BY_KEY = 'button, a[href], input, [role=button], [role=menuitem], summary'

/** Hears keys for the whole window. */
export function useKeyboard(): void {
  useLayoutEffect(() => {
    const typed = new Typing()
    const onPointer = () => (pointed = true)
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Tab') pointed = false
      const key = keyOf(event)
      if (!key || event.defaultPrevented) return
      const withControl = key.startsWith('Ctrl+')
      if (typing(event.target)) {
        typed.inField(event)
        if (!(withControl && !/^Ctrl\+(Shift\+)?[AZXCVY]$|Arrow/.test(key))) return
      } else if (typed.goesOn(event)) return event.preventDefault()
      if (inDialog() && key !== 'Ctrl+K') return
      // a button that keys have brought the focus to is pressed by its own keys, one that is drawn too
      if ((key === 'Space' || key === 'Enter') && event.target instanceof Element && event.target.closest(PRESSED_BY_KEY)) {
        if (key === 'Enter' || !pointed || event.target.closest('[data-own-space]')) return
      }
      const id = commandsFor(key).find((candidate) => doingOf(candidate))
      if (!id) return
      event.preventDefault()
      run(id)
    }
    window.addEventListener('keydown', onKey)
    window.addEventListener('pointerdown', onPointer, true)
    return () => {
      window.removeEventListener('keydown', onKey)
      window.removeEventListener('pointerdown', onPointer, true)
    }
  }, [])
}

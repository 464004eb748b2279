import { create } from 'zustand'
import { COMMAND_IDS, COMMANDS, type CommandId } from './table'

/** Keys as they are written in the table, from what a keyboard says. */

/** The key of an event as text: `Ctrl+Shift+Z`, `?`, `Shift+1`. Null for a modifier alone. */
export function keyOf(event: Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): string | null {
  if (['Control', 'Shift', 'Alt', 'Meta', 'CapsLock', 'Dead', 'Process'].includes(event.key)) return null
  const digit = /^(?:Digit|Numpad)(\d)$/.exec(event.code)?.[1]
  // what Alt makes of a letter on some keyboards is no letter
  const letter = event.altKey && !event.ctrlKey && !/^[!-~]$/.test(event.key) ? /^Key([A-Z])$/.exec(event.code)?.[1] : undefined
  let key = digit ?? letter ?? (event.key === ' ' ? 'Space' : event.key.length === 1 ? event.key.toUpperCase() : event.key)
  // what Shift makes of a key is the key itself, but for letters, digits and named keys
  const shift = event.shiftKey && (digit !== undefined || key.length > 1 || /^\p{L}$/u.test(key))
  if (key === '+' && event.ctrlKey) key = '+'
  return `${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${event.altKey ? 'Alt+' : ''}${shift ? 'Shift+' : ''}${key}`
}

type Reassigned = Partial<Record<CommandId, string[]>>

const stored = (): Reassigned => JSON.parse(localStorage.keys ?? '{}') as Reassigned

export const useKeys = create<{ reassigned: Reassigned }>(() => ({ reassigned: stored() }))

export const keysOf = (id: CommandId): readonly string[] => useKeys.getState().reassigned[id] ?? COMMANDS[id].keys

/** Gives a command another key; null gives it back its own. */
export function reassign(id: CommandId, key: string | null): void {
  const reassigned = { ...useKeys.getState().reassigned }
  if (key === null) delete reassigned[id]
  else reassigned[id] = [key]
  localStorage.keys = JSON.stringify(reassigned)
  useKeys.setState({ reassigned })
}

export const commandsFor = (key: string): CommandId[] => COMMAND_IDS.filter((id) => keysOf(id).includes(key))

const SIGNS: Record<string, string> = { ArrowLeft: '←', ArrowRight: '→', ArrowUp: '↑', ArrowDown: '↓', Backspace: '⌫', Escape: 'Esc', Enter: '↵', Delete: 'Del' }

/** A key as it is shown on a key cap. */
export const keyCap = (key: string): string =>
  key
    .split(/\+(?=.)/)
    .map((part) => SIGNS[part] ?? part)
    .join(' ')

/** The keys of commands as they are now, for a sentence: `[ and ]`. */
export const keysInWords = (...ids: CommandId[]): string => ids.map((id) => (keysOf(id)[0] ? keyCap(keysOf(id)[0]) : COMMANDS[id].title)).join(' and ')

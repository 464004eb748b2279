import { create } from 'zustand'
import { COMMAND_IDS, COMMANDS, type CommandId } from './table'

/** Keys as they are written in the table, from what a keyboard says. */

/** What is read of a key that is pressed. */
export type Pressed = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'> & {
  isComposing?: boolean
  getModifierState?: (key: string) => boolean
}

export const ON_MAC = /Mac|iPhone|iPad/.test(globalThis.navigator?.platform ?? '')

/** Keys that say nothing by themselves, or belong to a composition. */
const NOT_KEYS = ['Control', 'Shift', 'Alt', 'AltGraph', 'Meta', 'CapsLock', 'NumLock', 'Process', 'Unidentified', 'Fn']

/**
 * The key of an event as text: `Ctrl+Shift+Z`, `?`, `Shift+1`. Null for a modifier alone, and in a composition.
 * A letter is what is printed on the key; where that is of another script, or Alt made a sign or a dead key of it,
 * it is the letter in that place of a Latin keyboard. A digit is the key in the digits' row, whatever is printed there.
 * On a Mac ⌘ is written as `Ctrl`, and both ⌃ and ⌥ as `Alt`: ⌥ writes signs there. AltGr is no modifier: it makes signs.
 */
export function keyOf(event: Pressed, mac = ON_MAC): string | null {
  if (event.isComposing || NOT_KEYS.includes(event.key)) return null
  const altGraph = !mac && Boolean(event.getModifierState?.('AltGraph')) && event.key.length === 1
  const [ctrl, alt] = altGraph
    ? [false, false]
    : mac
      ? [event.metaKey, event.altKey || event.ctrlKey]
      : [event.ctrlKey || event.metaKey, event.altKey]
  const placed = /^Key([A-Z])$/.exec(event.code)?.[1]
  if (event.key === 'Dead' && !(alt && placed)) return null
  // the keypad's keys are digits only while it is locked to them
  const digit = altGraph ? undefined : (/^Digit(\d)$/.exec(event.code)?.[1] ?? (/^\d$/.test(event.key) ? event.key : undefined))
  const latin = /^[!-~]$/.test(event.key) || (/^\p{Script=Latin}$/u.test(event.key) && !alt)
  const named = event.key.length > 1 && event.key !== 'Dead'
  let key = digit ?? (named ? event.key : event.key === ' ' ? 'Space' : !latin && placed ? placed : event.key.toUpperCase())
  // on some keyboards a sign stands above a digit
  const sign = digit !== undefined && event.shiftKey && !ctrl && !alt && SIGNS_OF_COMMANDS.has(event.key)
  if (sign) key = event.key
  // what Shift makes of a key is the key itself, but for letters, digits and named keys
  const shift = event.shiftKey && !sign && (digit !== undefined || key.length > 1 || /^\p{L}$/u.test(key))
  return `${ctrl ? 'Ctrl+' : ''}${alt ? 'Alt+' : ''}${shift ? 'Shift+' : ''}${key}`
}

/** Signs that are keys of commands. */
const SIGNS_OF_COMMANDS = new Set(
  COMMAND_IDS.flatMap((id): readonly string[] => COMMANDS[id].keys).filter((key) => /^[^\p{L}\p{N}]$/u.test(key)),
)

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

const SIGNS: Record<string, string> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  Backspace: '⌫',
  Escape: 'Esc',
  Enter: '↵',
  Delete: 'Del',
}
const ON_A_MAC: Record<string, string> = { Ctrl: '⌘', Alt: '⌃', Shift: '⇧' }

/** A key as it is shown on a key cap. */
export const keyCap = (key: string): string =>
  key
    .split(/\+(?=.)/)
    .map((part) => SIGNS[part] ?? (ON_MAC ? ON_A_MAC[part] : undefined) ?? part)
    .join(' ')

/** The keys of commands as they are now, for a sentence: `[ and ]`. */
export const keysInWords = (...ids: CommandId[]): string =>
  ids.map((id) => (keysOf(id)[0] ? keyCap(keysOf(id)[0]) : COMMANDS[id].title)).join(' and ')

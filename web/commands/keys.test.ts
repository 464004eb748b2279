import { beforeAll, expect, it, vi } from 'vitest'
import type { Pressed } from './keys'

beforeAll(() => {
  vi.stubGlobal('localStorage', {})
})

const press = (key: string, more: Partial<Pressed> = {}): Pressed => ({
  key,
  code: '',
  ctrlKey: false,
  metaKey: false,
  altKey: false,
  shiftKey: false,
  ...more,
})

it('writes keys as the table does', async () => {
  const { keyOf, keyCap } = await import('./keys')
  expect(keyOf(press('z', { ctrlKey: true, shiftKey: true }))).toBe('Ctrl+Shift+Z')
  expect(keyOf(press('z', { metaKey: true }))).toBe('Ctrl+Z')
  expect(keyOf(press('?', { shiftKey: true }))).toBe('?')
  expect(keyOf(press('!', { code: 'Digit1', shiftKey: true }))).toBe('Shift+1')
  // where Alt makes another sign of a letter
  expect(keyOf(press('¬', { code: 'KeyL', altKey: true }))).toBe('Alt+L')
  expect(keyOf(press('a', { code: 'KeyQ', altKey: true }))).toBe('Alt+A')
  expect(keyOf(press(' '))).toBe('Space')
  expect(keyOf(press('Shift', { shiftKey: true }))).toBeNull()
  expect(keyCap('Ctrl+Shift+ArrowLeft')).toBe('Ctrl Shift ←')
  expect(keyCap('+')).toBe('+')
})

it.each([
  // [what is pressed, which key it is]
  ['QWERTZ: the key printed z', press('z', { code: 'KeyY' }), 'Z'],
  ['AZERTY: the key printed a', press('a', { code: 'KeyQ' }), 'A'],
  ['AZERTY: the digit that needs Shift', press('&', { code: 'Digit1' }), '1'],
  ['AZERTY: the same with Shift', press('1', { code: 'Digit1', shiftKey: true }), 'Shift+1'],
  ['German: / stands above 7', press('/', { code: 'Digit7', shiftKey: true }), '/'],
  ['German: [ is AltGr 8', press('[', { code: 'Digit8', ctrlKey: true, altKey: true, getModifierState: (key) => key === 'AltGraph' }), '['],
  ['Nordic: å is å', press('å', { code: 'BracketLeft' }), 'Å'],
  ['Cyrillic: п stands where G does', press('п', { code: 'KeyG' }), 'G'],
  ['Cyrillic with Ctrl: я stands where Z does', press('я', { code: 'KeyZ', ctrlKey: true }), 'Ctrl+Z'],
  ['Cyrillic with Shift', press('Ы', { code: 'KeyS', shiftKey: true }), 'Shift+S'],
  ['the keypad’s arrow, unlocked', press('ArrowLeft', { code: 'Numpad4' }), 'ArrowLeft'],
  ['the keypad’s digit, locked', press('4', { code: 'Numpad4' }), '4'],
  ['in a composition', press('a', { code: 'KeyA', isComposing: true }), null],
  ['a dead key', press('Dead', { code: 'BracketLeft' }), null],
] as const)('reads every keyboard: %s', async (_name, pressed, key) => {
  const { keyOf } = await import('./keys')
  expect(keyOf(pressed, false)).toBe(key)
})

it.each([
  ['⌘ Z', press('z', { code: 'KeyZ', metaKey: true }), 'Ctrl+Z'],
  ['⌥ E makes a dead key', press('Dead', { code: 'KeyE', altKey: true }), 'Alt+E'],
  ['⌥ L makes a sign', press('¬', { code: 'KeyL', altKey: true }), 'Alt+L'],
  ['⌃ L does as well', press('l', { code: 'KeyL', ctrlKey: true }), 'Alt+L'],
] as const)('and on a Mac: %s', async (_name, pressed, key) => {
  const { keyOf } = await import('./keys')
  expect(keyOf(pressed, true)).toBe(key)
})

it('finds a command by other words that people know it by', async () => {
  const { COMMAND_IDS, commandOf } = await import('./table')
  const found = (word: string) =>
    COMMAND_IDS.filter((id) => `${commandOf(id).title} ${commandOf(id).also ?? ''}`.toLowerCase().includes(word))
  const words = ['delete', 'export', 'bleep', 'pause', 'filler', 'restore', 'volume', 'split', 'solo', 'microphone']
  expect(words.filter((word) => !found(word).length)).toEqual([])
})

it('lets keys be given away and taken back', async () => {
  const { commandsFor, reassign } = await import('./keys')
  expect(commandsFor('P')).toEqual(['edit.pull'])
  reassign('edit.pull', 'Alt+F')
  expect([commandsFor('P'), commandsFor('Alt+F')]).toEqual([[], ['edit.pull']])
  reassign('edit.pull', null)
  expect(commandsFor('P')).toEqual(['edit.pull'])
})

it('gives no key two meanings on one screen', async () => {
  const { COMMANDS, COMMAND_IDS } = await import('./table')
  const seen = new Map<string, string[]>()
  for (const id of COMMAND_IDS) for (const key of COMMANDS[id].keys) seen.set(key, [...(seen.get(key) ?? []), id])
  // blocks on a page are no sound: the same key does the like to them; and a board is a screen of its own
  const twice = [...seen].filter(([, ids]) => ids.filter((id) => !/^(page|live)\./.test(id)).length > 1)
  expect(twice).toEqual([])
})

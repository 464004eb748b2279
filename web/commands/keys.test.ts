import { beforeAll, expect, it, vi } from 'vitest'

beforeAll(() => {
  vi.stubGlobal('localStorage', {})
})

const press = (key: string, more: Partial<KeyboardEvent> = {}) => ({ key, code: '', ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...more })

it('writes keys as the table does', async () => {
  const { keyOf, keyCap } = await import('./keys')
  expect(keyOf(press('z', { ctrlKey: true, shiftKey: true }))).toBe('Ctrl+Shift+Z')
  expect(keyOf(press('z', { metaKey: true }))).toBe('Ctrl+Z')
  expect(keyOf(press('?', { shiftKey: true }))).toBe('?')
  expect(keyOf(press('!', { code: 'Digit1', shiftKey: true }))).toBe('Shift+1')
  // where Alt makes another sign of a letter
  expect(keyOf(press('¬', { code: 'KeyL', altKey: true }))).toBe('Alt+L')
  expect(keyOf(press('a', { code: 'KeyQ', altKey: true }))).toBe('Alt+A')
  expect(keyOf(press('€', { code: 'KeyE', altKey: true, ctrlKey: true }))).toBe('Ctrl+Alt+€')
  expect(keyOf(press(' '))).toBe('Space')
  expect(keyOf(press('Shift', { shiftKey: true }))).toBeNull()
  expect(keyCap('Ctrl+Shift+ArrowLeft')).toBe('Ctrl Shift ←')
  expect(keyCap('+')).toBe('+')
})

it('lets keys be given away and taken back', async () => {
  const { commandsFor, reassign } = await import('./keys')
  expect(commandsFor('P')).toEqual(['edit.pull'])
  reassign('edit.pull', 'Shift+Q')
  expect([commandsFor('P'), commandsFor('Shift+Q')]).toEqual([[], ['edit.pull']])
  reassign('edit.pull', null)
  expect(commandsFor('P')).toEqual(['edit.pull'])
})

it('gives no key two meanings on one screen', async () => {
  const { COMMANDS, COMMAND_IDS } = await import('./table')
  const seen = new Map<string, string[]>()
  for (const id of COMMAND_IDS) for (const key of COMMANDS[id].keys) seen.set(key, [...(seen.get(key) ?? []), id])
  // blocks on a page are no sound: the same key does the like to them
  const twice = [...seen].filter(([, ids]) => ids.filter((id) => !id.startsWith('page.')).length > 1)
  expect(twice).toEqual([])
})

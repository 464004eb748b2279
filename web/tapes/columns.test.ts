import { beforeAll, expect, it, vi } from 'vitest'

beforeAll(() => {
  vi.stubGlobal('localStorage', {})
})

it('a narrow list of tapes does without its lesser columns, and shows what was chosen where there is room', async () => {
  const { fitting } = await import('./columns')
  const chosen = { added: false, words: false, disk: false, stories: false }
  const hidden = (width: number) =>
    Object.entries(fitting(chosen, width)).flatMap(([id, on]) => (on === false && !(id in chosen) ? [id] : []))
  expect(hidden(Infinity)).toEqual([])
  expect(hidden(860)).toEqual(['day'])
  expect(hidden(600)).toEqual(['day', 'tags', 'state'])
  expect(hidden(300).includes('length')).toBe(false)
})

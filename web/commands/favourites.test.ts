import { afterEach, describe, expect, it, vi } from 'vitest'

/** What is kept in the browser when the module is loaded. */
async function loaded(kept?: string) {
  const storage: { favourites?: string } = kept === undefined ? {} : { favourites: kept }
  vi.stubGlobal('localStorage', storage)
  vi.resetModules()
  const { toggleCommand, toggleSpeed, useFavourites } = await import('./favourites')
  return { storage, toggleCommand, toggleSpeed, now: () => useFavourites.getState() }
}

afterEach(() => vi.unstubAllGlobals())

describe('favourites', () => {
  it('are kept in the order in which they were chosen, speeds in their own', async () => {
    const { storage, toggleCommand, toggleSpeed, now } = await loaded()
    expect(now()).toEqual({ commands: [], speeds: [] })
    toggleCommand('edit.mark')
    toggleCommand('edit.takeOut')
    toggleSpeed(2)
    toggleSpeed(0.8)
    expect(now()).toEqual({ commands: ['edit.mark', 'edit.takeOut'], speeds: [0.8, 2] })
    toggleCommand('edit.mark')
    toggleSpeed(2)
    expect(JSON.parse(storage.favourites!)).toEqual({ commands: ['edit.takeOut'], speeds: [0.8] })
    expect((await loaded(storage.favourites)).now()).toEqual({ commands: ['edit.takeOut'], speeds: [0.8] })
  })

  it('are none of what nobody knows, whatever the browser kept', async () => {
    expect((await loaded(JSON.stringify({ commands: ['edit.mark', 'gone.long.ago', 7], speeds: [1, 99, '2'] }))).now()).toEqual({
      commands: ['edit.mark'],
      speeds: [1],
    })
    for (const broken of ['{', '[]', 'null', '7', JSON.stringify({ commands: 'edit.mark' })])
      expect((await loaded(broken)).now()).toEqual({ commands: [], speeds: [] })
  })
})

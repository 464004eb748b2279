import { describe, expect, it, vi } from 'vitest'
import type { Doing, Handlers } from './commands'
import { oneAtATime } from './oneAtATime'

vi.mock('sonner', () => ({ toast: () => undefined }))

describe('while several passages are chosen', () => {
  const done: string[] = []
  const does = (name: string) => () => void done.push(name)
  const handlers: Handlers = {
    'edit.takeOut': does('take out'),
    'level.softer': { run: does('softer'), title: 'Level down 1.5 dB', unable: null },
    'patch.find': does('patch'),
    'page.send': { run: does('send'), title: 'Send the selection' },
    'select.clear': does('clear'),
    'play.toggle': does('play'),
  }
  const run = (of: Handlers, id: keyof Handlers) => {
    const handler = of[id]!
    if (typeof handler === 'function') handler()
    else handler.run()
  }

  it('what can be done to several is done, and so is what needs none', () => {
    const now = oneAtATime(handlers, true)
    for (const id of ['edit.takeOut', 'level.softer', 'select.clear', 'play.toggle'] as const) run(now, id)
    expect(done.splice(0)).toEqual(['take out', 'softer', 'clear', 'play'])
  })

  it('what works on one says so and does nothing: it never takes several for one, or for all', () => {
    const now = oneAtATime(handlers, true)
    for (const id of ['patch.find', 'page.send'] as const) {
      run(now, id)
      expect((now[id] as Doing).unable).toBe('This works on one passage at a time.')
    }
    expect((now['page.send'] as Doing).title).toBe('Send the selection')
    expect(done).toEqual([])
  })

  it('with one chosen, or none, everything is as it was', () => {
    expect(oneAtATime(handlers, false)).toBe(handlers)
  })
})

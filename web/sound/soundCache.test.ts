import { afterEach, describe, expect, it, vi } from 'vitest'
import { SoundCache } from './soundCache'

const LENGTH = 100_000
const asked: string[] = []
const answer = (url: string) => {
  asked.push(url)
  const range = new URL(url, 'http://x').searchParams
  const from = Math.min(LENGTH, Number(range.get('from')))
  const to = Math.min(LENGTH, Number(range.get('to')))
  return Promise.resolve(new Response(Float32Array.from({ length: to - from }, (_, i) => from + i).buffer))
}

afterEach(() => {
  asked.length = 0
  vi.unstubAllGlobals()
})

describe('sound at hand', () => {
  it('is fetched once, in one request for what lies together, and given exactly', async () => {
    vi.stubGlobal('fetch', answer)
    const cache = new SoundCache()
    await cache.ensure('t', 0, 1000, 60_000)
    expect(asked).toHaveLength(1)
    expect(cache.ensure('t', 0, 2000, 50_000)).toBeNull()
    const got = cache.read('t', 0, 16_300, 50_000)
    for (let i = 0; i < got.length; i += 97) expect(got[i]).toBe(16_300 + i)
  })
  it('is silence before the start and past the end', async () => {
    vi.stubGlobal('fetch', answer)
    const cache = new SoundCache()
    await cache.ensure('t', 0, 90_000, 110_000)
    const end = cache.read('t', 0, 99_990, 100_010)
    expect([...end]).toEqual([...Array.from({ length: 10 }, (_, i) => 99_990 + i), ...Array(10).fill(0)])
    await cache.ensure('t', 0, -10, 10)
    expect([...cache.read('t', 0, -3, 3)]).toEqual([0, 0, 0, 0, 1, 2])
  })
  it('of a made tone is asked for by its name', async () => {
    vi.stubGlobal('fetch', answer)
    await new SoundCache().ensure('t.tone', 1, 0, 10)
    expect(asked[0]).toContain('/tapes/t/sound/tone/1?')
  })
  it('that did not come is asked for again', async () => {
    vi.stubGlobal('fetch', () => Promise.resolve(new Response('', { status: 500 })))
    const cache = new SoundCache()
    await expect(cache.ensure('t', 0, 0, 10)).rejects.toThrow('did not come')
    vi.stubGlobal('fetch', answer)
    await cache.ensure('t', 0, 0, 10)
    expect(cache.read('t', 0, 5, 6)[0]).toBe(5)
  })
})

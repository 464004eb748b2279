import { afterEach, describe, expect, it, vi } from 'vitest'
import { PEAK_LEVELS, PER_BIN } from '../../core/sound/peaks'

const BINS = 16_384
const FRAMES = BINS * PEAK_LEVELS[0]

/** A server whose answers are let go by hand; bins of chunk n run from -n/10 to n/10. */
async function setUp() {
  vi.resetModules()
  const open: { chunk: number; answer: (ok?: boolean) => Promise<void> }[] = []
  vi.stubGlobal('fetch', (url: string) =>
    new Promise<Response>((resolve, reject) => {
      const chunk = Number(new URL(url, 'http://x').searchParams.get('from')) / BINS
      const answer = async (ok = true) => {
        if (!ok) reject(new TypeError('gone'))
        const level = Math.round(chunk * 3276.7)
        resolve(new Response(Int16Array.from({ length: BINS * PER_BIN }, (_, i) => [-level, level, level / 2][i % PER_BIN]).buffer))
        await vi.waitFor(() => expect(open.some((one) => one.answer === answer)).toBe(false))
      }
      open.push({ chunk, answer })
    }).finally(
      () =>
        void open.splice(
          open.findIndex((one) => one.chunk === Number(new URL(url, 'http://x').searchParams.get('from')) / BINS),
          1,
        ),
    ),
  )
  const { peakCache } = await import('./peakCache')
  const out = new Float64Array(3)
  const look = (chunk: number) => peakCache.range('tape', 0, 0, chunk * FRAMES, chunk * FRAMES + 640, out)
  return { peakCache, open, look, out, asked: () => open.map(({ chunk }) => chunk) }
}

afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

describe('peaks at hand', () => {
  it('are fetched once, and then given as factors', async () => {
    const { peakCache, open, look, out, asked } = await setUp()
    const heard = new Promise<void>((done) => void peakCache.onChange(done))
    expect([look(3), look(3)]).toEqual([false, false])
    expect(asked()).toEqual([3])
    void open[0].answer()
    await heard
    expect(look(3)).toBe(true)
    expect(out[0]).toBeCloseTo(-0.3, 4)
    expect(out[1]).toBeCloseTo(0.3, 4)
    expect(Math.sqrt(out[2])).toBeCloseTo(0.15, 4)
  })

  it('leave ways to the server free, and what was only passed by is not fetched', async () => {
    const { peakCache, open, look, asked } = await setUp()
    // who scrolls past ten places and stays at the last looks at that one again when something arrives
    const stop = peakCache.onChange(() => look(9))
    for (let chunk = 0; chunk < 10; chunk++) look(chunk)
    expect(asked()).toEqual([0, 1, 2])
    await open[0].answer()
    await vi.waitFor(() => expect(asked()).toEqual([1, 2, 9]))
    stop()
    expect(look(4)).toBe(false)
    await open[0].answer()
    await vi.waitFor(() => expect(asked()).toEqual([2, 9]))
    expect(look(4)).toBe(false)
    expect(asked()).toEqual([2, 9, 4])
  })

  it('that did not come are asked for again a second later', async () => {
    const { peakCache, open, look, asked } = await setUp()
    vi.useFakeTimers()
    look(1)
    void open[0].answer(false)
    await vi.advanceTimersByTimeAsync(500)
    expect(asked()).toEqual([])
    look(1)
    expect(asked()).toEqual([])
    const again = new Promise<void>((done) => void peakCache.onChange(() => done()))
    await vi.advanceTimersByTimeAsync(600)
    await again
    look(1)
    expect(asked()).toEqual([1])
  })
})

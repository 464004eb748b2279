import { afterEach, expect, it, vi } from 'vitest'
import { planOf, type TapeFacts } from '../../core/render/plan'
import { PEAK_LEVELS, PER_BIN } from '../../core/sound/peaks'
import { RATE } from '../../core/time'

afterEach(() => vi.unstubAllGlobals())

it('a side that is heard mended is drawn as its rendition, and tone that was made not at all', async () => {
  vi.resetModules()
  const asked: string[] = []
  vi.stubGlobal('fetch', async (url: string) => {
    asked.push(String(url).split('?')[0])
    return new Response(Int16Array.from({ length: 64 * PER_BIN }, (_, i) => [-8000, 8000, 100][i % PER_BIN]).buffer)
  })
  const { Wave } = await import('./wave')
  const facts: TapeFacts = {
    id: 'tape',
    frames: 10 * RATE,
    sides: [{ name: '', channels: [0], rendition: 'made' }],
    renditions: ['made'],
    tone: { sound: 'tape.tone', quiet: [{ from: 0, to: RATE }] },
  }
  const columnOf = async (sound: 'tape' | 'tone') => {
    const wave = new Wave(planOf([{ tape: 'tape', from: 0, to: RATE, sound }], () => facts))
    const out = new Float64Array(3)
    await vi.waitFor(() => expect(wave.column(0, 8 * PEAK_LEVELS[0], PEAK_LEVELS[0], out)).toBe(true))
    return [...out]
  }
  const [low, high] = await columnOf('tape')
  expect(low).toBeCloseTo(-8000 / 32767, 3)
  expect(high).toBeCloseTo(8000 / 32767, 3)
  expect(asked.every((path) => path.endsWith('/tapes/tape/peaks/made/0/0'))).toBe(true)
  expect(await columnOf('tone')).toEqual([0, 0, 0])
})

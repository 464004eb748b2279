import { describe, expect, it } from 'vitest'
import { RATE } from '../../core/time'
import { filling } from './filling'

const LOOK = { framesPerLine: 5 * RATE, even: false, waveHeight: 44 }
const used = (seconds: number, height: number) => {
  const { framesPerLine, waveHeight } = filling(LOOK, seconds * RATE, height, 47)
  return { lines: Math.ceil((seconds * RATE) / framesPerLine), framesPerLine, waveHeight }
}

describe('a short piece', () => {
  it.each([3, 6.8, 9, 14])('of %f s uses its screen, in lines that are about equally long', (seconds) => {
    const { lines, framesPerLine, waveHeight } = used(seconds, 420)
    const height = lines * (waveHeight + 47)
    expect(height).toBeLessThanOrEqual(420)
    expect(height).toBeGreaterThan(420 * 0.4)
    // the last line is no lonely half
    expect((seconds * RATE) / framesPerLine / lines).toBeGreaterThan(0.8)
  })

  it('that is long, or has no room, is looked at as ever', () => {
    expect(filling(LOOK, 60 * RATE, 420, 47)).toEqual(LOOK)
    expect(filling(LOOK, 8 * RATE, 120, 47)).toEqual(LOOK)
  })
})

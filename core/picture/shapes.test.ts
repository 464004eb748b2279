import { describe, expect, it } from 'vitest'
import { coverOf, SHAPES, SHEETS, type Area } from './shapes'

const meet = (a: Area, b: Area): boolean => a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height

describe('the shapes of a picture', () => {
  it.each(SHAPES)('%s: what lies on it lies within it, and nothing over anything else', (shape) => {
    const { width, height, still, title, caption, wave } = SHEETS[shape]
    const areas = [still, title, caption, wave]
    for (const [i, area] of areas.entries()) {
      expect(area.x).toBeGreaterThanOrEqual(0)
      expect(area.x + area.width).toBeLessThanOrEqual(width)
      expect(area.y + area.height).toBeLessThanOrEqual(height)
      for (const other of areas.slice(i + 1)) expect(meet(area, other)).toBe(false)
    }
    // two lines of captions have their room, and the coder takes even sizes alone
    expect(caption.height).toBeGreaterThanOrEqual(150)
    expect([width % 2, height % 2, caption.y % 2, wave.y % 2]).toEqual([0, 0, 0, 0])
  })

  it('an image fills its area from its middle, and is not bent', () => {
    const area = { x: 0, y: 0, width: 200, height: 100 }
    expect(coverOf({ width: 400, height: 400 }, area)).toEqual({ x: 0, y: 100, width: 400, height: 200 })
    expect(coverOf({ width: 400, height: 100 }, area)).toEqual({ x: 100, y: 0, width: 200, height: 100 })
  })
})

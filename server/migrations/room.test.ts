import { expect, it } from 'vitest'
import { withRoom } from './1764800000000-room'

const span = (from: number, to: number, sound = 'tape') => ({ tape: 'a', from, to, sound })

it('tells room that was added from time that is held', () => {
  // a pause made longer, a cut with a pause, and held time
  expect(withRoom([span(0, 100), span(100, 150, 'tone'), span(100, 200)])[1].sound).toBe('room')
  expect(withRoom([span(0, 100), span(100, 150, 'tone'), span(400, 500)])[1].sound).toBe('room')
  expect(withRoom([span(0, 100), span(100, 400, 'tone'), span(400, 500)])[1].sound).toBe('tone')
  expect(withRoom([span(0, 100, 'tone'), span(100, 200)])[0].sound).toBe('tone')
})

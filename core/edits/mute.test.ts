import { expect, it } from 'vitest'
import { planOf, type TapeFacts } from '../render/plan'
import { applyAll } from '../steps/document'
import { actualityType, clipLength, type Actuality } from './actuality'
import { nicks } from './gone'
import { muted, toggleMute } from './mute'
import { pieceWords } from './pieceWords'

const whole: Actuality = {
  kind: 'actuality',
  slug: '',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 0, to: 10_000, sound: 'tape' }],
  head: 100,
  tail: 100,
}
const mute = (piece: Actuality, from: number, to: number) => applyAll(actualityType, piece, toggleMute(piece, { from, to }))
const facts = (id: string): TapeFacts => ({
  id,
  frames: 20_000,
  sides: [{ name: '', channels: [0] }],
  tone: { sound: 'room', quiet: [{ from: 0, to: 20_000 }] },
})

it('what is muted keeps its time and its place, and only room tone is heard of it', () => {
  const after = mute(whole, 3000, 6000)
  expect(clipLength(after)).toBe(10_000)
  expect(muted(after)).toMatchObject([{ from: 3000, to: 6000 }])
  // it was not taken out
  expect(nicks(after)).toEqual([])
  const sounding = planOf(after.spans, facts).strips.filter(({ sound }) => sound === 'a')
  expect(sounding.every(({ at, length }) => at + length <= 3000 + 480 || at >= 6000 - 480)).toBe(true)
  expect(
    pieceWords(after.spans, () => [
      { text: 'not', from: 4000, to: 5000 },
      { text: 'here', from: 7000, to: 8000 },
    ]).map(({ text }) => text),
  ).toEqual(['here'])
})

it('is heard again as if nothing had been', () => {
  const after = mute(whole, 3000, 6000)
  expect(mute(after, 3000, 6000).spans).toEqual(whole.spans)
  // in part
  expect(muted(mute(after, 4000, 5000))).toMatchObject([
    { from: 3000, to: 4000 },
    { from: 5000, to: 6000 },
  ])
})

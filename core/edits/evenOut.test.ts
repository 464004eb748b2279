import { expect, it } from 'vitest'
import { lineAt } from '../sound/level'
import { applyAll } from '../steps/document'
import { RATE } from '../time'
import { actualityType, type Actuality } from './actuality'
import { evened, phrasesIn, speechBeside, withChanges } from './evenOut'

const words = [0, 1, 2, 3, 4, 5].map((i) => ({
  at: i * 10_000,
  end: i * 10_000 + 9000,
  phraseEnd: i % 2 === 1,
  speaker: i < 4 ? 'Piet' : 'Kit',
}))
const loud = (loudness: number, speaker = 'Piet') => ({ loudness, speaker })
const phrase = (from: number, to: number, loudness: number, speaker = 'Piet') => ({ from, to, loudness, speaker })

it('goes by phrases, and measures them from word to word', () => {
  expect(phrasesIn(words, { from: 19_000, to: 90_000 })).toEqual([
    { from: 19_000, to: 39_000, speech: { from: 20_000, to: 39_000 }, speaker: 'Piet' },
    { from: 40_000, to: 90_000, speech: { from: 40_000, to: 59_000 }, speaker: 'Kit' },
  ])
  expect(phrasesIn(words, { from: 21_000, to: 28_000 })).toMatchObject([{ from: 20_000, to: 29_000 }])
  expect(phrasesIn([], { from: 5, to: 50 })).toMatchObject([{ from: 5, to: 50 }])
})

it('looks beside it at speech alone: no room, and nobody else', () => {
  // a last phrase before half a second of room
  expect(speechBeside(words, { from: 20_000, to: 39_000 }, 63_000)).toEqual([
    { from: 0, to: 19_000, speaker: 'Piet' },
    { from: 40_000, to: 59_000, speaker: 'Kit' },
  ])
  expect(speechBeside(words, { from: 40_000, to: 59_000 }, 59_000 + RATE / 2).every(({ to }) => to <= 39_000)).toBe(true)
  expect(speechBeside([], { from: 100_000, to: 200_000 }, 250_000)).toMatchObject([
    { from: 0, to: 100_000 },
    { from: 200_000, to: 250_000 },
  ])
})

it('brings a phrase to the level of what the same speaker says beside it', () => {
  expect(evened([phrase(0, 10, -27.1)], [loud(-22), loud(-24)])).toEqual([{ from: 0, to: 10, dB: 4 }])
  expect(evened([phrase(0, 10, -23.1)], [loud(-22), loud(-24)])).toEqual([])
  expect(evened([phrase(0, 10, -60)], [loud(-20)])).toMatchObject([{ dB: 12 }])
  expect(evened([phrase(0, 10, -Infinity)], [loud(-20)])).toEqual([])
  expect(evened([phrase(0, 10, -30)], [loud(-Infinity)])).toEqual([])
  // a soft last phrase comes up, whatever the other one does
  expect(evened([phrase(0, 10, -30)], [loud(-24), loud(-40, 'Kit')])).toEqual([{ from: 0, to: 10, dB: 6 }])
  expect(evened([phrase(0, 10, -30), phrase(10, 20, -26)], [])).toEqual([
    { from: 0, to: 10, dB: 2 },
    { from: 10, to: 20, dB: -2 },
  ])
})

it('leaves what lies beside it, and adds to the line that is there', () => {
  const whole: Actuality = {
    kind: 'actuality',
    slug: '',
    speaker: '',
    role: '',
    story: null,
    spans: [{ tape: 'a', from: 0, to: 600_000, sound: 'tape', level: [{ at: 0, dB: -3 }] }],
    head: 0,
    tail: 0,
  }
  const { spans } = applyAll(actualityType, whole, withChanges(whole, [{ from: 100_000, to: 200_000, dB: 4 }]))
  expect([99_000, 150_000, 201_000].map((at) => lineAt(spans[0].level!, at))).toEqual([-3, 1, -3])
})

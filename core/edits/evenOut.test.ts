import { expect, it } from 'vitest'
import { applyAll } from '../steps/document'
import { actualityType, type Actuality } from './actuality'
import { beside, evened, phrasesIn, withChanges } from './evenOut'
import { lineAt } from '../sound/level'

const words = [0, 1, 2, 3, 4, 5].map((i) => ({ at: i * 10_000, end: i * 10_000 + 9000, phraseEnd: i % 2 === 1 }))

it('goes by phrases', () => {
  expect(phrasesIn(words, { from: 19_000, to: 60_000 })).toEqual([{ from: 19_000, to: 39_000 }, { from: 40_000, to: 60_000 }])
  expect(phrasesIn(words, { from: 21_000, to: 28_000 })).toEqual([{ from: 20_000, to: 29_000 }])
  expect(phrasesIn([], { from: 5, to: 50 })).toEqual([{ from: 5, to: 50 }])
})

it('brings a phrase to the level of what is said beside it', () => {
  expect(evened([{ from: 0, to: 10, loudness: -27.1 }], [-22, -24])).toEqual([{ from: 0, to: 10, dB: 4 }])
  expect(evened([{ from: 0, to: 10, loudness: -23.1 }], [-22, -24])).toEqual([])
  expect(evened([{ from: 0, to: 10, loudness: -60 }], [-20])).toMatchObject([{ dB: 12 }])
  expect(evened([{ from: 0, to: 10, loudness: -Infinity }], [-20])).toEqual([])
  expect(evened([{ from: 0, to: 10, loudness: -30 }], [-Infinity])).toEqual([])
  expect(evened([{ from: 0, to: 10, loudness: -30 }, { from: 10, to: 20, loudness: -26 }], [])).toEqual([{ from: 0, to: 10, dB: 2 }, { from: 10, to: 20, dB: -2 }])
})

it('leaves what lies beside it, and adds to the line that is there', () => {
  const whole: Actuality = { kind: 'actuality', slug: '', speaker: '', role: '', story: null, spans: [{ tape: 'a', from: 0, to: 600_000, sound: 'tape', level: [{ at: 0, dB: -3 }] }], head: 0, tail: 0 }
  expect(beside({ from: 100_000, to: 200_000 }, 250_000)).toEqual([{ from: 0, to: 100_000 }, { from: 200_000, to: 250_000 }])
  const { spans } = applyAll(actualityType, whole, withChanges(whole, [{ from: 100_000, to: 200_000, dB: 4 }]))
  expect([99_000, 150_000, 201_000].map((at) => lineAt(spans[0].level!, at))).toEqual([-3, 1, -3])
})

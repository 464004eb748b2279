import { expect, it } from 'vitest'
import { applyAll, applyAndInvert } from '../steps/document'
import type { Word } from '../tape/words'
import { actualityType, type Actuality, type ActualityStep } from './actuality'
import { takeOut } from './acts'
import { asIn, comparedWords, dropVersion, goBackTo, keepVersion, versionsOf } from './versions'

const whole: Actuality = {
  kind: 'actuality',
  slug: 'Nobody',
  speaker: '',
  role: '',
  story: null,
  spans: [{ tape: 'a', from: 0, to: 8000, sound: 'tape' }],
  head: 200,
  tail: 300,
}
const WORDS = 'nobody told us nobody told anybody at all'.split(' ').map((text, i): Word => ({ text, from: i * 1000, to: i * 1000 + 900 }))
const done = (piece: Actuality, steps: ActualityStep[]) => applyAll(actualityType, piece, steps)

const kept = done(whole, keepVersion(whole, { id: 'a', name: 'long', at: '2026-11-25T17:40:00Z' }))
const cut = done(kept, takeOut(kept, { from: 3000, to: 6000 }))

it('a version is gone back to as it was, and the way back can be undone', () => {
  const [version] = versionsOf(cut)
  expect(version).toMatchObject({ name: 'long', head: 200, tail: 300 })
  const { document, inverse } = applyAndInvert(actualityType, cut, goBackTo(cut, version))
  expect(document).toEqual(kept)
  expect(done(document, inverse)).toEqual(cut)
  expect(versionsOf(done(cut, dropVersion(version)))).toEqual([])
})

it('a version keeps the gain and the fades of the whole, and their lack', () => {
  const louder = done(kept, [
    { type: 'set', key: 'gain', value: 3 },
    { type: 'set', key: 'fadeOut', value: { length: 900, shape: 'power' } },
  ])
  const again = done(louder, keepVersion(louder, { id: 'b', name: 'loud', at: '2026-11-25T17:50:00Z' }))
  const back = done(again, goBackTo(again, versionsOf(again)[0]))
  expect([back.gain, back.fadeOut]).toEqual([undefined, undefined])
  expect(asIn(again, versionsOf(again)[0])).toMatchObject({ slug: 'Nobody', spans: kept.spans, gain: undefined })
  expect(done(back, goBackTo(back, versionsOf(back)[1]))).toMatchObject({ gain: 3, fadeOut: { length: 900 } })
})

it('two are compared by their words', () => {
  const [now, then] = comparedWords(cut.spans, versionsOf(cut)[0].spans, () => WORDS)
  expect(now.filter(({ only }) => only)).toEqual([])
  expect(then.filter(({ only }) => only).map(({ text }) => text)).toEqual(['nobody', 'told', 'anybody'])
  // said twice in the one, once in the other
  const twice = [...whole.spans, { ...whole.spans[0], from: 0, to: 1000 }]
  expect(comparedWords(twice, whole.spans, () => WORDS)[0].map(({ only }) => only)).toEqual([...WORDS.map(() => false), true])
})

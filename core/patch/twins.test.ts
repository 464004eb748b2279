import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import type { Word } from '../tape/words'
import { RATE, toFrames, type Stretch } from '../time'
import { spoiltBy } from './alike'
import { bySound, byWords, soughtAt } from './candidates'
import { PATCH_STEP, looksFrom, looksOf } from './sound'
import { twins, type FoundBy } from './twins'
import { warp } from './warp'

/** Made-up words: each letter a chord of its own, one after the other. */
const CHORDS = Object.fromEntries(
  [...'abcdefghijklmnopqrstuvwx'].map((letter, i) => {
    const next = random(40 + i)
    return [letter, [250 + 300 * next(), 700 + 1500 * next(), 2400 + 2500 * next()]]
  }),
) as Record<string, number[]>
const LETTER = 0.11

function said(text: string, pause: number): { sound: Float32Array; words: Word[] } {
  const words: Word[] = []
  const noise = random(3)
  const parts: { from: number; chord: number[] }[] = []
  let at = toFrames(0.4)
  for (const one of text.split(' ')) {
    const from = at
    for (const letter of one) {
      parts.push({ from: at, chord: CHORDS[letter] })
      at += toFrames(LETTER)
    }
    words.push({ text: one, from, to: at })
    at += toFrames(pause)
  }
  const sound = Float32Array.from({ length: at + RATE }, () => 0.0005 * (noise() - 0.5))
  for (const { from, chord } of parts)
    for (let i = 0; i < toFrames(LETTER); i++) {
      const shape = Math.min(1, i / 400, (toFrames(LETTER) - i) / 400)
      for (const hertz of chord) sound[from + i] += 0.08 * shape * Math.sin((2 * Math.PI * hertz * i) / RATE)
    }
  return { sound, words }
}

const { sound, words } = said('abc fed ghi jkl abc mno pqr stu vwx', 0.12)
/** The middle letter of the first word, under a burst of noise. */
const spot: Stretch = { from: words[0].from + toFrames(0.1), to: words[0].from + toFrames(0.23) }
const noise = random(9)
for (let i = spot.from; i < spot.to; i++) sound[i] += 0.8 * (noise() - 0.5)
const looks = looksOf(sound)
const soundOf = ({ from, to }: Stretch) => ({ sound: sound.subarray(from, to), start: from })
const found = (known: readonly Word[], allowed = (_: Stretch) => true) => twins(spot, known, looks, soundOf, allowed, 5)
const isAt =
  (word: Word) =>
  ({ laid }: { laid: Stretch }) =>
    laid.from < word.to && laid.to > word.from

describe('the same said elsewhere', () => {
  it('is found by its words, of the same voice alone', () => {
    expect(found(words)[0]).toMatchObject({ foundBy: 'words', text: 'abc', at: { from: words[4].from, to: words[4].to } })
    const others = words.map((word, i) => ({ ...word, speaker: i === 4 ? 'another' : 'one' }))
    expect(byWords(others, soughtAt(others, spot))).toEqual([])
  })

  it('is found by its sound where nobody has written words down', () => {
    expect(found([]).findIndex(isAt(words[4]))).toBe(0)
    expect(found([])[0].foundBy).toBe('sound')
  })

  it('comes in two parts, what is said before what only similar sound', () => {
    const by = (way?: FoundBy) => twins(spot, words, looks, soundOf, () => true, 5, way)
    expect([...by('words'), ...by('sound')].slice(0, 5)).toEqual(by())
    expect(by('words').every(({ foundBy }) => foundBy === 'words')).toBe(true)
  })

  it('is found by its sound on a tape so long that most places are only glanced at', () => {
    const filler = looksOf(said('dgj kmp fig hex lot nod rib sud wax quo mid pen jog fur hid lab', 0.1).sound)
    const next = random(5)
    const times = Math.ceil(50_000 / filler.count)
    const values = new Float32Array(looks.values.length + times * filler.values.length)
    for (let t = 0; t < times; t++)
      values.set(
        filler.values.map((level) => level + 6 * (next() - 0.5)),
        t * filler.values.length,
      )
    // far along, so that it does not lie where a glance begins
    values.set(looks.values, times * filler.values.length)
    const long = looksFrom(values)
    const later = times * filler.count * PATCH_STEP
    const sought = {
      spot: { from: spot.from + later, to: spot.to + later },
      sought: { from: words[0].from + later, to: words[0].to + later },
      text: null,
    }
    const [first] = bySound(long, sought, spoiltBy(long, sought.spot), 5)
    expect(isAt(words[4])({ laid: { from: first.from - later, to: first.to - later } })).toBe(true)
  })

  it('is laid as shortly as will do, beyond the spot and not into it, in step with it', () => {
    const [twin] = found(words)
    expect(twin.over.from).toBeLessThanOrEqual(spot.from)
    expect(twin.over.to).toBeGreaterThanOrEqual(spot.to)
    expect(twin.over.to - twin.over.from).toBeLessThan(spot.to - spot.from + toFrames(0.26))
    const shift = words[4].from - words[0].from
    expect(Math.abs(twin.laid.from - twin.over.from - shift)).toBeLessThan(toFrames(0.008))
    expect(Math.abs(twin.laid.to - twin.over.to - shift)).toBeLessThan(toFrames(0.008))
    expect(Math.abs(twin.level)).toBeLessThan(1)
  })

  it('is not offered from where it may not be taken', () => {
    expect(found(words, (stretch) => !isAt(words[4])({ laid: stretch })).some(isAt(words[4]))).toBe(false)
  })

  it('gives nothing where there is nothing', () => {
    const silence = new Float32Array(RATE)
    const out = twins(
      { from: 20_000, to: 24_000 },
      [],
      looksOf(silence),
      ({ from, to }) => ({ sound: silence.subarray(from, to), start: from }),
      () => false,
      5,
    )
    expect(out).toEqual([])
  })
})

describe('warping', () => {
  it('lays a run on a slower one', () => {
    const a = [1, 2, 3, 4, 5, 6]
    const b = [9, 1, 1, 2, 3, 3, 4, 5, 6, 6, 9]
    const laid = warp(
      a.length,
      b.length,
      (row, column) => Math.abs(a[row] - b[column]),
      () => 1,
      3,
      6,
    )!
    expect(laid.cost).toBeLessThan(0.5)
    expect([...laid.path].map((column) => b[column])).toEqual(a)
  })
  it('says where it cannot', () => {
    expect(
      warp(
        6,
        2,
        () => 0,
        () => 1,
        0,
        1,
      ),
    ).toBeNull()
  })
})

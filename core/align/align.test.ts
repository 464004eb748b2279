import { describe, expect, it } from 'vitest'
import { random } from '../sound/random'
import { RATE, toFrames } from '../time'
import type { Transcript } from '../transcript/transcript'
import { placed, unplaced } from '../transcript/around'
import { refined } from './edges'
import { lastSound } from './lastSound'
import { pronounced } from './pronounce'
import { pausesIn } from './room'
import { spoken } from './spoken'

const at = (from: number, to: number) => ({ from: toFrames(from), to: toFrames(to) })

describe('what is written', () => {
  it.each([
    ['11', 'eleven'],
    ['2,300', 'two thousand three hundred'],
    ['1,024', 'one thousand and twenty four'],
    ['1998', 'nineteen ninety eight'],
    ['2005', 'two thousand and five'],
    ['17:52', 'seventeen fifty two'],
    ['9:05,', 'nine oh five'],
    ['3.5', 'three point five'],
    ['£40', 'forty pounds'],
    ['12%', 'twelve percent'],
    ['21st', 'twenty first'],
    ['“Twenty-one,”', 'twenty one'],
    ['Mr.', 'mister'],
    ['NHS', 'n. h. s.'],
    ['B.F.U.,', 'b. f. u.'],
    ['£1.2m.', 'one point two million pounds'],
    ['$3bn', 'three billion dollars'],
    ['3.30pm', 'three thirty p. m.'],
    ['5am.', 'five a. m.'],
    ['a.m.,', 'a. m.'],
    ['I’m', "i'm"],
    ['1990s', 'nineteen nineties'],
    ['bracklecouncil.org/ferry,', 'bracklecouncil dot org slash ferry'],
    ['night@island-radio.co.uk.', 'night at island dash radio dot c. o. dot u. k.'],
    ['night.', 'night'],
    ['ferry…', 'ferry'],
    ['it’s', "it's"],
    ['—', ''],
    // what every object has is a word like any other
    ['constructor', 'constructor'],
    ['constructor.', 'constructor'],
    ['toString', 'tostring'],
    ['valueOf/hasOwnProperty', 'valueof hasownproperty'],
    ['£constructor', 'constructor'],
    ['5constructor', 'five constructor'],
  ])('as %s is said as %s', (text, said) => {
    expect(spoken(text).join(' ')).toBe(said)
  })

  it('is pronounced by rule where no dictionary has it', () => {
    expect(
      ['brackle', 'tamsin', 'aldous', 'ferris', 'quay', 'knight', 'shed', 'phoner', 'xqz'].map((word) => pronounced(word).join(' ')),
    ).toEqual(['B R AE K AH L', 'T AE M S IH N', 'AE L D AH S', 'F EH R IH S', 'K W EY', 'N AY T', 'SH EH D', 'F OW N ER', 'Z K Z'])
    for (const word of ['', '123', '…']) expect(pronounced(word)).toEqual(['AH'])
  })
})

describe('edges', () => {
  /** Noise of two colours over a quiet room: a word from 0.5 to 0.8 s, another from 0.8 to 1.1 s, one from 1.5 to 1.7 s. */
  function sound(): Float32Array {
    const next = random(5)
    let low = 0
    return Float32Array.from({ length: 2 * RATE }, (_, i) => {
      const t = i / RATE
      const white = next() - 0.5
      low += 0.02 * (white - low)
      return (t >= 0.5 && t < 0.8) || (t >= 1.5 && t < 1.7) ? low * 3 : t >= 0.8 && t < 1.1 ? white * 0.3 : white * 0.0006
    })
  }

  it('lie where the sound rises, changes and sinks, near to where they were put', () => {
    const found = refined(sound(), [at(0.47, 0.81), at(0.81, 1.14), at(1.52, 1.66)])
    const truth = [0.5, 0.8, 0.8, 1.1, 1.5, 1.7]
    found.flatMap(({ from, to }) => [from, to]).forEach((edge, i) => expect(Math.abs(edge / RATE - truth[i])).toBeLessThan(0.011))
  })

  it('stay in order, and where they were in a room that says nothing', () => {
    const words = [at(0.1, 0.2), at(0.2, 0.3)]
    expect(refined(new Float32Array(RATE), words)).toEqual(words)
  })
})

describe('the end of a word before a pause', () => {
  /** A voice of 150 Hz from 0.5 to 0.9 s that dies away over 0.12 s, a breath from 1.3 to 1.6 s, and from 2.6 to 3 s the voice again. */
  function dying(noise: number): Float32Array {
    const next = random(7)
    const envelope = (t: number) =>
      t >= 0.5 && t < 0.9 ? 0.3 : t >= 0.9 && t < 1.02 ? 0.3 * 10 ** (-(t - 0.9) * 15) : t >= 2.6 && t < 3 ? 0.3 : 0
    return Float32Array.from({ length: 4 * RATE }, (_, i) => {
      const t = i / RATE
      const voice = [1, 2, 3, 4, 5, 7].reduce((sum, k) => sum + Math.sin(2 * Math.PI * 150 * k * t) / k, 0)
      return envelope(t) * voice + (t >= 1.3 && t < 1.6 ? 0.01 * (next() - 0.5) : 0) + noise * (next() - 0.5)
    })
  }
  const END = 1.02

  it('is where it has died away, not in the breath that follows, wherever the aligner put it', () => {
    for (const to of [0.85, 1.02, 1.4, 1.62]) {
      const [{ to: end }] = refined(dying(0.001), [at(0.5, to), at(2.6, 3)])
      expect(Math.abs(end / RATE - END)).toBeLessThan(0.05)
    }
  })

  it('is not taken too early where noise hides it', () => {
    const [{ to: end }] = refined(dying(0.06), [at(0.5, 0.9), at(2.6, 3)])
    expect(end / RATE).toBeGreaterThan(0.93)
    expect(end / RATE).toBeLessThan(END + 0.09)
  })

  it('in noise lasts as long as the sound that it ends with would', () => {
    const end = (last: string | null) => refined(dying(0.06), [at(0.5, 0.9), at(2.6, 3)], [last, null])[0].to / RATE
    expect(end('TH')).toBeGreaterThanOrEqual(end(null))
    expect(end('TH') - end('T')).toBeGreaterThan(0.04)
    // where nothing hides it, what is heard is what counts
    const heard = (last: string | null) => refined(dying(0.001), [at(0.5, 0.9), at(2.6, 3)], [last, null])[0].to
    expect(heard('TH')).toBe(heard(null))
  })

  it('leaves out a pause that the aligner took for a part of it', () => {
    const [first, second] = refined(dying(0.01), [at(0.5, 2.6), at(2.6, 3)])
    expect(first.to / RATE).toBeLessThan(1.2)
    expect(Math.abs(second.from / RATE - 2.6)).toBeLessThan(0.02)
  })

  it('and the pauses after it are known in noise too', () => {
    const pauses = pausesIn(dying(0.06))
    const within = (t: number) => pauses.some(({ from, to }) => from <= t * RATE && to > t * RATE)
    expect([0.2, 0.7, 0.92, 2, 2.8, 3.6].map(within)).toEqual([true, false, false, true, false, true])
  })
})

describe('words that are not yet on the sound', () => {
  const word = (text: string, from: number, more = {}) => ({ text, from: toFrames(from), to: toFrames(from + 0.3), voice: 'v1', ...more })
  it('are looked for between neighbours, which move only where nobody confirmed them', () => {
    const words = [
      word('a', 1, { checked: true }),
      word('b', 1.3, { rough: true }),
      word('mm', 1.4, { voice: 'v2' }),
      word('c', 1.6, { rough: true }),
      word('d', 1.9),
      word('e', 9),
    ]
    const transcript: Transcript = { kind: 'transcript', voices: {}, words }
    const found = [at(1.4, 1.5), null, at(1.7, 2.1)]
    expect(placed(transcript, { words: [1, 3, 4] }, found).map(({ at, place }) => [at, place.from, place.to])).toEqual([
      [1, toFrames(1.4), toFrames(1.5)],
      [3, words[3].from, words[3].to],
      [4, toFrames(1.7), words[4].to],
    ])
    expect(unplaced({ kind: 'transcript', voices: {}, words }, toFrames(20))).toEqual([
      { words: [1, 3, 4], stretch: { from: toFrames(1.3), to: toFrames(2.2) } },
    ])
  })
})

it('knows the sound that a word ends with, from the dictionary or by its spelling', () => {
  const dictionary = (word: string) => (word === 'month' ? ['M AH N TH'] : [])
  expect(lastSound('month.', dictionary)).toBe('TH')
  expect(lastSound('“Brackles”', dictionary)).toBe('Z')
  expect(lastSound('—', dictionary)).toBeNull()
})

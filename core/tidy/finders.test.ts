import { describe, expect, it } from 'vitest'
import { SPEECH_HANGOVER } from '../hearing/speech'
import type { Word } from '../tape/words'
import { RATE, toFrames, type Stretch } from '../time'
import { FINDERS } from './finders'
import { FINDER_NAMES, saves, type FinderName, type Found, type Looked } from './finder'
import type { HeardSide } from './listen/side'
import { openOf } from './open'
import type { Suggestion } from '../tape/suggestion'
import { NO_RULES, phrasesIn } from './rules'

/**
 * Words with the pauses before them in seconds: "So 0.3 we'd, um, 0.9 we'd come". Each word takes a quarter of a second;
 * where no figure stands, 0.05 s pass.
 */
function said(text: string, speaker = ''): Word[] {
  const words: Word[] = []
  let at = RATE
  for (const part of text.split(/\s+/)) {
    if (/^\d\.\d+$/.test(part)) {
      at += toFrames(Number(part)) - toFrames(0.05)
      continue
    }
    words.push({ text: part, from: at, to: at + RATE / 4, ...(speaker ? { speaker } : {}) })
    at += RATE / 4 + toFrames(0.05)
  }
  return words
}
const looked = (words: Word[], fields: Partial<Looked> = {}): Looked => ({
  tape: 'quay',
  frames: words.length ? words[words.length - 1].to + RATE : 60 * RATE,
  words,
  speech: [],
  language: 'en',
  phrases: phrasesIn(NO_RULES, 'en'),
  sides: [''],
  heard: null,
  ...fields,
})
/** A side on which these voices are heard, and what else is told of it. */
const side = (voices: Stretch[], fields: Partial<HeardSide> = {}): HeardSide => ({
  voices,
  hesitations: [],
  breaths: [],
  clicks: [],
  thumps: [],
  loud: [],
  phrases: [],
  holes: [],
  level: -30,
  ...fields,
})
const find = (name: FinderName, of: Looked, setting?: number): Found[] => {
  const ready = FINDERS[name](of)
  return ready.find(setting ?? ready.setting?.usual ?? 0)
}
const textsIn = (words: readonly Word[], { from, to }: Stretch) =>
  words
    .filter((word) => word.from >= from && word.to <= to)
    .map(({ text }) => text)
    .join(' ')

describe('pauses', () => {
  const talk =
    'We sat there. 0.4 Nobody came. 0.5 The board said nothing. 0.45 And we, 0.2 well, 0.2 we waited. 0.42 So. 2.4 The lads left. 0.5 Gone.'

  it('that are longer than this speaker’s own go to one of these', () => {
    const all = find('pauses', looked(said(talk)))
    expect(all).toHaveLength(1)
    const [{ from, to, proposes }] = all
    expect((to - from) / RATE).toBeCloseTo(2.4, 2)
    if (proposes.do !== 'takeOut') throw new Error('a pause is taken out')
    const left = (to - from - (proposes.goes.to - proposes.goes.from)) / RATE
    expect([0.4, 0.5, 0.45, 0.42].some((own) => Math.abs(own - left) < 0.001)).toBe(true)
    // more of it before than after what goes
    expect(proposes.goes.from - from).toBeGreaterThan(to - proposes.goes.to)
    expect(saves(all[0])).toBe(proposes.goes.to - proposes.goes.from)
  })

  it('by a figure that is turned, and are not all left equal', () => {
    const words = said(
      Array.from({ length: 30 }, (_, i) => `He waited. ${(0.3 + 0.02 * i).toFixed(2)} He went. ${(1 + 0.05 * i).toFixed(2)}`).join(' ') +
        ' End.',
    )
    const all = find('pauses', looked(words), 0.95)
    expect(all).toHaveLength(30)
    const left = all.map(({ from, to, proposes }) => (proposes.do === 'takeOut' ? to - from - (proposes.goes.to - proposes.goes.from) : 0))
    expect(new Set(left).size).toBeGreaterThan(10)
    expect(Math.max(...left)).toBeLessThan(0.95 * RATE)
    expect(find('pauses', looked(words), 2.3).length).toBeLessThan(6)
  })

  it('after a question, and before somebody else answers, may be the story', () => {
    const asked = said(`${talk} 0.4 Why? 1.9 Because.`)
    expect(find('pauses', looked(asked)).map(({ care }) => care ?? '')).toEqual(['', 'may be the story'])
    const [question, answer] = [
      said('Who knew it', 'Tamsin'),
      said('We did', 'Piet').map((word) => ({ ...word, from: word.from + 4 * RATE, to: word.to + 4 * RATE })),
    ]
    expect(find('pauses', looked([...question, ...answer]))).toMatchObject([{ care: 'may be the story' }])
  })

  it('without words, between what is spoken', () => {
    const speech = [
      { from: RATE, to: 3 * RATE },
      { from: 3.4 * RATE, to: 5 * RATE + SPEECH_HANGOVER },
      { from: 9 * RATE, to: 12 * RATE },
    ]
    expect(find('pauses', looked([], { speech })).map(({ from, to }) => [from, to])).toEqual([[5 * RATE, 9 * RATE]])
  })
})

describe('fillers', () => {
  const texts = (text: string) => {
    const words = said(text)
    return find('fillers', looked(words)).map((one) => textsIn(words, one))
  }

  it('are sounds anywhere, and phrases only where they stand alone', () => {
    expect(texts('So um, we uhh left. Er 0.3 no.')).toEqual(['um,', 'uhh', 'Er'])
    expect(texts('It was, you know, the last boat.')).toEqual(['you know,'])
    expect(texts('It was 0.2 sort of 0.2 the last boat.')).toEqual(['sort of'])
    expect(texts('You know the last boat. It is that sort of boat.')).toEqual([])
    expect(texts('Do you know? I like, 0.3 right.')).toEqual([])
  })

  it('go with the shorter of the pauses beside them', () => {
    const words = said('we 0.3 um 0.1 left')
    const [{ proposes }] = find('fillers', looked(words))
    // 0.3 s before it stay, 0.1 s after it goes with it
    expect(proposes).toMatchObject({ goes: { from: words[1].from, to: words[2].from } })
  })
})

it('what another side speaks over is muted on its own side, and all else goes through both', () => {
  const words = said('we 0.3 um 0.3 left 0.3 um 0.3 then', 'Piet')
  const over = { from: words[3].from - RATE / 10, to: words[3].to + RATE / 10 }
  const of = looked(words, { sides: ['Tamsin', 'Piet'], heard: [side([over]), side(words)] })
  expect(find('fillers', of).map(({ side: on, proposes }) => [on, proposes.do])).toEqual([
    [undefined, 'takeOut'],
    [1, 'mute'],
  ])
})

describe('stumbles', () => {
  const gone = (text: string) => {
    const words = said(text)
    return find('stumbles', looked(words)).map((one) => textsIn(words, one))
  }

  it('are words said again, and beginnings given up', () => {
    expect(gone('from the the fish plant')).toEqual(['the'])
    expect(gone('So we’d, um, we’d come in')).toEqual(['we’d,'])
    expect(gone('the lads from the lads from the plant')).toEqual(['the lads from'])
    expect(gone('I was, I went home')).toEqual(['I was,'])
    expect(gone('they had to 0.2 they left')).toEqual(['they had to'])
  })

  it('are not what is said twice on purpose, a list, or another sentence', () => {
    for (const text of [
      'it was very very cold',
      'No no, not so.',
      'I saw the boat, the harbour, the board',
      'He left. He left.',
      'I know what I want',
      'twelve 12 12 boats',
    ])
      expect(gone(text)).toEqual([])
  })

  it('never take a negation or a number that is not said again', () => {
    expect(gone('I didn’t, I went home')).toEqual([])
    expect(gone('we had forty, we had fifty')).toEqual([])
    expect(gone('nobody told, nobody told us')).toEqual(['nobody told,'])
  })

  it('take the filler between along', () => {
    const words = said('So we’d, um, we’d come in')
    expect(find('stumbles', looked(words))[0].proposes).toMatchObject({ goes: { from: words[1].from, to: words[3].from } })
  })
})

describe('retakes', () => {
  const gone = (words: Word[]) => find('retakes', looked(words)).map((one) => textsIn(words, one))

  it('are sentences said again, whole or as far as they went, with a pause between or without one', () => {
    expect(gone(said('So the ferry leaves at, 0.6 The ferry leaves at six. 0.6 Then home.'))).toEqual(['So the ferry leaves at,'])
    expect(gone(said('So the ferry leaves at six. 0.6 The plant opens at six. 0.6 Then home.'))).toEqual([])
    expect(gone(said('the ferry leaves at six 0.6 the ferry leaves at six tonight. Then home.'))).toEqual(['the ferry leaves at six'])
    expect(gone(said('the old ferry leaves at the old ferry leaves at six.'))).toEqual(['the old ferry leaves at'])
  })

  it('minutes later, the last complete one stays', () => {
    const sentence = 'The council met on the night of the storm. 0.6 '
    const words = said(`${sentence}And nobody came to the quay at all. 0.6 But they would not say why it was so. 0.6 ${sentence}`)
    expect(gone(words)).toEqual(['The council met on the night of the storm.'])
    // an unfinished last one does not replace a whole one
    expect(gone(said('The council met on the night of the storm. 0.6 The council met on the. 0.6 Yes.'))).toEqual([])
  })
})

describe('takes of a sentence', () => {
  it('lie side by side, the one that stays among them, at each of those that go', () => {
    const words = said('The ferry leaves at six. 0.6 The ferry leaves at. 0.6 The ferry leaves at six. 0.6 Then home.')
    const found = find('retakes', looked(words))
    expect(found.length).toBeGreaterThan(0)
    for (const { takes = [] } of found) {
      expect(takes.filter(({ stays }) => stays).map((one) => textsIn(words, one))).toEqual(['The ferry leaves at six.'])
      expect(takes.find(({ stays }) => stays)!.from).toBe(words.filter(({ text }) => text === 'The')[2].from)
    }
    expect(found[0].takes!.map(({ from }) => from)).toEqual(found[0].takes!.map(({ from }) => from).sort((a, b) => a - b))
    expect(found[0].takes!.some(({ from }) => from === found[0].from)).toBe(true)
  })

  it('go with the pause behind them, as what is found does', () => {
    const words = said('The ferry leaves at six. 0.6 The ferry leaves at six tonight. 0.6 Then home.')
    const [{ takes, proposes }] = find('retakes', looked(words))
    expect(takes!.map((one) => textsIn(words, one))).toEqual(['The ferry leaves at six.', 'The ferry leaves at six tonight.'])
    expect(takes![0].proposes).toEqual(proposes)
    expect(takes![1].proposes).toMatchObject({ do: 'takeOut', goes: { to: words.find(({ text }) => text === 'Then')!.from } })
  })
})

describe('dead air', () => {
  it('lies before the first sentence with what is said to the technician, after the last one, and between', () => {
    const words = said('Are we rolling? 1.2 The ferry left. 6.5 Nobody came.').map((word) => ({
      ...word,
      from: word.from + 3 * RATE,
      to: word.to + 3 * RATE,
    }))
    const found = find('deadAir', looked(words, { frames: words[words.length - 1].to + 4 * RATE }))
    expect(found.map(({ from, to }) => [from, to])).toEqual([
      [0, words[3].from],
      [words[5].to, words[6].from],
      [words[7].to, words[7].to + 4 * RATE],
    ])
    // half a second of ease stays beside what is said
    expect(found.map(({ proposes }) => 'goes' in proposes && proposes.goes)).toEqual([
      { from: 0, to: words[3].from - RATE / 2 },
      { from: words[5].to + RATE / 2, to: words[6].from - RATE / 2 },
      { from: words[7].to + RATE / 2, to: words[7].to + 4 * RATE },
    ])
  })
})

it('what was decided on is known by its place', () => {
  const at = (from: number, to: number): Found => ({ from, to, proposes: { do: 'takeOut', goes: { from, to }, room: 0 }, sure: 1 })
  const decided = [{ side: null, from: 100, to: 200, decision: { is: 'dismissed', by: 'me', at: '' } }] as unknown as Suggestion[]
  const all = [at(0, 100), at(150, 300), at(200, 300)]
  expect(openOf(all, decided, [], [])).toEqual([all[0], all[2]])
  expect(openOf(all, [], [], [{ from: 250, to: 260 }])).toEqual([all[0]])
  // struck for more than a half
  expect(openOf(all, [], [{ from: 220, to: 300 }], [])).toEqual([all[0]])
  expect(openOf([{ ...all[1], side: 1 }], decided, [], [])).toHaveLength(1)
})

describe('breaths', () => {
  const louder = (levels: readonly number[], over: number, setting?: number) => {
    const breaths = levels.map((level, i) => ({ from: i * RATE, to: i * RATE + RATE / 4, level, over: over + level - Math.min(...levels) }))
    return find('breaths', looked([], { frames: 20 * RATE, heard: [side([], { breaths })] }), setting).map(
      ({ from }) => levels[from / RATE],
    )
  }

  it('are those that are louder than the middle one, which itself is as loud as usual', () => {
    expect(louder([-50, -40, -45, -48, -42], 12)).toEqual([-40, -42])
    expect(louder([-50, -40, -45, -48, -42], 12, 4)).toEqual([-40])
    expect(louder([-45], 12)).toEqual([])
  })

  it('are told by a softer one where the room hides the softest', () => {
    expect(louder([-50, -40, -45, -48, -42], 1)).toEqual([-40, -45, -42])
    expect(louder([-45], 1)).toEqual([])
  })
})

it('a click as loud as the voice is told by less than one far below it', () => {
  const found = (over: number, peak: number, from: number) => {
    const heard = side([{ from: 10 * RATE, to: 20 * RATE }], { clicks: [{ from, to: from + 50, over, peak }] })
    return find('clicks', looked([], { frames: 30 * RATE, heard: [heard] })).length
  }
  const [spoken, pause] = [15 * RATE, 5 * RATE]
  expect([found(8, -30, spoken), found(7.9, -30, spoken)]).toEqual([1, 0])
  expect([found(14, -60, spoken), found(13.9, -60, spoken)]).toEqual([1, 0])
  // nothing but a click clicks where nobody speaks
  expect([found(11, -60, pause), found(10.9, -60, pause)]).toEqual([1, 0])
})

it('every finder answers where there is nothing to find', () => {
  for (const name of FINDER_NAMES) {
    expect(find(name, looked([]))).toEqual([])
    expect(find(name, looked(said('Boat.')))).toEqual([])
  }
})

import { describe, expect, it } from 'vitest'
import { RATE } from '../time'
import { fillers } from './fillers'
import type { Looked } from './finder'
import { dismissedBy, NO_RULES, phrasesIn, saidAt, type Dismissal } from './rules'

const word = (text: string, from: number, to: number, speaker: string) => ({ text, from: from * RATE, to: to * RATE, speaker })
const looked: Looked = {
  tape: 'quay',
  frames: 60 * RATE,
  words: [
    word('We', 1, 1.2, 'Tamsin Roe'),
    word('um', 1.5, 1.8, 'Tamsin Roe'),
    word('waited,', 2, 2.4, 'Tamsin Roe'),
    word('as', 2.8, 2.9, 'Tamsin Roe'),
    word('it', 2.95, 3, 'Tamsin Roe'),
    word('were,', 3, 3.3, 'Tamsin Roe'),
    word('till', 3.7, 4, 'Tamsin Roe'),
    word('ten.', 4, 4.4, 'Tamsin Roe'),
    word('And', 6, 6.2, 'Piet Aldous'),
    word('um', 6.5, 6.8, 'Piet Aldous'),
    word('then?', 7, 7.4, 'Piet Aldous'),
  ],
  speech: [],
  language: 'en',
  sides: [],
  heard: null,
  phrases: phrasesIn(NO_RULES, 'en'),
}
const found = (of: Looked = looked) => {
  const ready = fillers(of)
  return ready.find(0)
}
const um: Dismissal = { id: 'a', finder: 'fillers', scope: 'words', speaker: 'Tamsin Roe', language: 'en', words: 'um' }

describe('what a newsroom settled about tidying', () => {
  it('no longer offers a word of one speaker, and still offers it of another', () => {
    const by = dismissedBy([um], 'fillers', looked)
    expect(found().map((one) => by(one)?.id ?? null)).toEqual(['a', null])
  })

  it('holds for that language and that kind alone', () => {
    const german = dismissedBy([um], 'fillers', { ...looked, language: 'de' })
    const others = dismissedBy([um], 'stumbles', looked)
    expect(found().map((one) => german(one) ?? others(one))).toEqual([null, null])
  })

  it('no longer offers anything of a kind on one tape', () => {
    const whole: Dismissal = { id: 'b', finder: 'fillers', scope: 'tape', tape: 'quay' }
    expect(found().every((one) => dismissedBy([whole], 'fillers', looked)(one) === whole)).toBe(true)
    expect(found().some((one) => dismissedBy([whole], 'fillers', { ...looked, tape: 'pier' })(one))).toBe(false)
  })

  it('finds phrases of the newsroom’s own, and then only those', () => {
    const own = { ...looked, phrases: phrasesIn({ dismissals: [], phrases: { en: ['as it were'] } }, 'en') }
    expect(found(own).map((one) => saidAt(looked.words, one))).toEqual(['um', 'as it were', 'um'])
    expect(found().map((one) => saidAt(looked.words, one))).toEqual(['um', 'um'])
  })
})

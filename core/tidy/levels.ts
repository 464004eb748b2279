import { ENDS } from '../tape/words'
import { milliseconds, RATE, type Frames, type Stretch } from '../time'
import { onSides, saidOver, speakerAt } from './bySound'
import { turned } from './dip'
import type { Finder, Found, Looked } from './finder'
import type { HeardSide, LoudSpot, Phrase } from './listen/side'
import { othersSpeak } from './throughSides'

/** What is far louder than its speaker, and phrases that are far softer than what the same speaker says beside them. */

/** A loud spot is left so much above the speaker, in dB; a soft phrase so much below its neighbours. */
const LEFT_LOUD = 3
const LEFT_SOFT = 1
/** What the speaker says within this of it tells how loud they are there, if it is so much at least. */
const [NEAR, LEAST_SAID]: Frames[] = [15 * RATE, 4 * RATE]
/** Soft phrases that lie this close to each other are one. */
const TOGETHER: Frames = milliseconds(350)
/** A shorter one is a word dropped in, in its own way. */
const SHORTEST: Frames = milliseconds(400)
/** A loud vowel is short: what is no longer must stand out by so much more, in dB. */
const VOWEL: Frames = milliseconds(350)
const MORE = 3
/** A cough that lies in a pause with this much room around it can go. */
const ROOM: Frames = milliseconds(40)

export const loud: Finder = (looked) => {
  const all = onSides(looked, (side, index) => side.loud.map((spot) => loudSpot(looked, index, spot)))
  return { setting: { unit: 'dB', least: 6, most: 24, step: 1, usual: 11 }, find: (over) => all.filter((one) => one.over >= over) }
}

function loudSpot(looked: Looked, index: number, spot: LoudSpot) {
  const { from, to, over, voiceless } = spot
  const others = othersSpeak(looked, index, spot)
  // a cough that covers no word goes, and its time stays
  const goes = { from: from - ROOM, to: to + ROOM }
  const alone = voiceless && !others && looked.words.length > 0 && !saidOver(looked, goes) && goes.from > 0
  return {
    from,
    to,
    over: over - (!voiceless && to - from < VOWEL ? MORE : 0),
    proposes: alone ? { do: 'hold' as const, goes } : { do: 'level' as const, points: turned(spot, LEFT_LOUD - over) },
    sure: 0.9,
    ...(others ? { care: 'somebody else speaks there' as const } : {}),
  }
}

export const soft: Finder = (looked) => {
  const all = onSides(looked, (side, index) => softIn(looked, side, index))
  return {
    setting: { unit: 'dB', least: 3, most: 15, step: 0.5, usual: 6 },
    find: (least) => all.filter(({ below }) => below >= least),
  }
}

/** The least that is told from how people speak, in dB. */
const TOLD = 3

/** What was heard of phrases, by the words where they are known: in noise a phrase is heard in pieces. */
function phrasesOf({ words }: Looked, { phrases }: HeardSide): readonly Phrase[] {
  if (!words.length) return phrases
  const runs: Stretch[] = []
  words.forEach((word, i) => {
    const [before, last] = [words[i - 1], runs.at(-1)]
    if (last && before && word.from - before.to < TOGETHER && word.speaker === before.speaker && !ENDS.test(before.text))
      last.to = Math.max(last.to, word.to)
    else runs.push({ from: word.from, to: word.to })
  })
  let first = 0
  return runs.flatMap(({ from, to }) => {
    while (first < phrases.length && phrases[first].to <= from) first++
    let [sum, length] = [0, 0]
    for (let i = first; i < phrases.length && phrases[i].from < to; i++) {
      const part = Math.min(to, phrases[i].to) - Math.max(from, phrases[i].from)
      sum += part * phrases[i].level
      length += part
    }
    return length > 0 ? [{ from, to, level: sum / length }] : []
  })
}

/** Soft phrases of a side, each with how far it lies below what its speaker says around it, in dB. */
function softIn(looked: Looked, side: HeardSide, index: number): (Omit<Found, 'side' | 'speaker'> & { below: number })[] {
  const phrases = phrasesOf(looked, side)
  const speakers = phrases.map((phrase) => speakerAt(looked, phrase))
  const usual = phrases.map((_, i) => levelAround(phrases, speakers, i))
  const groups: Soft[] = []
  phrases.forEach(({ from, to, level }, i) => {
    const below = usual[i] - level
    if (!(below >= TOLD)) return
    const last = groups.at(-1)
    // a phrase that breaks up is one all the same
    if (last && last.until === i - 1 && from - last.to < TOGETHER && speakers[i] === speakers[i - 1]) {
      last.below = (last.below * last.length + below * (to - from)) / (last.length + to - from)
      last.length += to - from
      last.to = to
      last.until = i
    } else groups.push({ from, to, below, length: to - from, until: i })
  })
  return groups
    .filter(({ length }) => length >= SHORTEST)
    .map(({ from, to, below }) => ({
      from,
      to,
      below,
      proposes: { do: 'level' as const, points: turned({ from, to }, below - LEFT_SOFT) },
      sure: 0.8,
      ...(othersSpeak(looked, index, { from, to }) ? { care: 'somebody else speaks there' as const } : {}),
    }))
}

interface Soft extends Stretch {
  below: number
  /** Of what is said in it, in frames. */
  length: number
  /** The last of its phrases. */
  until: number
}

/** The level of a speaker around a phrase: half of what they say there is louder, dBFS. NaN where they say too little. */
function levelAround(phrases: readonly Phrase[], speakers: readonly (string | undefined)[], at: number): number {
  const near: Phrase[] = []
  for (let i = at; i >= 0 && phrases[at].from - phrases[i].to < NEAR; i--) if (speakers[i] === speakers[at]) near.push(phrases[i])
  for (let i = at + 1; i < phrases.length && phrases[i].from - phrases[at].to < NEAR; i++)
    if (speakers[i] === speakers[at]) near.push(phrases[i])
  const all = near.reduce((sum, { from, to }) => sum + to - from, 0)
  if (all < LEAST_SAID) return NaN
  let sum = 0
  return near.sort((a, b) => a.level - b.level).find(({ from, to }) => (sum += to - from) >= all / 2)!.level
}

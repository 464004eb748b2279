import { bare } from '../find/bare'
import { turnsMeaning } from '../edits/warnings'
import { ENDS, type Word } from '../tape/words'
import { milliseconds, type Frames } from '../time'
import { isFiller } from './fillerWords'
import type { Finder, Found, Looked } from './finder'
import { throughSides } from './throughSides'

/**
 * Words said twice over (“the the”, “we’d, um, we’d come”) and false starts (“I was, I went”): the last complete one stays.
 * What takes a negation or a number that is not said again is never offered.
 */

/** So many words are said again at most, and so many are given up in a false start. */
const MOST_AGAIN = 6
const MOST_GIVEN_UP = 3
/** Whoever begins again does so within this. */
const SOON: Frames = milliseconds(1500)
/** A false start breaks off: a pause at least this long, or a mark that somebody wrote. */
const BREAK: Frames = milliseconds(110)
/** Words that one says twice on purpose. */
const ON_PURPOSE = new Set(
  'very very really so never no yes yeah far long many much that had is now well there ha bye come go wait'.split(' '),
)
/** What sentences begin with: what else is said again after a comma is a list. */
const BEGINNERS = new Set(
  "i we he she they you it there this that i'd we'd he'd they'd i'm we're they're he's she's it's i've we've they've i'll we'll".split(' '),
)

export const stumbles: Finder = (looked) => {
  const all = throughSides(looked, stumblesOf(looked))
  return { setting: null, find: () => all }
}

function stumblesOf(looked: Looked): Found[] {
  const all: Found[] = []
  // fillers between are passed over, and go with what goes
  const words = looked.words.filter((word) => !isFiller(word) && word.what !== 'noise')
  for (let i = 0; i < words.length;) {
    const given = againFrom(words, i) || givenUpFrom(words, i)
    const gone = words.slice(i, i + given)
    if (!given || takesMeaning(gone, words.slice(i + given, i + 2 * given), looked.language)) {
      i++
      continue
    }
    const [from, to] = [gone[0].from, words[i + given].from]
    const last = gone[gone.length - 1]
    const { speaker } = gone[0]
    all.push({
      from,
      to: last.to,
      ...(speaker ? { speaker } : {}),
      proposes: { do: 'takeOut', goes: { from, to }, room: 0 },
      sure: bare(gone[0].text) === bare(words[i + given].text) && given > 1 ? 0.95 : 0.8,
    })
    i += given
  }
  return all
}

const follows = (words: readonly Word[], at: number, next: number): boolean =>
  Boolean(words[next]) && words[next].speaker === words[at].speaker && words[next].from - words[next - 1].to < SOON

/** How many words from one on are said again at once; 0 where none are. The longest run counts. */
function againFrom(words: readonly Word[], at: number): number {
  for (let count = Math.min(MOST_AGAIN, words.length - at - 1); count > 0; count--) {
    if (!follows(words, at, at + count)) continue
    let same = 0
    while (same < count && words[at + count + same] && bare(words[at + same].text) === bare(words[at + count + same].text)) same++
    if (same < count) continue
    if (count === 1 && (ON_PURPOSE.has(bare(words[at].text)) || /^\d/.test(words[at].text))) continue
    // a sentence said again is a retake
    if (words.slice(at, at + count).some(({ text }) => ENDS.test(text))) continue
    return count
  }
  return 0
}

/** How many words from one on are given up for another beginning; 0 where none are. */
function givenUpFrom(words: readonly Word[], at: number): number {
  if (!BEGINNERS.has(bare(words[at].text))) return 0
  for (let count = 2; count <= MOST_GIVEN_UP; count++) {
    const again = words[at + count]
    const last = words[at + count - 1]
    if (!again || !follows(words, at, at + count) || bare(again.text) !== bare(words[at].text)) continue
    if (words.slice(at, at + count).some(({ text }) => ENDS.test(text))) return 0
    if (/[,–—…-]["”’]?$/.test(last.text) || again.from - last.to >= BREAK) return count
  }
  return 0
}

/** Whether what would go says no, or how many, and what stays does not. */
function takesMeaning(gone: readonly Word[], stays: readonly Word[], language: string): boolean {
  const left = new Set(stays.map(({ text }) => bare(text)))
  return turnsMeaning(
    gone.map(({ text }) => text).filter((text) => !left.has(bare(text))),
    language,
  )
}

import { meets, unstruck, type Side } from '../tape/tape'
import { firstWordAfter, suggestSlug, wordsIn, type Word } from '../tape/words'
import type { LevelPoint } from '../sound/level'
import { toFrames, type Frames, type Stretch } from '../time'
import type { Actuality } from './actuality'
import { listLength, normal } from './editList'

/** Room that a piece is given at head and tail, where the tape has it. */
const HANDLE = toFrames(0.3)

export interface Pulling {
  tape: string
  tapeLength: Frames
  stretch: Stretch
  struck: readonly Stretch[]
  /** Off the record: nothing is pulled over it, and no handle reaches into it. */
  off?: readonly Stretch[]
  /** The level line of the tape. */
  level?: readonly LevelPoint[]
  words: readonly Word[]
  story: string | null
  speaker: string
  role: string
  /** As they are set on the tape now. */
  sides: Side[]
}

/**
 * A piece from a stretch of tape, what is struck left out. Its handles reach into the pauses around
 * the stretch but into no other word, and into nothing that was struck. Null where all is struck, or some of it was said off the record.
 */
export function pull({ tape, tapeLength, stretch, struck, off = [], level, words, story, speaker, role, sides }: Pulling): Actuality | null {
  const kept = unstruck(tape, stretch, struck, level)
  if (!kept.length || kept.some((span) => meets(off, span))) return null
  const first = kept[0].from
  const last = kept[kept.length - 1].to
  const after = firstWordAfter(words, first)
  const wordBefore = words[after - 1]?.to ?? 0
  const wordAfter = words.find((word) => word.from >= last)?.from ?? tapeLength
  const within = (word: Word | undefined, frame: Frames) => word !== undefined && word.from < frame && word.to > frame
  const struckBefore = Math.max(0, ...[...struck, ...off].filter((s) => s.to <= first).map((s) => s.to))
  const struckAfter = Math.min(tapeLength, ...[...struck, ...off].filter((s) => s.from >= last).map((s) => s.from))
  // without words nobody knows where the next one begins: then no handle is taken
  const reach = words.length ? HANDLE : 0
  const head = first !== stretch.from || within(words[after], first) ? 0 : Math.min(reach, first - Math.max(wordBefore, struckBefore))
  const tail = last !== stretch.to || within(words[firstWordAfter(words, last)], last) ? 0 : Math.min(reach, Math.min(wordAfter, struckAfter) - last)
  kept[0] = { ...kept[0], from: first - Math.max(0, head) }
  kept[kept.length - 1] = { ...kept[kept.length - 1], to: last + Math.max(0, tail) }
  const spans = normal(kept)
  const inside = wordsIn(words, first, last)
  return {
    kind: 'actuality',
    slug: suggestSlug(inside) || 'Untitled',
    speaker: speaker || (inside.find((word) => word.speaker)?.speaker ?? ''),
    role,
    story,
    spans,
    head: Math.max(0, head),
    tail: Math.min(Math.max(0, tail), listLength(spans)),
    sides: { [tape]: sides },
  }
}

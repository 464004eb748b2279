import type { Side } from '../tape/tape'
import { firstWordAfter, suggestSlug, wordAround, wordsIn, type Word } from '../tape/words'
import type { LevelPoint } from '../sound/level'
import { clamp, toFrames, type Frames, type Stretch } from '../time'
import type { Actuality } from './actuality'
import { normal, type Span } from './editList'
import { unstruck } from './ofTape'
import { overlapsAny } from '../stretches'

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
 * A piece from a stretch of tape, what is struck left out. Its handles are what lies before its first word and
 * after its last: a pause that was chosen, else the tape around the stretch as far as no other word and nothing
 * struck is in it, else added room. Null where all is struck, or some of it was said off the record.
 */
export function pull({
  tape,
  tapeLength,
  stretch,
  struck,
  off = [],
  level,
  words,
  story,
  speaker,
  role,
  sides,
}: Pulling): Actuality | null {
  const kept = unstruck(tape, stretch, struck, level)
  if (!kept.length || kept.some((span) => overlapsAny(off, span))) return null
  const first = kept[0].from
  const last = kept[kept.length - 1].to
  const after = firstWordAfter(words, first)
  const wordBefore = words[after - 1]?.to ?? 0
  const wordAfter = words.find((word) => word.from >= last)?.from ?? tapeLength
  const cutInto = { before: wordAround(words, first), behind: wordAround(words, last) }
  const inside = wordsIn(words, first, last)
  const struckBefore = Math.max(0, ...[...struck, ...off].filter((s) => s.to <= first).map((s) => s.to))
  const struckAfter = Math.min(tapeLength, ...[...struck, ...off].filter((s) => s.from >= last).map((s) => s.from))
  // without words nobody knows where the next one begins: then no handle is taken
  const reach = words.length ? HANDLE : 0
  // what the tape has of it without another word; the rest is the room's own tone
  const freeBefore = first !== stretch.from || cutInto.before ? 0 : first - Math.max(wordBefore, struckBefore)
  const freeAfter = last !== stretch.to || cutInto.behind ? 0 : Math.min(wordAfter, struckAfter) - last
  // a pause that is chosen with the words is room before them already
  const [spoken, ended] = inside.length ? [Math.max(0, inside[0].from - first), Math.max(0, last - inside[inside.length - 1].to)] : [0, 0]
  const more = (free: Frames, had: Frames) => {
    const wanted = Math.max(0, reach - had)
    const ofTape = clamp(free, 0, wanted)
    return { ofTape, room: wanted - ofTape }
  }
  const [before, behind] = [more(freeBefore, spoken), more(freeAfter, ended)]
  kept[0] = { ...kept[0], from: first - before.ofTape }
  kept[kept.length - 1] = { ...kept[kept.length - 1], to: last + behind.ofTape }
  const room = (length: Frames, from: Frames): Span[] => (length > 0 ? [{ tape, from, to: from + length, sound: 'room' }] : [])
  const spans = normal([...room(before.room, first - before.ofTape), ...kept, ...room(behind.room, last + behind.ofTape)])
  return {
    kind: 'actuality',
    slug: suggestSlug(inside) || 'Untitled',
    speaker: speaker || (inside.find((word) => word.speaker)?.speaker ?? ''),
    role,
    story,
    spans,
    head: spoken + before.ofTape + before.room,
    tail: ended + behind.ofTape + behind.room,
    sides: { [tape]: sides },
    ...(cutInto.before ? { cutHead: { spans: [{ tape, from: cutInto.before.from, to: first, sound: 'tape' }], handle: 0 } } : {}),
    ...(cutInto.behind ? { cutTail: { spans: [{ tape, from: last, to: cutInto.behind.to, sound: 'tape' }], handle: 0 } } : {}),
  }
}

import type { PieceWord } from '../edits/pieceWords'
import { bare } from '../find/bare'
import { saidAlready } from '../page/saidAlready'
import { BLOCK_KINDS, isRecorded, type Block } from '../page/story'
import { readingTime } from '../page/reading'
import type { PieceLength, Placed } from '../page/timing'
import { overlapsAny } from '../stretches'
import { ENDS } from '../tape/words'
import { isFiller } from '../tidy/fillerWords'
import { clock, milliseconds, toFrames, type Frames, type Stretch } from '../time'
import type { Change, Rank } from './change'

/** What a page offers to become shorter or longer: particular changes, each with what it saves. */

/** A block as it lies on air, with its piece, what is said in it, and how much more of its tape there is `beyond` its end. */
export interface FitBlock {
  row: Placed
  piece: (PieceLength & { words: readonly PieceWord[]; beyond: Frames }) | null
  /** Somebody who is not the reporter speaks. */
  guest: boolean
}

/** What pauses are left, at the end of a sentence and within one; a guest's are left longer. */
const LEFT = {
  own: { sentence: milliseconds(350), within: milliseconds(200) },
  guest: { sentence: milliseconds(550), within: milliseconds(400) },
}
/** A guest's pause from here on may be what the story is about. */
const STORY: Frames = toFrames(1.2)
/** A block may begin so much over the one before, and leave so much room to it. */
const OVERLAP: Frames = milliseconds(150)
const ROOM: Frames = milliseconds(400)
/** Natural sound by itself gives up so much of its length, and keeps at least this. */
const OF_SOUND = 0.4
const LEAST_SOUND: Frames = toFrames(1.5)
/** And goes on for so much longer, where its tape does. */
const MORE_SOUND: Frames = toFrames(4)
/** A reader reads so much faster or slower without sounding so. */
const PACE = 0.06
/** So much of a sentence's matter must be said on the tape beside it. */
const TWICE = 0.6
/** Less is not worth a change, in frames. */
const LEAST: Frames = milliseconds(40)

export function offers(blocks: readonly FitBlock[], shorter: boolean): Change[] {
  return blocks.flatMap((block, i): Change[] => {
    const before = blocks[i - 1]
    return shorter
      ? [...seamShorter(block, before), ...inPiece(block), ...copyShorter(block, before, blocks[i + 1])]
      : [...seamLonger(block, before), ...soundLonger(block), ...readFaster(block, 1 + PACE)]
  })
}

const change = (block: Block, rank: Rank, what: string, saves: Frames, partly: boolean, deed: Change['deed'], key = ''): Change[] =>
  Math.abs(saves) < LEAST ? [] : [{ id: `${block.id}/${rank}/${deed.do}${key}`, block: block.id, rank, what, saves, partly, deed }]

function seamShorter({ row }: FitBlock, before: FitBlock | undefined): Change[] {
  if (!before) return []
  const { block } = row
  const gap = block.gap ?? 0
  const sounding = row.sound === 'piece' && before.row.sound === 'piece'
  const over = sounding ? Math.max(0, OVERLAP + Math.min(0, gap)) : 0
  return [
    ...(gap > 0 ? change(block, 'room', `the pause before it`, gap, true, { do: 'gap', by: -gap }) : []),
    ...change(block, 'overlap', 'begins over the handle before it', over, true, { do: 'gap', by: -over }),
  ]
}

function seamLonger({ row }: FitBlock, before: FitBlock | undefined): Change[] {
  const more = before ? ROOM - Math.max(0, row.block.gap ?? 0) : 0
  return more > 0 ? change(row.block, 'room', 'more room before it', -more, true, { do: 'gap', by: more }) : []
}

function soundLonger({ row, piece }: FitBlock): Change[] {
  const more = piece && row.block.kind === 'full' ? Math.min(MORE_SOUND, piece.beyond) : 0
  return more > 0 ? change(row.block, 'sound', 'up full for longer', -more, true, { do: 'longer', by: more }) : []
}

/** What goes in the piece of a block: pauses, fillers, a sentence at its edge, or sound that stands by itself. */
function inPiece({ row, piece, guest }: FitBlock): Change[] {
  if (row.sound !== 'piece' || !piece) return []
  const { block } = row
  const { length, tail, words } = piece
  if (block.kind === 'full') {
    const most = Math.min(row.words * OF_SOUND, row.words - LEAST_SOUND)
    const to = length - tail
    return most > 0
      ? change(block, 'sound', 'up full for less', Math.round(most), true, { do: 'cut', cuts: [{ from: to - Math.round(most), to }] })
      : []
  }
  if (words.length < 2) return []
  const edges = guest ? edgeSentences(block, words) : []
  // what may go with its sentence does not go by itself as well
  const inside = (cut: Stretch) => !edges.some(({ deed }) => deed.do === 'cut' && overlapsAny(deed.cuts, cut))
  const fillers = words.flatMap((word, i) => (isFiller(word) ? fillerCut(words, i) : [])).filter(inside)
  const pauses = pausesOf(words, guest).filter(inside)
  const rank: Rank = guest ? 'pauses' : 'room'
  return [
    ...cutting(block, rank, pauses, pauses.length === 1 ? 'a pause' : `${pauses.length} pauses`, true),
    ...fillers.flatMap(({ from, to, text }) => cutting(block, guest ? 'fillers' : 'ownFillers', [{ from, to }], `“${text}”`, false, from)),
    ...edges,
  ]
}

function cutting(block: Block, rank: Rank, cuts: readonly Stretch[], what: string, partly: boolean, key?: number): Change[] {
  const saves = cuts.reduce((sum, { from, to }) => sum + to - from, 0)
  return change(block, rank, what, saves, partly, { do: 'cut', cuts }, key === undefined ? '' : `/${key}`)
}

/** What may go of each pause: its middle, down to what is left of it. */
function pausesOf(words: readonly PieceWord[], guest: boolean): Stretch[] {
  const keep = guest ? LEFT.guest : LEFT.own
  return words.slice(1).flatMap((word, i): Stretch[] => {
    const before = words[i]
    const [from, to] = [before.end, word.at]
    // hesitation goes with its filler, and what may be the story stays
    if (isFiller(before) || isFiller(word)) return []
    if (guest && (to - from >= STORY || before.text.endsWith('?'))) return []
    const left = ENDS.test(before.text) ? keep.sentence : keep.within
    if (to - from - left < LEAST) return []
    const start = from + Math.round(left * 0.6)
    return [{ from: start, to: start + (to - from - left) }]
  })
}

/** A filler with the shorter of the pauses beside it; nothing where it touches a word on both sides. */
function fillerCut(words: readonly PieceWord[], i: number): (Stretch & { text: string })[] {
  const [before, word, after] = [words[i - 1], words[i], words[i + 1]]
  if (!before || !after) return []
  const [left, right] = [word.at - before.end, after.at - word.end]
  if (Math.max(left, right) < milliseconds(60)) return []
  return left < right
    ? [{ from: before.end, to: word.end, text: word.text.replace(/[,.]$/, '') }]
    : [{ from: word.at, to: after.at, text: word.text.replace(/[,.]$/, '') }]
}

/** The first and the last sentence of an actuality of at least three. */
function edgeSentences(block: Block, words: readonly PieceWord[]): Change[] {
  const ends = words.flatMap(({ text }, i) => (ENDS.test(text) ? i : []))
  if (ends.length < 3 || ends.at(-1) !== words.length - 1) return []
  const said = (from: number, to: number) => {
    const text = words.slice(from, to).map((word) => word.text)
    return `“${text.length > 7 ? `${text.slice(0, 4).join(' ')} … ${text.slice(-2).join(' ')}` : text.join(' ')}”`
  }
  const first = ends[0] + 1
  const last = ends[ends.length - 2] + 1
  return [
    ...cutting(block, 'sentence', [{ from: words[0].at, to: words[first].at }], said(0, first), false, 0),
    ...cutting(block, 'sentence', [{ from: words[last - 1].end, to: words[words.length - 1].end }], said(last, words.length), false, 1),
  ]
}

function copyShorter(own: FitBlock, before: FitBlock | undefined, after: FitBlock | undefined): Change[] {
  const twice = saidTwice(own, [before, after])
  // of two, the one that changes fewer words is offered
  return twice.length ? twice.slice(0, 1) : readFaster(own, 1 - PACE)
}

/** Copy that is not recorded is read in so much of its time. */
function readFaster({ row }: FitBlock, times: number): Change[] {
  const { block, sound } = row
  if (sound === 'piece' || !isRecorded(block)) return []
  const now = row.words
  if (!now) return []
  const time = Math.round(now * times)
  const what = `read in ${clock(time)} instead of ${clock(now)}`
  return change(block, 'pace', what, now - time, true, { do: 'pace', text: block.text, time })
}

/** A sentence of copy, of at least two, that says what the tape beside it says; of what is recorded only where its words tell it apart. */
function saidTwice({ row, piece }: FitBlock, beside: readonly (FitBlock | undefined)[]): Change[] {
  const { block } = row
  if (!BLOCK_KINDS[block.kind].written || BLOCK_KINDS[block.kind].live || piece) return []
  const sentences = block.text.match(/[^.!?]+[.!?]+["”’]?\s*/g) ?? []
  if (sentences.length < 2 || sentences.join('').trim() !== block.text.trim()) return []
  const tape = beside.flatMap((one) => (one && one.row.block.kind === 'actuality' ? (one.piece?.words ?? []) : []))
  if (!tape.length) return []
  const said = tape.map(({ text }) => text).join(' ')
  return sentences.flatMap((sentence, i): Change[] => {
    const words = sentence.trim().split(/\s+/)
    const matter = saidAlready(
      said,
      words.map((text) => ({ text })),
    )
    const covered = matter.reduce((sum, { from, to }) => sum + to - from, 0)
    if (covered < TWICE * words.filter((word) => bare(word)).length) return []
    const text = sentences
      .filter((_, k) => k !== i)
      .join('')
      .trim()
    const saves = row.words - readingTime(text, row.pace!)
    return change(block, 'saidTwice', `“${sentence.trim()}”, which the tape says`, saves, false, { do: 'text', text }, `/${i}`)
  })
}

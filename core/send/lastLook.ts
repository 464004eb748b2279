import type { Actuality } from '../edits/actuality'
import { edits, fromTape, spanLength } from '../edits/editList'
import type { PieceWord } from '../edits/pieceWords'
import type { OutputLayout } from '../page/lay'
import { HIGHEST } from '../page/plan'
import { isRecorded, type StoryDocument } from '../page/story'
import type { Plan } from '../render/plan'
import type { Suggestion } from '../tape/suggestion'
import { clock, inSeconds, milliseconds, type Frames, type Stretch } from '../time'

/**
 * The last look: what a careful editor would ask before something is sent. Nothing here keeps it from being sent; it is said, each with
 * its place, and noted in the receipt.
 */
export interface Asked {
  text: string
  at: AskedPlace | null
}

/** Where to look: a block of the page, or a place of a piece or a tape. */
export type AskedPlace = { block: string } | { piece: string; frame: Frames } | { tape: string }

/** So many words are a cue. */
const CUE = 4

const counted = (count: number, one: string, many: string): string => (count === 1 ? `1 ${one}` : `${count} ${many}`)

/**
 * What is asked of a piece, by its words: joins that nobody has played, cues that nobody has checked, what is muted in it, and
 * what went though it may be the story (`suggestions`: those of it that were decided on).
 */
export function askedOfPiece(
  id: string,
  piece: Actuality,
  words: readonly PieceWord[],
  suggestions: readonly Pick<Suggestion, 'tape' | 'from' | 'story' | 'proposes' | 'decision'>[] = [],
): Asked[] {
  const name = `“${piece.slug || 'Untitled'}”`
  const at = (frame: Frames): AskedPlace => ({ piece: id, frame })
  const asked: Asked[] = []
  const unplayed = edits(piece.spans).filter(({ played }) => !played)
  if (unplayed.length)
    asked.push({ text: `${counted(unplayed.length, 'join', 'joins')} of ${name} not played yet.`, at: at(unplayed[0].at) })
  const spoken = words.filter(({ what }) => what !== 'noise')
  const cues = [spoken.slice(0, CUE), spoken.slice(-CUE)]
  const guessed = cues.map((cue) => cue.some(({ checked }) => !checked))
  if (guessed.includes(true)) {
    const which = guessed[0] && guessed[1] ? 'In cue and out cue' : guessed[0] ? 'In cue' : 'Out cue'
    asked.push({ text: `${which} of ${name} not checked by ear.`, at: at((guessed[0] ? cues[0][0] : cues[1][0]).at) })
  }
  const cut = suggestions.filter(
    ({ story, proposes, decision }) =>
      story && (proposes.do === 'takeOut' || proposes.do === 'hold') && decision && decision.is !== 'dismissed',
  )
  if (cut.length)
    asked.push({
      text: `${counted(cut.length, 'pause', 'pauses')} of ${name} cut that may be the story.`,
      at: at(fromTape(piece.spans, cut[0].tape, cut[0].from - 1) ?? 0),
    })
  const muted = mutedIn(piece)
  if (muted.length)
    asked.push({ text: `${counted(muted.length, 'passage', 'passages')} of ${name} muted, for all or for one side.`, at: at(muted[0]) })
  return asked
}

/** Where muted passages of a piece begin. */
function mutedIn({ spans }: Actuality): Frames[] {
  let at = 0
  return spans.flatMap((span) => {
    const from = at
    at += spanLength(span)
    return span.mute || span.mutes?.includes(true) ? [from] : []
  })
}

/** A length that is off by less than this is on time. */
const ON_TIME: Frames = milliseconds(500)

/** What is asked of a page in one of its outputs; `sent`: how long it was when it was sent last, in frames. */
export function askedOfPage(story: StoryDocument, { output, order, air }: OutputLayout, sent: Frames | null, file: Frames): Asked[] {
  const asked: Asked[] = []
  const off = air.length - output.slot
  if (output.slot && Math.abs(off) >= ON_TIME)
    asked.push({ text: `${inSeconds(Math.abs(off))} s ${off > 0 ? 'over' : 'under'} its slot of ${clock(output.slot)}.`, at: null })
  if (sent !== null && Math.abs(file - sent) >= ON_TIME)
    asked.push({
      text: `${inSeconds(Math.abs(file - sent))} s ${file > sent ? 'longer' : 'shorter'} than when it was sent last.`,
      at: null,
    })
  for (const block of order)
    if (isRecorded(block) && !block.piece && block.text.trim())
      asked.push({ text: `No voice track: “${firstWords(block.text)}”`, at: { block: block.id } })
  if (!order.some(({ kind }) => kind === 'soc')) asked.push({ text: 'No standard out cue.', at: null })
  const muted = new Set(Object.values(story.records).flatMap((record) => (record.kind === 'lane' && record.muted ? [record.id] : [])))
  for (const id of muted) {
    const held = air.hangers.filter(({ lane }) => lane.id === id)
    if (held.length) asked.push({ text: `The lane “${held[0].lane.name}” is muted: it is not in the file.`, at: null })
  }
  return asked
}

const firstWords = (text: string): string => {
  const words = text.trim().split(/\s+/)
  return words.slice(0, 6).join(' ') + (words.length > 6 ? ' …' : '')
}

/** Silence shorter than this is none that anybody hears. */
const LEAST_SILENCE: Frames = milliseconds(20)

/** Where a plan has no sound at all, not even a room: digital silence. */
export function silencesIn({ strips, length }: Plan): Stretch[] {
  const found: Stretch[] = []
  let heard = 0
  for (const { at, length: long } of [...strips].sort((a, b) => a.at - b.at)) {
    if (at - heard >= LEAST_SILENCE) found.push({ from: heard, to: at })
    heard = Math.max(heard, at + long)
  }
  if (length - heard >= LEAST_SILENCE) found.push({ from: heard, to: length })
  return found
}

export const askedOfSilence = (silences: readonly Stretch[]): Asked[] =>
  silences.map(({ from, to }) => ({ text: `Digital silence at ${clock(from)}, for ${inSeconds(to - from)} s.`, at: null }))

/** A programme is on target within so many LU (EBU R 128). */
const ON_TARGET = 0.5

/** What is asked of how loud a file is, in LUFS and dBTP; `target` in LUFS, null where it goes as it is. */
export function askedOfLoudness({ loudness, truePeak }: { loudness: number; truePeak: number }, target: number | null): Asked[] {
  const asked: Asked[] = []
  const off = target === null ? 0 : loudness - target
  const signed = (value: number) => value.toFixed(1).replace('-', '−')
  if (Math.abs(off) > ON_TARGET)
    asked.push({
      text: `${Math.abs(off).toFixed(1)} LU ${off > 0 ? 'louder' : 'softer'} than its target of ${signed(target!)} LUFS.`,
      at: null,
    })
  if (truePeak > HIGHEST + 0.05) asked.push({ text: `True peak ${signed(truePeak)} dBTP: over ${signed(HIGHEST)}.`, at: null })
  return asked
}

/** Voices that follow each other and differ by more than this are heard as too loud or too soft, in LU. */
const JUMP = 3

/** How loud a block is, in LUFS. */
export interface Loud {
  block: string
  name: string
  loudness: number
}

/** Where one voice is much louder than the one before. */
export const askedOfLevels = (row: readonly Loud[]): Asked[] =>
  row.slice(1).flatMap(({ block, name, loudness }, i) => {
    const by = loudness - row[i].loudness
    if (Math.abs(by) <= JUMP || !Number.isFinite(by)) return []
    return [{ text: `“${name}” is ${Math.abs(by).toFixed(1)} LU ${by > 0 ? 'louder' : 'softer'} than what comes before.`, at: { block } }]
  })

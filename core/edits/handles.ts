import { clamp, type Frames } from '../time'
import { clipLength, type Actuality, type ActualityStep } from './actuality'
import { withoutJoin, type Span } from './editList'

/** Room before the first word and after the last, which is faded in and out and lies over the neighbours on a page. */

type Piece = Pick<Actuality, 'spans' | 'head' | 'tail'>

/**
 * Makes the handle at one end longer or shorter by some frames. The words stay as long as they are. It grows by the
 * tape beyond, `free` frames of it at most, so that no other word comes in, and then by the room's own tone.
 */
export function changeHandle(piece: Piece, end: 'head' | 'tail', by: Frames, free: Frames): ActualityStep[] {
  const length = clipLength(piece)
  const move = Math.max(by, -Math.min(piece[end], length - 1))
  if (move === 0) return []
  const [from, to] = end === 'head' ? [0, Math.max(0, -move)] : [length - Math.max(0, -move), length]
  return [
    { type: 'replace', from, to, insert: move > 0 ? more(piece, end, move, free) : [], after: null },
    { type: 'set', key: end, value: piece[end] + move },
  ]
}

/** What a handle grows by: tape, then room. Where room was added already, room alone. */
function more({ spans }: Piece, end: 'head' | 'tail', by: Frames, free: Frames): Span[] {
  const outer = withoutJoin(end === 'head' ? spans[0] : spans[spans.length - 1])
  const { patch: _, level: __, ...look } = outer
  const ofTape = outer.sound === 'tape' && !outer.patch ? clamp(end === 'head' ? Math.min(free, outer.from) : free, 0, by) : 0
  const added = by - ofTape
  const edge = end === 'head' ? outer.from : outer.to
  if (end === 'head') {
    const start = edge - ofTape
    const runsOn = outer.sound === 'room' && edge >= added
    const room: Span = { ...look, sound: 'room', from: runsOn ? edge - added : start, to: runsOn ? edge : start + added }
    return [...(added ? [room] : []), ...(ofTape ? [{ ...outer, from: start, to: edge }] : [])]
  }
  const start = edge + ofTape
  const room: Span = { ...(outer.sound === 'room' ? outer : look), sound: 'room', from: start, to: start + added }
  return [...(ofTape ? [{ ...outer, from: edge, to: start }] : []), ...(added ? [room] : [])]
}

/**
 * Steps that set the handles to what lies before the first word and after the last; empty if they are that already, or if
 * there are no words.
 */
export function handlesByWords(piece: Piece, words: readonly { at: Frames; end: Frames }[]): ActualityStep[] {
  if (!words.length) return []
  const length = clipLength(piece)
  const head = clamp(words[0].at, 0, length)
  const tail = clamp(length - Math.max(...words.map(({ end }) => end)), 0, length - head)
  const steps: ActualityStep[] = []
  if (head !== piece.head) steps.push({ type: 'set', key: 'head', value: head })
  if (tail !== piece.tail) steps.push({ type: 'set', key: 'tail', value: tail })
  return steps
}

/** The span at an end of a piece that is no added room. */
export function endSpan({ spans }: Pick<Piece, 'spans'>, end: 'head' | 'tail'): Span {
  const list = end === 'head' ? spans : [...spans].reverse()
  return list.find(({ sound }) => sound !== 'room') ?? list[0]
}

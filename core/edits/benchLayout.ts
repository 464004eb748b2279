import type { Frames } from '../time'
import type { Nick } from './gone'
import { listLength, slice, spanLength, type EditList, type Span } from './editList'

/**
 * A piece with some of its nicks opened: what was taken out is laid out in its place, though it
 * does not sound. Places on the Bench are then not places in the piece; this maps between them.
 */
export interface BenchRun {
  /** Where it lies on the Bench. */
  at: Frames
  length: Frames
  /** Where it lies in the piece; an opened nick lies at a single place. */
  inPiece: Frames
  nick: Nick | null
  spans: Span[]
}

export interface BenchLayout {
  runs: BenchRun[]
  length: Frames
}

export function benchLayout(list: EditList, opened: readonly Nick[]): BenchLayout {
  const runs: BenchRun[] = []
  let at = 0
  let done = 0
  const keep = (to: Frames) => {
    if (to <= done) return
    runs.push({ at, length: to - done, inPiece: done, nick: null, spans: slice(list, done, to) })
    at += to - done
    done = to
  }
  for (const nick of opened) {
    keep(nick.at)
    for (const { tape, from, to } of nick.parts) {
      const span: Span = { tape, from, to, sound: 'tape' }
      runs.push({ at, length: spanLength(span), inPiece: nick.at, nick, spans: [span] })
      at += spanLength(span)
    }
  }
  keep(listLength(list))
  return { runs, length: at }
}

/** The place in the piece; within an opened nick, the place of the nick. */
export function toPiece(layout: BenchLayout, frame: Frames): Frames {
  const run = layout.runs.find((one) => frame < one.at + one.length) ?? layout.runs.at(-1)
  if (!run) return 0
  return run.nick ? run.inPiece : run.inPiece + Math.min(run.length, Math.max(0, frame - run.at))
}

/** The place on the Bench; a place where a nick is open lies behind it. */
export function toBench(layout: BenchLayout, position: Frames): Frames {
  if (layout.runs.length === 1) return position
  let found = 0
  for (const run of layout.runs) if (!run.nick && run.inPiece <= position) found = run.at + Math.min(run.length, position - run.inPiece)
  return found
}

/** The parts of opened nicks that a stretch of the Bench covers, as stretches of tape. */
export const nicksIn = (layout: BenchLayout, from: Frames, to: Frames): { nick: Nick; from: Frames; to: Frames }[] =>
  layout.runs.flatMap((run) => {
    const a = Math.max(from, run.at)
    const b = Math.min(to, run.at + run.length)
    return run.nick && b > a ? [{ nick: run.nick, from: run.spans[0].from + a - run.at, to: run.spans[0].from + b - run.at }] : []
  })

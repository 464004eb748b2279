import { firstWhere } from '../search'
import type { Frames } from '../time'

/**
 * Lays sound out like print. Time runs along lines; where there are words, time bends to them: a
 * word takes the wider of its time and its lettering, and a line breaks between words. Knows
 * nothing of a screen: widths of lettering come in, pixels go out.
 */

/** Something with a place in time that wants to be read. Words lie in order and do not overlap. */
export interface Token {
  at: Frames
  end: Frames
  /** Width of its lettering in pixels, with the space after it. */
  width: number
}

/** A run within a line in which time runs evenly: pixels `x` to `xEnd` show frames `from` to `to`. */
export interface Run {
  from: Frames
  to: Frames
  x: number
  xEnd: number
  /** The token that it is, or -1 for what lies between tokens. */
  token: number
}

export interface Line {
  from: Frames
  to: Frames
  /** Worked out when the line is first looked at: of a long tape few ever are. */
  readonly runs: Run[]
  /** Where the last run ends. */
  width: number
}

export interface SheetLayout {
  lines: Line[]
  bent: boolean
}

/** How much wider than its time a word may stand on average before the words no longer fit. */
const MOST_BENT = 1.9

/** Whether words still fit under their sound when `framesPerLine` go on a line. */
export function wordsFit(tokens: readonly Token[], framesPerLine: Frames, width: number): boolean {
  if (!tokens.length) return false
  const perFrame = width / framesPerLine
  let lettering = 0
  let time = 0
  for (const token of tokens) {
    lettering += token.width
    time += token.end - token.at
  }
  return lettering <= MOST_BENT * time * perFrame
}

/** Lines of even time. */
export function evenLayout(length: Frames, framesPerLine: Frames, width: number): SheetLayout {
  const lines: Line[] = []
  const step = Math.max(1, Math.round(framesPerLine))
  for (let from = 0; from < length || from === 0; from += step) {
    const to = Math.min(length, from + step)
    const xEnd = ((to - from) / step) * width
    lines.push({ from, to, runs: [{ from, to, x: 0, xEnd, token: -1 }], width: xEnd })
  }
  return { lines, bent: false }
}

/** A line of bent time; `first` is the first token that may stand on it. */
class BentLine implements Line {
  to: Frames
  width = 0
  private made: Run[] | null = null

  constructor(
    readonly from: Frames,
    private readonly first: number,
    private readonly tokens: readonly Token[],
    private readonly perFrame: number,
    private readonly most: number,
  ) {
    this.to = from
  }

  get runs(): Run[] {
    if (this.made) return this.made
    const runs: Run[] = []
    let at = this.from
    let x = 0
    const put = (to: Frames, wide: number, token: number) => {
      runs.push({ from: at, to, x, xEnd: x + wide, token })
      x += wide
      at = to
    }
    for (let i = this.first; i < this.tokens.length && at < this.to; i++) {
      const token = this.tokens[i]
      if (token.at > at) put(Math.min(token.at, this.to), (Math.min(token.at, this.to) - at) * this.perFrame, -1)
      if (at < this.to) put(Math.max(token.end, at + 1), widthOf(token, at, this.perFrame, this.most), i)
    }
    if (at < this.to) put(this.to, (this.to - at) * this.perFrame, -1)
    return (this.made = runs)
  }
}

const widthOf = (token: Token, at: Frames, perFrame: number, most: number): number =>
  Math.min(most, Math.max((Math.max(token.end, at + 1) - at) * perFrame, token.width))

/** Lines bent to the words. */
export function bentLayout(tokens: readonly Token[], length: Frames, framesPerLine: Frames, width: number): SheetLayout {
  const perFrame = width / framesPerLine
  const lines: BentLine[] = []
  let line = new BentLine(0, 0, tokens, perFrame, width)

  const breakLine = (next: number) => {
    if (line.to > line.from) lines.push(line)
    line = new BentLine(line.to, next, tokens, perFrame, width)
  }
  /** What lies between words keeps its proportion; one that is longer than the line runs on over the next. */
  const putBetween = (to: Frames, next: number) => {
    while (line.to < to) {
      const space = width - line.width
      const wide = (to - line.to) * perFrame
      if (wide <= space) {
        line.width += wide
        line.to = to
        return
      }
      const fitting = Math.floor(space / perFrame)
      line.width += fitting * perFrame
      line.to += fitting
      breakLine(next)
    }
  }

  for (let i = 0; i < tokens.length; i++) {
    const token = tokens[i]
    if (token.at > line.to) putBetween(token.at, i)
    if (line.width > 0 && line.width + widthOf(token, line.to, perFrame, width) > width) breakLine(i)
    line.width += widthOf(token, line.to, perFrame, width)
    line.to = Math.max(token.end, line.to + 1)
  }
  putBetween(length, tokens.length)
  breakLine(tokens.length)
  return lines.length ? { lines, bent: true } : evenLayout(length, framesPerLine, width)
}

/** The line that holds a frame. */
export const lineOf = (layout: SheetLayout, frame: Frames): number =>
  Math.max(0, firstWhere(layout.lines.length, (i) => layout.lines[i].from > frame) - 1)

/** Pixels from the line's start to a frame; clamped to the line. */
export function xOf(line: Line, frame: Frames): number {
  if (frame <= line.from) return 0
  for (const run of line.runs)
    if (frame <= run.to) return run.to === run.from ? run.x : run.x + ((frame - run.from) / (run.to - run.from)) * (run.xEnd - run.x)
  return line.width
}

/** The frame at so many pixels from the line's start; clamped to the line. */
export function frameAt(line: Line, x: number): Frames {
  if (x <= 0) return line.from
  for (const run of line.runs)
    if (x <= run.xEnd)
      return run.xEnd === run.x ? run.from : Math.round(run.from + ((x - run.x) / (run.xEnd - run.x)) * (run.to - run.from))
  return line.to
}

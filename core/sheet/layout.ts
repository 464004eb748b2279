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
  runs: Run[]
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

/** Lines bent to the words. */
export function bentLayout(tokens: readonly Token[], length: Frames, framesPerLine: Frames, width: number): SheetLayout {
  const perFrame = width / framesPerLine
  const lines: Line[] = []
  let line: Line = { from: 0, to: 0, runs: [], width: 0 }

  const breakLine = () => {
    if (!line.runs.length) return
    lines.push(line)
    line = { from: line.to, to: line.to, runs: [], width: 0 }
  }
  const put = (to: Frames, wide: number, token: number) => {
    line.runs.push({ from: line.to, to, x: line.width, xEnd: line.width + wide, token })
    line.width += wide
    line.to = to
  }
  /** What lies between words keeps its proportion; one that is longer than the line runs on over the next. */
  const putBetween = (to: Frames) => {
    while (line.to < to) {
      const space = width - line.width
      const wide = (to - line.to) * perFrame
      if (wide <= space) return put(to, wide, -1)
      const fitting = Math.floor(space / perFrame)
      if (fitting > 0) put(line.to + fitting, space, -1)
      breakLine()
    }
  }

  for (const [index, token] of tokens.entries()) {
    putBetween(Math.max(line.to, token.at))
    const end = Math.max(token.end, line.to + 1)
    const wide = Math.max((end - line.to) * perFrame, token.width)
    if (line.width > 0 && line.width + wide > width) breakLine()
    put(end, Math.min(wide, width), index)
  }
  putBetween(length)
  breakLine()
  return lines.length ? { lines, bent: true } : evenLayout(length, framesPerLine, width)
}

/** The line that holds a frame. */
export function lineOf(layout: SheetLayout, frame: Frames): number {
  let low = 0
  let high = layout.lines.length - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (layout.lines[middle].from <= frame) low = middle
    else high = middle - 1
  }
  return low
}

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
    if (x <= run.xEnd) return run.xEnd === run.x ? run.from : Math.round(run.from + ((x - run.x) / (run.xEnd - run.x)) * (run.to - run.from))
  return line.to
}

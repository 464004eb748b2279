import { frameAt, lineOf, xOf, type SheetLayout, type Token } from '../../../core/sheet/layout'
import { firstWhere } from '../../../core/search'
import type { LevelPoint } from '../../../core/sound/level'
import { clamp, RATE, type Frames, type Stretch } from '../../../core/time'
import { BELOW, FONT, ITALIC, LINE_REACH, MARGIN, RIGHT, TOP, WORD_DROP } from './metrics'
import type { SheetLook, SheetModel } from './model'

export interface Hit {
  frame: Frames
  /** Index of the word there, or -1. */
  word: number
  on: 'wave' | 'words' | 'margin'
  line: number
}

/** Where everything on a Sheet lies, in pixels of the view, as it is laid out and scrolled now. */
export class SheetPlaces {
  layout: SheetLayout = { lines: [], bent: false }
  look: SheetLook = { framesPerLine: RATE * 5.5, even: false, waveHeight: 44 }
  protected model: SheetModel | null = null
  protected tokens: Token[] | null = null
  protected widths = new Map<string, number>()
  protected width = 0
  protected height = 0

  constructor(
    protected readonly scroller: HTMLElement,
    protected readonly context: CanvasRenderingContext2D,
  ) {}

  get lineWidth(): number {
    return Math.max(100, this.width - MARGIN - RIGHT)
  }

  /** How much of it is in view, in pixels. */
  get viewHeight(): number {
    return this.height
  }

  get pitch(): number {
    return this.look.waveHeight + WORD_DROP + BELOW - (this.hasWords ? 0 : 16)
  }

  protected get hasWords(): boolean {
    return Boolean(this.model?.words.length)
  }

  /** How wide a word is; measured once. */
  widthOf(text: string, italic: boolean): number {
    const key = italic ? `/${text}` : text
    let width = this.widths.get(key)
    if (width === undefined) {
      this.context.font = italic ? ITALIC : FONT
      width = this.context.measureText(text).width
      this.widths.set(key, width)
    }
    return width
  }

  topOf = (line: number): number => TOP + line * this.pitch

  get firstVisible(): Frames {
    return this.layout.lines[clamp(Math.ceil((this.scroller.scrollTop - TOP) / this.pitch), 0, this.layout.lines.length - 1)]?.from ?? 0
  }

  get visible(): Stretch {
    const { lines } = this.layout
    const last = clamp(Math.floor((this.scroller.scrollTop + this.height - TOP) / this.pitch), 0, lines.length - 1)
    return { from: this.firstVisible, to: lines[last]?.to ?? 0 }
  }

  hit(x: number, y: number): Hit {
    const { lines } = this.layout
    const below = y + this.scroller.scrollTop - TOP
    const line = clamp(Math.floor(below / this.pitch), 0, lines.length - 1)
    const frame = below >= lines.length * this.pitch ? this.model!.length : frameAt(lines[line], x - MARGIN)
    const within = below - line * this.pitch
    const on = x < MARGIN - 8 ? 'margin' : within > this.look.waveHeight + 2 && this.hasWords ? 'words' : 'wave'
    return { frame, word: this.wordAt(frame), on, line }
  }

  /** The level that a place on a line stands for, in dB. */
  levelAt(y: number, line: number): number {
    const half = this.look.waveHeight / 2
    return ((half - (y - (this.topOf(line) - this.scroller.scrollTop))) / half) * LINE_REACH
  }

  /** The point of a level line that is near to a place in pixels of the view. */
  pointNear(x: number, y: number, reach: number): LevelPoint | undefined {
    const half = this.look.waveHeight / 2
    // the first and the last only say where a line's sound ends
    return this.model?.lines
      ?.flatMap((points) => points.slice(1, -1))
      .find(({ at, dB }) => {
        const place = this.placeOf(at)
        return Math.hypot(place.x - x, place.y + half - clamp(dB / LINE_REACH, -1, 1) * half - y) <= reach
      })
  }

  wordAt(frame: Frames): number {
    const found = this.firstWordFrom(frame)
    const word = this.model!.words[found]
    return word && word.at <= frame ? found : -1
  }

  firstWordFrom(frame: Frames): number {
    const { words } = this.model!
    return firstWhere(words.length, (i) => words[i].end > frame)
  }

  /** The place of a frame in pixels of the view; `late` where a frame at a line's start is meant as the last line's end. */
  placeOf(frame: Frames, late = false): { x: number; y: number; line: number } {
    let line = lineOf(this.layout, frame)
    if (late && line > 0 && this.layout.lines[line].from === frame) line--
    return { x: MARGIN + xOf(this.layout.lines[line], frame), y: this.topOf(line) - this.scroller.scrollTop, line }
  }

  /** The frame a line above or below. */
  frameByLine(frame: Frames, by: number): Frames {
    const { lines } = this.layout
    const line = lineOf(this.layout, frame)
    const next = line + by
    if (next < 0) return 0
    if (next >= lines.length) return this.model!.length
    return frameAt(lines[next], xOf(lines[line], frame))
  }

  /** The words in view with their places, for the mirror that screen readers and tests read. */
  wordsInView(): { index: number; text: string; x: number; y: number; width: number }[] {
    const found = []
    const { from, to } = this.visible
    for (let index = this.firstWordFrom(from); index < this.model!.words.length && found.length < 600; index++) {
      const word = this.model!.words[index]
      if (word.at >= to) break
      const { x, line } = this.placeOf(word.at)
      found.push({
        index,
        text: word.text,
        x,
        y: this.topOf(line) + this.look.waveHeight + 4,
        width: this.widthOf(word.text, word.look !== 'plain'),
      })
    }
    return found
  }
}

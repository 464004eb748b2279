import { bentLayout, evenLayout, frameAt, lineOf, wordsFit, xOf, type Line, type SheetLayout, type Token } from '../../core/sheet/layout'
import { firstWhere } from '../../core/search'
import { clamp, minuteSecond, RATE, type Frames, type Stretch } from '../../core/time'
import { lineAt, type LevelPoint } from '../../core/sound/level'
import { peakCache } from '../sound/peakCache'
import { colour } from '../ui/theme'
import type { Shade, SheetLook, SheetModel } from './model'

/**
 * Paints a Sheet: one canvas the size of the view, painted anew whenever something moves; waves as
 * columns of pixels, words above them. Knows where everything lies, and keeps the scroll place.
 */

const MARGIN = 104
const RIGHT = 28
/** Above the first line, in pixels. */
export const TOP = 26
const WORD_DROP = 27
const BELOW = 20
const FONT = '19px "Literata Variable", Georgia, serif'
const ITALIC = 'italic 19px "Literata Variable", Georgia, serif'
/** How far the stroke of a join leans to either side, in pixels. */
const [LEAST_LEAN, MOST_LEAN] = [5, 60]
/** How much in dB takes a level line to the edge of the wave. */
const LINE_REACH = 24
const SMALL = '12.5px "Public Sans Variable", system-ui, sans-serif'
const NAME = '600 13px "Public Sans Variable", system-ui, sans-serif'
const SHORTEST_PAUSE = RATE * 0.25

export interface Hit {
  frame: Frames
  /** Index of the word there, or -1. */
  word: number
  on: 'wave' | 'words' | 'margin'
  line: number
}

interface Palette {
  paper: number
  ink: number
  inkLight: number
  voice: number
  voiceLight: number
  grain: number
  grainLight: number
  tape: number
  tapeLight: number
  wash: number
  low: number
}

export class SheetSurface {
  layout: SheetLayout = { lines: [], bent: false }
  look: SheetLook = { framesPerLine: RATE * 5.5, even: false, waveHeight: 44 }
  private model: SheetModel | null = null
  private readonly context: CanvasRenderingContext2D
  private image: ImageData | null = null
  private pixels = new Uint32Array(0)
  /** Size of the canvas in its own pixels: asking the element for it costs too much in a loop. */
  private across = 0
  private down = 0
  private widths = new Map<string, number>()
  private tokens: Token[] | null = null
  private palette: Palette | null = null
  private width = 0
  private height = 0
  private scale = 1
  private scheduled = 0
  private target: number | null = null
  private readonly stops: (() => void)[] = []
  /** How often it was painted, for measurements. */
  private painted = 0
  private paintedAt = 0
  onPainted: () => void = () => undefined
  onScrolled: () => void = () => undefined

  constructor(
    private readonly scroller: HTMLElement,
    private readonly spacer: HTMLElement,
    private readonly canvas: HTMLCanvasElement,
  ) {
    this.context = canvas.getContext('2d', { alpha: false })!
    this.stops.push(peakCache.onChange(() => this.paintSoon()))
    const size = new ResizeObserver(() => this.resize())
    size.observe(scroller)
    this.stops.push(() => size.disconnect())
    const theme = new MutationObserver(() => {
      this.palette = null
      this.paintSoon()
    })
    theme.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] })
    this.stops.push(() => theme.disconnect())
    const scrolled = () => {
      this.paintSoon()
      this.onScrolled()
    }
    scroller.addEventListener('scroll', scrolled, { passive: true })
    this.stops.push(() => scroller.removeEventListener('scroll', scrolled))
    void Promise.all([document.fonts.load(FONT), document.fonts.load(ITALIC)]).then(() => {
      this.widths = new Map()
      this.tokens = null
      this.relayout()
    })
    this.resize()
  }

  close(): void {
    cancelAnimationFrame(this.scheduled)
    this.stops.forEach((stop) => stop())
  }

  private resize(): void {
    this.width = this.scroller.clientWidth
    this.height = this.scroller.clientHeight
    this.scale = devicePixelRatio
    this.canvas.width = this.across = Math.round(this.width * this.scale)
    this.canvas.height = this.down = Math.round(this.height * this.scale)
    this.canvas.style.width = `${this.width}px`
    this.canvas.style.height = `${this.height}px`
    this.image = null
    this.relayout()
  }

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

  private get hasWords(): boolean {
    return Boolean(this.model?.words.length)
  }

  show(model: SheetModel): void {
    const again = !this.model || this.model.words !== model.words || this.model.length !== model.length
    if (this.model?.words !== model.words) this.tokens = null
    this.model = model
    if (again) this.relayout()
    // what somebody did is shown in this very frame, unless one was painted just now
    if (performance.now() - this.paintedAt > 8) this.paint()
    else this.paintSoon()
  }

  setLook(look: SheetLook, anchor?: { frame: Frames; y: number }): void {
    const at = anchor ?? { frame: this.firstVisible, y: TOP }
    this.look = look
    this.relayout()
    const y = this.topOf(lineOf(this.layout, at.frame)) - at.y
    this.target = null
    this.scroller.scrollTop = y
    this.onScrolled()
  }

  private widthOf(text: string, italic: boolean): number {
    const key = italic ? `/${text}` : text
    let width = this.widths.get(key)
    if (width === undefined) {
      this.context.font = italic ? ITALIC : FONT
      width = this.context.measureText(text).width
      this.widths.set(key, width)
    }
    return width
  }

  private relayout(): void {
    const { model, look } = this
    if (!model || !this.width) return
    this.tokens ??= model.words.map((word) => ({ at: word.at, end: word.end, width: this.widthOf(word.text, word.look !== 'plain') + 7 }))
    const bend = !look.even && wordsFit(this.tokens, look.framesPerLine, this.lineWidth)
    this.layout = bend
      ? bentLayout(this.tokens, model.length, look.framesPerLine, this.lineWidth)
      : evenLayout(model.length, look.framesPerLine, this.lineWidth)
    this.spacer.style.height = `${TOP * 2 + this.layout.lines.length * this.pitch + this.height * 0.3}px`
    this.paintSoon()
  }

  // where things lie

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

  /** A point of a level line that is dragged: where it stands, and where to. */
  dragged: { at: Frames; to: LevelPoint } | null = null

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

  private firstWordFrom(frame: Frames): number {
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

  // scrolling

  scrollBy(pixels: number): void {
    const most = this.scroller.scrollHeight - this.height
    this.target = clamp((this.target ?? this.scroller.scrollTop) + pixels, 0, most)
    this.paintSoon()
  }

  /** Brings a frame into view; not at all where it is well in it already. */
  reveal(frame: Frames, centre = false): void {
    const { y } = this.placeOf(frame)
    if (!centre && y >= 0 && y + this.pitch <= this.height) return
    this.target = Math.max(0, y + this.scroller.scrollTop - this.height * (centre ? 0.4 : 0.3))
    this.paintSoon()
  }

  /** While it plays: turns the page before the playhead runs off it. */
  follow(frame: Frames): void {
    const { y } = this.placeOf(frame)
    if (this.target === null && (y < 0 || y + this.pitch > this.height * 0.85)) {
      this.target = Math.max(0, y + this.scroller.scrollTop - this.height * 0.25)
      this.paintSoon()
    }
  }

  private ease(): void {
    if (this.target === null) return
    const left = this.target - this.scroller.scrollTop
    if (Math.abs(left) < 1) {
      this.scroller.scrollTop = this.target
      this.target = null
    } else {
      const step = matchMedia('(prefers-reduced-motion: reduce)').matches ? left : left * 0.32
      this.scroller.scrollTop += Math.abs(step) < 1 ? Math.sign(left) : step
      this.paintSoon()
    }
  }

  // painting

  paintSoon = (): void => {
    if (!this.scheduled)
      this.scheduled = requestAnimationFrame(() => {
        this.scheduled = 0
        this.ease()
        this.paint()
      })
  }

  private colours(): Palette {
    if (this.palette) return this.palette
    const paper = rgb(colour('paper'))
    const ink = rgb(colour('ink'))
    const grain = rgb(colour('grain'))
    const tape = rgb(colour('tape'))
    const voice = rgb(colour('voice'))
    return (this.palette = {
      paper: pack(paper),
      ink: pack(mix(ink, paper, 0.14)),
      inkLight: pack(mix(ink, paper, 0.42)),
      voice: pack(mix(voice, paper, 0.14)),
      voiceLight: pack(mix(voice, paper, 0.5)),
      grain: pack(grain),
      grainLight: pack(mix(grain, paper, 0.45)),
      tape: pack(tape),
      tapeLight: pack(mix(tape, rgb(colour('tape-wash')), 0.45)),
      wash: pack(rgb(colour('tape-wash'))),
      low: pack(rgb(colour('paper-low'))),
    })
  }

  private paint(): void {
    const { model, canvas, context } = this
    if (!model || !canvas.width || !this.layout.lines.length) return
    const palette = this.colours()
    if (!this.image) {
      this.image = context.createImageData(canvas.width, canvas.height)
      this.pixels = new Uint32Array(this.image.data.buffer)
    }
    this.pixels.fill(palette.paper)
    const { scrollTop } = this.scroller
    const first = Math.max(0, Math.floor((scrollTop - TOP) / this.pitch) - 1)
    const last = Math.min(this.layout.lines.length - 1, Math.floor((scrollTop + this.height - TOP) / this.pitch))
    let whole = true
    for (let line = first; line <= last; line++) whole = this.paintWave(line, this.topOf(line) - scrollTop, palette) && whole
    context.putImageData(this.image, 0, 0)
    context.save()
    context.scale(this.scale, this.scale)
    for (let line = first; line <= last; line++) this.paintPrint(line, this.topOf(line) - scrollTop)
    context.restore()
    this.paintedAt = performance.now()
    canvas.dataset.painted = String(++this.painted)
    canvas.dataset.drawn = whole ? (this.layout.bent ? 'words' : 'even') : 'partly'
    this.onPainted()
  }

  private paintWave(index: number, top: number, palette: Palette): boolean {
    const line = this.layout.lines[index]
    const { model, scale } = this
    const { selection, also = [], shades, original, second } = model!
    const half = (this.look.waveHeight / 2) * scale
    const middle = Math.round((top + this.look.waveHeight / 2) * scale)
    const gain = model!.scale * half
    const start = Math.round(MARGIN * scale)
    const count = Math.round(line.width * scale)
    const column = new Float64Array(3)
    const other = new Float64Array(3)
    let whole = true
    let run = 0
    let shade = firstShade(shades, line.from)
    let next = 0
    const edge = (x: number): Frames => {
      while (run < line.runs.length - 1 && line.runs[run].xEnd <= x) run++
      const { from, to, x: left, xEnd } = line.runs[run]
      return xEnd === left ? from : from + ((x - left) / (xEnd - left)) * (to - from)
    }
    let from = line.from
    for (let i = 0; i < count; i++) {
      const to = edge((i + 1) / scale)
      while (next < also.length && also[next].to <= from) next++
      const chosen =
        (selection !== null && from >= selection.from && from < selection.to) || (next < also.length && also[next].from <= from)
      while (shade < shades.length && shades[shade].to <= from) shade++
      const look = shade < shades.length && shades[shade].from <= from ? shades[shade].look : null
      const x = start + i
      if (chosen) this.bar(x, middle - half, middle + half, palette.wash)
      else if (look === 'gone' || look === 'muted')
        this.bar(x, middle - half - 5 * scale, middle + half + (WORD_DROP + 8) * scale, palette.low)
      if (original?.column(from, Math.max(to, from + 1), to - from, column))
        this.bar(
          x,
          middle - Math.min(half, column[1] * gain),
          middle - Math.max(-half, column[0] * gain) + 1,
          chosen ? palette.wash : look === 'muted' ? palette.grainLight : palette.low,
        )
      whole = model!.wave.column(from, Math.max(to, from + 1), to - from, column) && whole
      const faded = look === 'gone' || look === 'struck'
      // whoever is the louder of two is the one that is seen
      if (second) second.wave.column(from, Math.max(to, from + 1), to - from, other)
      const theirs = second !== undefined && other[2] * gain > 1 && other[2] >= column[2] * 0.999
      const [dark, light] =
        chosen && !faded
          ? [palette.tape, palette.tapeLight]
          : faded || look === 'tone' || look === 'muted'
            ? [palette.grain, palette.grainLight]
            : theirs
              ? [palette.voice, palette.voiceLight]
              : [palette.ink, palette.inkLight]
      this.bar(x, middle - Math.min(half, column[1] * gain), middle - Math.max(-half, column[0] * gain) + 1, light)
      const body = Math.min(half, column[2] * gain)
      this.bar(x, middle - body, middle + body + 1, dark)
      from = to
    }
    return whole
  }

  /** A column of one colour, from `top` to `bottom` in pixels of the canvas. */
  private bar(x: number, top: number, bottom: number, value: number): void {
    const { pixels, across, down } = this
    if (x < 0 || x >= across) return
    const end = Math.min(down, Math.round(bottom)) * across + x
    for (let at = Math.max(0, Math.round(top)) * across + x; at < end; at += across) pixels[at] = value
  }

  private paintPrint(index: number, top: number): void {
    const line = this.layout.lines[index]
    const { context, model } = this
    const { words, nicks, marks, selection, shades } = model!
    const baseline = top + this.look.waveHeight + WORD_DROP - 6
    context.textAlign = 'right'
    context.fillStyle = colour('ink-faint')
    context.font = SMALL
    const middle = top + this.look.waveHeight / 2
    context.fillText(minuteSecond(line.from), MARGIN - 16, middle + 5)
    const speaker = this.speakerOf(index)
    if (speaker) {
      context.font = NAME
      context.fillStyle = colour(model!.second?.speakers.has(speaker) ? 'voice' : 'ink')
      context.fillText(fitted(context, speaker, MARGIN - 22), MARGIN - 16, middle - 11)
    }
    context.textAlign = 'left'
    if (this.layout.bent) this.printBent(line, baseline)
    else if (words.length) this.printPhrases(line, baseline)
    context.lineCap = 'round'
    for (const shade of shades) if (shade.look === 'off' && shade.to > line.from && shade.from < line.to) this.hatch(line, shade, top)
    for (const shade of shades) if (shade.look === 'patch' && shade.to > line.from && shade.from < line.to) this.patched(line, shade, top)
    for (const shade of shades) {
      if (shade.look !== 'struck' || shade.to <= line.from || shade.from >= line.to) continue
      context.strokeStyle = colour('cut')
      context.lineWidth = 1.6
      context.beginPath()
      context.moveTo(MARGIN + xOf(line, shade.from), middle + 1.5)
      context.lineTo(MARGIN + xOf(line, shade.to), middle - 1.5)
      context.stroke()
    }
    if (selection && selection.to > selection.from)
      for (const [edge, late] of [
        [selection.from, false],
        [selection.to, true],
      ] as const) {
        if (this.placeOf(edge, late).line !== index) continue
        context.fillStyle = colour('tape')
        context.fillRect(MARGIN + xOf(line, edge) - 1, top - 2, 2, this.look.waveHeight + 4)
      }
    for (const points of model!.lines ?? []) this.levelLine(line, points, middle)
    for (const nick of nicks) {
      if (nick.at < line.from || nick.at > line.to || this.placeOf(nick.at).line !== index) continue
      const x = MARGIN + xOf(line, nick.at)
      context.strokeStyle = colour('cut')
      context.lineWidth = nick.chosen ? 3 : nick.heard ? 1.6 : 2.2
      context.beginPath()
      const lean = clamp(xOf(line, Math.min(line.to, nick.at + nick.fade / 2)) - xOf(line, nick.at), LEAST_LEAN, MOST_LEAN)
      context.moveTo(x + lean, top - 6)
      context.lineTo(x - lean, baseline + 4)
      context.stroke()
    }
    context.font = SMALL
    for (const mark of marks) {
      if (mark.at < line.from || mark.at >= line.to) continue
      const x = MARGIN + xOf(line, mark.at)
      context.fillStyle = colour(mark.colour ?? 'tape')
      context.beginPath()
      context.moveTo(x - 4, top - 9)
      context.lineTo(x + 4, top - 9)
      context.lineTo(x, top - 2)
      context.fill()
      context.fillText(fitted(context, `${mark.star ? '★ ' : ''}${mark.text}`, 180), x + 7, top - 3)
    }
  }

  /** A level line over the wave, with what it does in dB where it is flat. */
  private levelLine(line: Line, drawn: readonly LevelPoint[], middle: number): void {
    const { dragged } = this
    const points = dragged ? drawn.map((point) => (point.at === dragged.at ? dragged.to : point)) : drawn
    const [from, to] = [Math.max(line.from, points[0].at), Math.min(line.to, points[points.length - 1].at)]
    if (to <= from) return
    const { context } = this
    const half = this.look.waveHeight / 2
    const y = (dB: number) => middle - clamp(dB / LINE_REACH, -1, 1) * half
    const [left, right] = [xOf(line, from), xOf(line, to)]
    context.strokeStyle = context.fillStyle = colour('tape')
    context.lineWidth = 1.8
    context.beginPath()
    // where it changes nothing it does not lie over the wave
    let before = 0
    for (let x = left; x <= right; x += 2) {
      const dB = lineAt(points, frameAt(line, x))
      if (dB === 0 && before === 0) context.moveTo(MARGIN + x, y(0))
      else context.lineTo(MARGIN + x, y(dB))
      before = dB
    }
    context.stroke()
    context.font = SMALL
    points.forEach(({ at, dB }, i) => {
      // the first and the last only say where the line ends
      if (at < line.from || at > line.to || ((i === 0 || i === points.length - 1) && dB === 0)) return
      context.beginPath()
      context.arc(MARGIN + xOf(line, at), y(dB), 2.6, 0, 2 * Math.PI)
      context.fill()
      const next = points[i + 1]
      if (dB !== 0 && next?.dB === dB)
        context.fillText(
          `${dB > 0 ? '+' : '−'}${Math.abs(dB)} dB`,
          MARGIN + (xOf(line, at) + xOf(line, Math.min(next.at, line.to))) / 2 - 14,
          y(dB) + (dB < 0 ? 13 : -6),
        )
    })
  }

  private speakerOf(index: number): string {
    const line = this.layout.lines[index]
    const first = this.firstWordFrom(line.from)
    const word = this.model!.words[first]
    if (!word || word.at >= line.to) return ''
    const before = this.model!.words[first - 1]
    return !before || before.speaker !== word.speaker ? word.speaker : ''
  }

  private printBent(line: Line, baseline: number): void {
    const { context, model } = this
    const { second } = model!
    const ink = colour('ink')
    const voice = colour('voice')
    const soft = colour('ink-soft')
    const faint = colour('ink-faint')
    const cut = colour('cut')
    for (const run of line.runs) {
      if (run.token < 0) {
        this.printPause(run.to - run.from, run.x, run.xEnd, baseline)
        continue
      }
      const word = model!.words[run.token]
      const plain = word.look === 'plain' && !struckAt(model!.shades, word.at, word.end)
      context.font = word.look === 'plain' ? FONT : ITALIC
      context.fillStyle = !plain ? faint : second?.speakers.has(word.speaker) ? voice : word.trust === 'checked' ? ink : soft
      context.fillText(word.text, MARGIN + run.x, baseline)
      if (word.trust === 'unsure' && plain) this.underline(MARGIN + run.x, this.widthOf(word.text, false), baseline + 4)
      if (word.look === 'gone' || (!plain && word.look === 'plain')) {
        context.fillStyle = word.look === 'gone' ? faint : cut
        context.fillRect(MARGIN + run.x, baseline - 6, this.widthOf(word.text, word.look !== 'plain'), 1.2)
      }
    }
  }

  /** A strip of splicing tape over what is patched. */
  private patched(line: Line, { from, to }: Shade, top: number): void {
    const { context } = this
    const [left, right] = [MARGIN + xOf(line, Math.max(from, line.from)), MARGIN + xOf(line, Math.min(to, line.to))]
    context.fillStyle = colour('tape')
    context.globalAlpha = 0.16
    context.fillRect(left, top - 1, right - left, this.look.waveHeight + 2)
    context.globalAlpha = 1
    context.fillRect(left, top + this.look.waveHeight, right - left, 2)
  }

  /** Slanting strokes over what was said off the record, and what that means at its start. */
  private hatch(line: Line, { from, to }: Shade, top: number): void {
    const { context } = this
    const [left, right] = [MARGIN + xOf(line, Math.max(from, line.from)), MARGIN + xOf(line, Math.min(to, line.to))]
    const height = this.look.waveHeight + WORD_DROP
    context.save()
    context.beginPath()
    context.rect(left, top - 4, right - left, height + 6)
    context.clip()
    context.strokeStyle = colour('cut')
    context.globalAlpha = 0.55
    context.lineWidth = 1
    context.beginPath()
    for (let x = left - height; x < right; x += 8) {
      context.moveTo(x, top + height)
      context.lineTo(x + height, top)
    }
    context.stroke()
    context.restore()
    if (from < line.from) return
    context.font = SMALL
    context.fillStyle = colour('cut-ink')
    context.fillText('off the record', left, top - 8)
  }

  /** Dots under a word that nobody is sure of. */
  private underline(x: number, width: number, y: number): void {
    const { context } = this
    context.fillStyle = colour('ink-faint')
    for (let dot = x; dot < x + width - 1; dot += 4) context.fillRect(dot, y, 1.6, 1.6)
  }

  private printPause(length: Frames, x: number, xEnd: number, baseline: number): void {
    if (length < SHORTEST_PAUSE || xEnd - x < 30 || this.context.canvas.width === 0) return
    const text = (length / RATE).toFixed(1)
    this.context.font = SMALL
    this.context.fillStyle = colour('ink-faint')
    this.context.fillText(text, MARGIN + (x + xEnd) / 2 - 10, baseline)
  }

  /** Where words no longer fit, the starts of phrases say where one is. */
  private printPhrases(line: Line, baseline: number): void {
    const { context, model } = this
    const { words, second } = model!
    const ink = colour('ink')
    const faint = colour('ink-faint')
    context.font = FONT
    let free = 0
    let end = -1
    for (let i = this.firstWordFrom(line.from); i < words.length && words[i].at < line.to; i = end + 1) {
      end = i
      while (end < words.length - 1 && !words[end].phraseEnd) end++
      const x = xOf(line, words[i].at)
      if (x < free || (i > 0 && !words[i - 1].phraseEnd)) continue
      const next = end + 1 < words.length && words[end + 1].at < line.to ? xOf(line, words[end + 1].at) : this.lineWidth
      let text = ''
      let wide = 0
      for (let k = i; k <= end; k++) {
        const more = this.tokens![k].width
        if (x + wide + more > next - 8) break
        text = text ? `${text} ${words[k].text}` : words[k].text
        wide += more
      }
      if (!text) continue
      context.fillStyle = words[i].look !== 'plain' ? faint : second?.speakers.has(words[i].speaker) ? colour('voice') : ink
      context.fillText(text, MARGIN + x, baseline)
      free = x + wide + 12
    }
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

function firstShade(shades: readonly Shade[], frame: Frames): number {
  const found = shades.findIndex((shade) => shade.to > frame)
  return found < 0 ? shades.length : found
}

const struckAt = (shades: readonly Shade[], from: Frames, to: Frames): boolean =>
  shades.some((shade) => shade.look === 'struck' && Math.min(to, shade.to) - Math.max(from, shade.from) > (to - from) / 2)

function fitted(context: CanvasRenderingContext2D, text: string, width: number): string {
  if (context.measureText(text).width <= width) return text
  let short = text
  while (short && context.measureText(`${short}…`).width > width) short = short.slice(0, -1)
  return `${short.trimEnd()}…`
}

type Rgb = [number, number, number]
const rgb = (hex: string): Rgb => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)) as Rgb
const mix = (a: Rgb, b: Rgb, share: number): Rgb => a.map((value, i) => Math.round(value + (b[i] - value) * share)) as Rgb
const pack = ([r, g, b]: Rgb): number => ((255 << 24) | (b << 16) | (g << 8) | r) >>> 0

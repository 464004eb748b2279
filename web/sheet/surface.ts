import { bentLayout, evenLayout, lineOf, wordsFit } from '../../core/sheet/layout'
import { clamp, type Frames } from '../../core/time'
import type { LevelPoint } from '../../core/sound/level'
import { peakCache } from '../sound/peakCache'
import { FONT, ITALIC, TOP, WORD_DROP } from './paint/metrics'
import type { SheetLook, SheetModel } from './paint/model'
import { paletteNow, type Palette } from './paint/palette'
import { SheetPlaces } from './paint/places'
import { printEdges } from './paint/edges'
import { printFound } from './paint/found'
import { printJoins } from './paint/joins'
import { printLevels } from './paint/levels'
import { printLowCuts } from './paint/lowCuts'
import { printMargin } from './paint/margin'
import { printMarks } from './paint/marks'
import type { Painter } from './paint/print'
import { printShades } from './paint/shades'
import { printWords } from './paint/words'
import { paintWave } from './paint/wave'

/** What is printed over the waves, in this order: what comes later lies above. */
const PAINTERS: readonly Painter[] = [
  printMargin,
  printWords,
  printShades,
  printFound,
  printEdges,
  printLevels,
  printLowCuts,
  printJoins,
  printMarks,
]

/**
 * Paints a Sheet: one canvas the size of the view, painted anew whenever something moves; waves as columns of pixels,
 * then what is printed over them. Keeps the scroll place.
 */
export class SheetSurface extends SheetPlaces {
  private image: ImageData | null = null
  private pixels = new Uint32Array(0)
  /** What the waves in the image were painted from, and whether all of their sound was known. */
  private waves: { from: readonly unknown[]; whole: boolean } | null = null
  /** Size of the canvas in its own pixels: asking the element for it costs too much in a loop. */
  private across = 0
  private down = 0
  private palette: Palette | null = null
  private scale = 1
  private scheduled = 0
  private target: number | null = null
  private readonly stops: (() => void)[] = []
  /** How often it was painted, for measurements. */
  private painted = 0
  private paintedAt = 0
  /** A point of a level line that is dragged: where it stands, and where to. */
  dragged: { at: Frames; to: LevelPoint } | null = null
  onPainted: () => void = () => undefined
  onScrolled: () => void = () => undefined

  constructor(
    scroller: HTMLElement,
    private readonly spacer: HTMLElement,
    private readonly canvas: HTMLCanvasElement,
  ) {
    super(scroller, canvas.getContext('2d', { alpha: false })!)
    const heard = () => {
      this.waves = null
      this.paintSoon()
    }
    this.stops.push(peakCache.onChange(heard))
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

  paintSoon = (): void => {
    if (!this.scheduled)
      this.scheduled = requestAnimationFrame(() => {
        this.scheduled = 0
        this.ease()
        this.paint()
      })
  }

  private paint(): void {
    const { model, canvas, context } = this
    if (!model || !canvas.width || !this.layout.lines.length) return
    const palette = (this.palette ??= paletteNow())
    if (!this.image) {
      this.image = context.createImageData(canvas.width, canvas.height)
      this.pixels = new Uint32Array(this.image.data.buffer)
    }
    const { scrollTop } = this.scroller
    const first = Math.max(0, Math.floor((scrollTop - TOP) / this.pitch) - 1)
    const last = Math.min(this.layout.lines.length - 1, Math.floor((scrollTop + this.height - TOP) / this.pitch))
    const whole = this.paintWaves(first, last, palette)
    context.putImageData(this.image, 0, 0)
    context.save()
    context.scale(this.scale, this.scale)
    for (let line = first; line <= last; line++) this.print(line)
    context.restore()
    this.paintedAt = performance.now()
    canvas.dataset.painted = String(++this.painted)
    canvas.dataset.drawn = whole ? (this.layout.bent ? 'words' : 'even') : 'partly'
    this.onPainted()
  }

  /** The waves of lines, painted anew only where something of them changed; false where not all of their sound is known. */
  private paintWaves(first: number, last: number, palette: Palette): boolean {
    const { model, image, layout } = this
    const { wave, scale, selection, also, shades, original, second } = model!
    const { scrollTop } = this.scroller
    const from = [image, palette, layout, scrollTop, this.look, wave, scale, selection, also, shades, original, second]
    if (this.waves?.whole && this.waves.from.every((one, i) => one === from[i])) return true
    this.pixels.fill(palette.paper)
    let whole = true
    for (let line = first; line <= last; line++) whole = this.paintWave(line, palette) && whole
    this.waves = { from, whole }
    return whole
  }

  private paintWave(index: number, palette: Palette): boolean {
    const { pixels, across, down, scale } = this
    const top = this.topOf(index) - this.scroller.scrollTop
    const line = this.layout.lines[index]
    return paintWave({ pixels, across, down }, { line, model: this.model!, top, waveHeight: this.look.waveHeight, scale }, palette)
  }

  private print(index: number): void {
    const { context, dragged } = this
    const { waveHeight } = this.look
    const top = this.topOf(index) - this.scroller.scrollTop
    const print = {
      context,
      places: this,
      model: this.model!,
      index,
      line: this.layout.lines[index],
      top,
      middle: top + waveHeight / 2,
      baseline: top + waveHeight + WORD_DROP - 6,
      waveHeight,
      dragged,
      wordWidths: this.tokens ?? [],
    }
    for (const paint of PAINTERS) paint(print)
  }
}

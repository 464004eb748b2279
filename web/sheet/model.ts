import type { Token } from '../../core/sheet/layout'
import type { Frames, Stretch } from '../../core/time'
import type { Wave } from '../sound/wave'

/** What a Sheet shows. Places are frames of what it lays out: a tape, or a piece with its open nicks. */
export interface SheetModel {
  length: Frames
  words: readonly SheetWord[]
  wave: Wave
  /** Drawn in outline behind the wave: the sound as it was. */
  original?: Wave
  /** How much taller than full scale the wave is drawn. */
  scale: number
  /** In order, none over another. */
  shades: readonly Shade[]
  /** What was pulled from it already, for the overview. */
  used: readonly Stretch[]
  nicks: readonly SheetNick[]
  marks: readonly { at: Frames; text: string }[]
  selection: Stretch | null
}

export interface SheetWord extends Omit<Token, 'width'> {
  text: string
  look: 'plain' | 'filler' | 'gone'
  speaker: string
  phraseEnd: boolean
}

/** A stretch that looks different: struck on a tape, taken out of a piece, or held as room tone. */
export interface Shade extends Stretch {
  look: 'struck' | 'gone' | 'tone'
}

export interface SheetNick {
  at: Frames
  open: boolean
  chosen: boolean
  heard: boolean
}

/** How a Sheet is looked at. */
export interface SheetLook {
  framesPerLine: Frames
  even: boolean
  waveHeight: number
}

export const WAVE_HEIGHTS = [28, 44, 64, 96, 144]

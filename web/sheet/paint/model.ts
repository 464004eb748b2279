import type { Token } from '../../../core/sheet/layout'
import type { LevelPoint } from '../../../core/sound/level'
import type { MarkColour } from '../../../core/tape/tape'
import type { Frames, Stretch } from '../../../core/time'
import type { Wave } from '../../sound/wave'

/** What a Sheet shows. Places are frames of what it lays out: a tape, or a piece with its open nicks. */
export interface SheetModel {
  length: Frames
  words: readonly SheetWord[]
  wave: Wave
  /** The other voice of a conversation, where there is one: its own wave, and who speaks on it. */
  second?: { wave: Wave; speakers: ReadonlySet<string> }
  /** Drawn in outline behind the wave: the sound as it was. */
  original?: Wave
  /** How much taller than full scale the wave is drawn. */
  scale: number
  /** In order, none over another. */
  shades: readonly Shade[]
  /** What was pulled from it already, for the overview. */
  used: readonly Stretch[]
  nicks: readonly SheetNick[]
  /** Level lines over it: points at places in order. */
  lines?: readonly (readonly LevelPoint[])[]
  /** What is cut below so many hertz, in order. */
  lowCuts?: readonly (Stretch & { hertz: number })[]
  marks: readonly { id?: string; at: Frames; text: string; colour?: MarkColour; star?: boolean }[]
  /** What finders found and nobody has decided on, in order. */
  found?: readonly SheetFound[]
  selection: Stretch | null
  /** Other passages that are chosen with it, in order. */
  also?: readonly Stretch[]
}

export interface SheetWord extends Omit<Token, 'width'> {
  text: string
  look: 'plain' | 'filler' | 'gone'
  speaker: string
  /** Nobody has confirmed it; `unsure` where the recogniser was not sure of it either. */
  trust: 'checked' | 'guess' | 'unsure'
  phraseEnd: boolean
}

/** A stretch that looks different: struck on a tape or off its record, taken out of a piece, held as room tone, muted, or patched. */
export interface Shade extends Stretch {
  look: 'struck' | 'gone' | 'tone' | 'muted' | 'off' | 'patch'
}

/** Something that was found: words are ringed, a pause is bracketed, and what would go of it is shaded. */
export interface SheetFound extends Stretch {
  look: 'ring' | 'bracket'
  goes: Stretch
  /** What would become of the one that is looked at: `1.8 → 0.5`; null for all others. */
  text: string | null
}

export interface SheetNick {
  at: Frames
  /** The crossfade there, by which its stroke leans. */
  fade: Frames
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

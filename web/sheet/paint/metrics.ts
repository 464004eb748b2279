import { RATE } from '../../../core/time'

/** Sizes of a Sheet, in pixels, and its lettering. */

export const MARGIN = 104
export const RIGHT = 28
/** Above the first line. */
export const TOP = 26
export const WORD_DROP = 27
export const BELOW = 20
/** How much in dB takes a level line to the edge of the wave. */
export const LINE_REACH = 24
/** A pause is told from this on, in frames. */
export const SHORTEST_PAUSE = RATE * 0.25
export const FONT = '19px "Literata Variable", Georgia, serif'
export const ITALIC = 'italic 19px "Literata Variable", Georgia, serif'
export const SMALL = '12.5px "Public Sans Variable", system-ui, sans-serif'
export const NAME = '600 13px "Public Sans Variable", system-ui, sans-serif'

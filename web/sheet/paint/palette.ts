import { colour } from '../../ui/theme'

/** The colours of waves, as pixels of an image. */
export interface Palette {
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

/** The palette of the theme as it is now. */
export function paletteNow(): Palette {
  const paper = rgb(colour('paper'))
  const ink = rgb(colour('ink'))
  const grain = rgb(colour('grain'))
  const tape = rgb(colour('tape'))
  const voice = rgb(colour('voice'))
  return {
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
  }
}

type Rgb = [number, number, number]
const rgb = (hex: string): Rgb => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)) as Rgb
const mix = (a: Rgb, b: Rgb, share: number): Rgb => a.map((value, i) => Math.round(value + (b[i] - value) * share)) as Rgb
const pack = ([r, g, b]: Rgb): number => ((255 << 24) | (b << 16) | (g << 8) | r) >>> 0

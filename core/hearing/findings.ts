import { clock, type Frames } from '../time'
import { SILENCE, type TapeFigures } from './ear'

/** What is wrong with a tape, as far as its sound and its file tell. */
export type Finding =
  | { what: 'cutShort'; at: Frames }
  | { what: 'unfinished' }
  /** A decoder complained, first about there, in so many places. */
  | { what: 'damaged'; at: Frames; count: number }
  /** Samples that were no numbers, or far beyond full scale, first there; they are silent. */
  | { what: 'unreal'; at: Frames; count: number }
  /** The wave does not swing around zero, by a share of full scale. */
  | { what: 'offset'; by: number }
  | { what: 'clipped'; count: number }
  | { what: 'low'; level: number }
  | { what: 'silent' }
  | { what: 'empty'; channel: number }
  | { what: 'same' }
  | { what: 'upsideDown' }
  | { what: 'hum'; frequency: number; level: number }

/** Speech that lies below this was recorded very low, in dBFS. */
const LOW = -40
/** What stands out less than this from its room may be no voice at all, in dB. */
const VOICE_OVER_ROOM = 15
/** A channel with nothing louder than this is empty, in dBFS. */
const EMPTY = -66
const OPPOSITE = -0.6
/** A wave off zero by more than this share of full scale can click where it is cut. */
const OFF_CENTRE = 0.01
/** Hum this far below the speech or less is worth a word, in dB. */
const HUM_BELOW_SPEECH = 45

/** By what was measured; what the file itself had wrong comes from whoever read it. */
export function findingsOf(figures: TapeFigures): Finding[] {
  const { channels, clipped, hum, correlation, same } = figures
  const found: Finding[] = []
  const loudest = Math.max(...channels.map(({ peak }) => peak))
  if (loudest <= EMPTY) return [{ what: 'silent' }]
  const empty = channels.flatMap(({ peak }, channel) => (peak <= EMPTY ? [channel] : []))
  for (const channel of empty) found.push({ what: 'empty', channel })
  if (channels.length === 2 && !empty.length) {
    if (same) found.push({ what: 'same' })
    else if (correlation < OPPOSITE) found.push({ what: 'upsideDown' })
  }
  const offset = Math.max(...channels.map(({ offset: by = 0 }) => Math.abs(by)))
  if (offset > OFF_CENTRE) found.push({ what: 'offset', by: offset })
  if (clipped.count) found.push({ what: 'clipped', count: clipped.count })
  const speech = Math.max(...channels.map(({ speechLevel }) => speechLevel))
  const floor = Math.max(...channels.map((channel) => channel.floor))
  if (speech > SILENCE && speech < LOW && speech - floor > VOICE_OVER_ROOM) found.push({ what: 'low', level: speech })
  if (hum && speech - hum.level < HUM_BELOW_SPEECH) found.push({ what: 'hum', frequency: hum.frequency, level: hum.level })
  return found
}

/** In plain words. */
export function say(finding: Finding): string {
  switch (finding.what) {
    case 'cutShort':
      return `The file is cut short: it ends at ${clock(finding.at)}.`
    case 'unfinished':
      return 'The recorder never finished the file, perhaps for want of power. All that was written is here.'
    case 'damaged':
      return finding.count === 1
        ? `The file is damaged at about ${clock(finding.at)}: listen there.`
        : `The file is damaged in ${finding.count} places, first at about ${clock(finding.at)}: listen there.`
    case 'unreal':
      return `The file has impossible samples from ${clock(finding.at)} on; they are silent.`
    case 'offset':
      return 'The wave is off centre (DC offset), which can click at cuts.'
    case 'clipped':
      return finding.count === 1 ? 'Clipped in one place.' : `Clipped in ${finding.count} places.`
    case 'low':
      return `Recorded very low: speech lies at ${Math.round(finding.level)} dB.`
    case 'silent':
      return 'Nothing can be heard on it.'
    case 'empty':
      return `Channel ${finding.channel + 1} is empty.`
    case 'same':
      return 'Both channels are the same.'
    case 'upsideDown':
      return 'One channel is upside down: heard together they cancel out.'
    case 'hum':
      return `Mains hum at ${finding.frequency} Hz.`
  }
}

/** A tape in one line, as a colleague would say it. */
export function inWords(figures: TapeFigures): string {
  const speech = Math.max(...figures.channels.map(({ speechLevel }) => speechLevel))
  const floor = Math.max(...figures.channels.map((channel) => channel.floor))
  if (speech <= SILENCE)
    return figures.loudness.integrated <= SILENCE
      ? 'Nothing can be heard on it.'
      : `No speech found; it sounds at ${Math.round(figures.loudness.integrated)} LUFS.`
  const level = speech < LOW ? 'Recorded very low' : speech < -32 ? 'A low recording' : speech > -12 ? 'A hot recording' : 'A good level'
  const apart = speech - floor
  const room =
    apart > 45 ? 'in a very quiet room' : apart > 30 ? 'in a quiet room' : apart > 18 ? 'with some noise behind it' : 'in a noisy place'
  const clean = figures.clipped.count ? `, clipped ${figures.clipped.count === 1 ? 'once' : `in ${figures.clipped.count} places`}` : ''
  return `${level}, ${room}${clean}.`
}

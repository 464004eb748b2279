import type { Plan, Strip } from '../render/plan'
import { rise, type Ramp } from '../sound/fade'
import { decibels, lineAt } from '../sound/level'
import { asciiOf } from '../sound/ascii'
import { RATE, type Frames } from '../time'
import { partWith, type MediaPart } from './media'

/**
 * What is heard as an edit decision list of AES31-3 (1999, simple project interchange): which frames of which file lie where on which
 * track, with fades and levels. Times are counted at 25 frames a second and in samples after them; places in a file are counted from
 * its own beginning. Levels, and how a bed goes under, are the points of each track's fader, in dB.
 */

/** A lane by its name, and what is heard of it alone. */
export interface Lane {
  name: string
  plan: Plan
}

const PICTURE: Frames = RATE / 25
const SILENT_DB = -120

/** `hh.mm.ss.ff/ssss` */
export function timeCode(frames: Frames): string {
  const pictures = Math.floor(frames / PICTURE)
  const two = (value: number) => String(value).padStart(2, '0')
  const fields = [Math.floor(pictures / 90_000), Math.floor(pictures / 1500) % 60, Math.floor(pictures / 25) % 60, pictures % 25]
  return `${fields.map(two).join('.')}/${String(frames % PICTURE).padStart(4, '0')}`
}

const quoted = (text: string): string => `"${asciiOf(text).replaceAll('"', "'")}"`
const four = (value: number): string => String(value).padStart(4, '0')
const inDecibels = (factor: number): string => Math.max(SILENT_DB, decibels(factor)).toFixed(2)

/** A track holds what does not overlap. */
interface Track {
  name: string
  strips: Strip[]
}

/** @param made when, as `2026-11-25T17:52:00`; `nameOf`: the file in which a part lies, beside the list. */
export function adl(
  title: string,
  made: string,
  lanes: readonly Lane[],
  parts: readonly MediaPart[],
  nameOf: (part: MediaPart) => string,
): string {
  const tracks = lanes.flatMap(tracksOf)
  const sources = parts.map((part, i) =>
    [
      `(Index)\t${four(i + 1)}`,
      `(F)\t"URL:file://localhost/${encodeURI(nameOf(part))}"`,
      quoted(`PLAINCUT-${i + 1}`),
      timeCode(0),
      timeCode(part.to - part.from),
      `${quoted(nameOf(part))}\tN`,
    ].join('\t'),
  )
  const events = tracks.flatMap(({ strips }, t) => strips.map((strip) => ({ strip, track: t + 1 })))
  return [
    section('VERSION', ['(ADL_ID)\t"06,64,43,52,01,01,01,04,01,02,03,04"', '(VER_ADL_VERSION)\t01.01', '(VER_CREATOR)\t"Plain Cut"']),
    section('PROJECT', [`(PROJ_TITLE)\t${quoted(title)}`, '(PROJ_ORIGINATOR)\t"Plain Cut"', `(PROJ_CREATE_DATE)\t${made}`]),
    section('SEQUENCE', [
      `(SEQ_SAMPLE_RATE)\tS${RATE}`,
      '(SEQ_FRAME_RATE)\t25',
      '(SEQ_ADL_LEVEL)\t1',
      '(SEQ_CLEAN)\tTRUE',
      `(SEQ_DEST_START)\t${timeCode(0)}`,
    ]),
    section(
      'TRACKLIST',
      tracks.map(({ name }, t) => `(Track)\t${t + 1}\t${quoted(name)}`),
    ),
    section('SOURCE_INDEX', sources),
    section(
      'EVENT_LIST',
      events.flatMap(({ strip, track }, i) => entry(strip, track, i + 1, parts)),
    ),
    section(
      'FADER_LIST',
      tracks.flatMap(({ strips }, t) => strips.flatMap((strip) => faderOf(strip, t + 1))),
    ),
  ]
    .reduce((all, one) => [...all, ...one], ['<ADL>'])
    .concat('</ADL>', '')
    .join('\r\n')
}

const section = (name: string, lines: readonly string[]): string[] => [`<${name}>`, ...lines.map((line) => `\t${line}`), `</${name}>`]

/** What lies left or right alone has tracks of its own, and so does what overlaps. */
function tracksOf({ name, plan }: Lane): Track[] {
  const rows: (Track & { side: string })[] = []
  for (const strip of [...plan.strips].sort((a, b) => a.at - b.at)) {
    const { left, right } = strip.pan
    const side = left === right ? '' : left > right ? ' left' : ' right'
    const free = rows.find((row) => row.side === side && endOf(row.strips[row.strips.length - 1]) <= strip.at)
    if (free) free.strips.push(strip)
    else rows.push({ name: '', side, strips: [strip] })
  }
  return rows.map(({ side, strips }, i) => {
    const alike = rows.filter((row) => row.side === side)
    const number = alike.length > 1 ? ` ${alike.indexOf(rows[i]) + 1}` : ''
    return { name: `${name}${side}${number}`, strips }
  })
}

const endOf = ({ at, length }: Strip): Frames => at + length

function entry({ sound, channel, from, at, length, ramps }: Strip, track: number, number: number, parts: readonly MediaPart[]): string[] {
  const part = partWith(parts, sound, { from, to: from + length })!
  const places = [from - part.from, at, at + length].map(timeCode).join('\t')
  const source = `${four(parts.indexOf(part) + 1)}\t${part.channels.indexOf(channel) + 1}`
  return [
    `(Entry)\t${four(number)}\t(Cut)\tI\t${source}\t${track}\t${places}\tR`,
    ...ramps.map((ramp) => `\t(${ramp.rise ? 'Infade' : 'Outfade'})\t${timeCode(ramp.length)}\t${curveOf(ramp)}`),
  ]
}

/** Its level at a quarter, a half and three quarters of its time, in dB. */
function curveOf({ rise: rises, shape }: Ramp): string {
  const quarters = [0.25, 0.5, 0.75].map((t) => inDecibels(rise(shape, rises ? t : 1 - t)))
  return `CURVE\t${quarters.join('\t')}`
}

/** The level of a strip where it begins, where its lines turn, and where it ends. */
function faderOf(strip: Strip, track: number): string[] {
  const { at, from, length, gain, lines = [] } = strip
  const inPlan = ({ clock }: { clock: 'sound' | 'plan' }, place: Frames) => (clock === 'sound' ? place - from + at : place)
  const turns = lines.flatMap((line) => line.points.map((point) => inPlan(line, point.at)))
  const places = [...new Set([at, ...turns.filter((place) => place > at && place < at + length - 1), at + length - 1])].sort(
    (a, b) => a - b,
  )
  const levelAt = (place: Frames) =>
    lines.reduce((sum, { clock, points }) => sum + lineAt(points, clock === 'sound' ? place - at + from : place), decibels(gain))
  const levels = places.map((place) => Math.max(SILENT_DB, levelAt(place)))
  // one that stays as it is needs its beginning alone
  const even = levels.every((level) => Math.abs(level - levels[0]) < 0.005)
  return places.slice(0, even ? 1 : undefined).map((place, i) => `(FP)\t${track}\t${timeCode(place)}\t${levels[i].toFixed(2)}`)
}

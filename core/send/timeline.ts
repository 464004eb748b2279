import { clipLength, type Actuality } from '../edits/actuality'
import { isRoom, listLength, slice, spanLength, type EditList } from '../edits/editList'
import { soundOfTape } from '../page/hangerSound'
import type { OutputLayout, PlacedHanger } from '../page/lay'
import { byOrder } from '../page/order'
import { RATE, type Frames } from '../time'

/**
 * A piece or a page as an OpenTimelineIO timeline (its JSON form, schema names and versions as in its specification), so that another
 * workshop can go on: which frames of which tape follow each other, with crossfades. What OpenTimelineIO has no place for (gains,
 * dips, room tone) is told in metadata under `plain-cut`. Rates are 48,000 frames a second.
 */

/** A tape as another program would look for it. */
export interface Media {
  name: string
  /** Relative, as it lies beside the timeline. */
  url: string
  /** The frame of the tape with which the file begins, and how long it is. */
  start: Frames
  frames: Frames
}

type Json = string | number | boolean | null | Json[] | { [key: string]: Json }
type Schema = { [key: string]: Json }

const time = (value: Frames): Schema => ({ OTIO_SCHEMA: 'RationalTime.1', rate: RATE, value })
const range = (from: Frames, length: Frames): Schema => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(from),
  duration: time(length),
})
const own = (told: Schema): Schema => (Object.keys(told).length ? { 'plain-cut': told } : {})

const gap = (length: Frames, told: Schema = {}): Schema => ({
  OTIO_SCHEMA: 'Gap.1',
  name: '',
  source_range: range(0, length),
  effects: [],
  markers: [],
  metadata: own(told),
})

function clip(name: string, media: Media, from: Frames, length: Frames, told: Schema = {}): Schema {
  return {
    OTIO_SCHEMA: 'Clip.1',
    name,
    source_range: range(from - media.start, length),
    media_reference: {
      OTIO_SCHEMA: 'ExternalReference.1',
      name: media.name,
      target_url: media.url,
      available_range: range(0, media.frames),
      metadata: {},
    },
    effects: [],
    markers: [],
    metadata: own(told),
  }
}

const crossfade = (fade: Frames, shape: string): Schema => ({
  OTIO_SCHEMA: 'Transition.1',
  name: '',
  transition_type: 'SMPTE_Dissolve',
  in_offset: time(Math.floor(fade / 2)),
  out_offset: time(Math.ceil(fade / 2)),
  metadata: own({ shape }),
})

/** Where a stretch of a tape lies. */
export type MediaOf = (tape: string, from: Frames, to: Frames) => Media
type PieceOf = (id: string) => Actuality | undefined

/** What follows each other on a track, from a place on. */
interface Run {
  from: Frames
  to: Frames
  items: Schema[]
}

/** Spans, each a clip, with the crossfades between them; room tone is a gap that says so. `gain` in dB, over all. */
function itemsOf(spans: EditList, name: string, gain: number, mediaOf: MediaOf): Schema[] {
  return spans.flatMap((span, i) => {
    const length = spanLength(span)
    const all = Math.round(100 * (gain + (span.gain ?? 0))) / 100
    const told: Schema = { ...(all ? { gain_dB: all } : {}), ...(span.lowCut ? { low_cut_hertz: span.lowCut } : {}) }
    const item = isRoom(span)
      ? gap(length, { ...told, room: mediaOf(span.tape, span.from, span.to).name })
      : clip(name, mediaOf(span.tape, span.from, span.to), span.from, length, told)
    const { join } = span
    const fades = join && join.fade > 0 && i > 0 && !isRoom(span) && !isRoom(spans[i - 1])
    return fades ? [crossfade(join.fade, join.shape), item] : [item]
  })
}

const track = (name: string, runs: readonly Run[]): Schema => {
  const children: Json[] = []
  let at = 0
  for (const { from, to, items } of runs) {
    if (from > at) children.push(gap(from - at))
    children.push(...items)
    at = to
  }
  return { OTIO_SCHEMA: 'Track.1', kind: 'Audio', name, source_range: null, children, effects: [], markers: [], metadata: {} }
}

/** Runs that overlap lie on tracks beside each other, as few as can be. */
function tracks(name: string, runs: readonly Run[]): Schema[] {
  const rows: Run[][] = []
  for (const run of [...runs].sort((a, b) => a.from - b.from)) {
    const free = rows.find((row) => row[row.length - 1].to <= run.from)
    if (free) free.push(run)
    else rows.push([run])
  }
  return rows.map((row, i) => track(rows.length > 1 ? `${name} ${i + 1}` : name, row))
}

function timeline(name: string, children: Schema[]): Schema {
  return {
    OTIO_SCHEMA: 'Timeline.1',
    name,
    global_start_time: time(0),
    tracks: { OTIO_SCHEMA: 'Stack.1', name: 'tracks', source_range: null, children, effects: [], markers: [], metadata: {} },
    metadata: {},
  }
}

export function timelineOfPiece(piece: Actuality, mediaOf: MediaOf): Schema {
  const { spans, slug, speaker, gain = 0 } = piece
  return timeline(slug, tracks(speaker || 'Voice', [{ from: 0, to: clipLength(piece), items: itemsOf(spans, slug, gain, mediaOf) }]))
}

/** A page as its file: voices, and each lane that is not muted. */
export function timelineOfPage(name: string, { file }: OutputLayout, pieceOf: PieceOf, mediaOf: MediaOf): Schema {
  const voices = file.placed.flatMap(({ block, from, to, sound }): Run[] => {
    const piece = sound === 'piece' && block.piece ? pieceOf(block.piece) : undefined
    return piece ? [{ from, to, items: itemsOf(piece.spans, piece.slug, (piece.gain ?? 0) + (block.gain ?? 0), mediaOf) }] : []
  })
  const heard = file.hangers.filter(({ lane, from, to }) => !lane.muted && to > from)
  const lanes = [...new Map(heard.map(({ lane }) => [lane.id, lane])).values()].sort(byOrder)
  const under = lanes.flatMap((lane) =>
    tracks(
      lane.name,
      heard.filter((one) => one.lane.id === lane.id).map((placed) => runOf(placed, pieceOf, mediaOf)),
    ),
  )
  return timeline(name, [...tracks('Voices', voices), ...under])
}

/** What lies in a lane, as much of its sound as is heard there; how it goes under voices is told with its first clip. */
function runOf({ hanger, lane, from, to, skip, dips }: PlacedHanger, pieceOf: PieceOf, mediaOf: MediaOf): Run {
  const { plays } = hanger
  const piece = 'piece' in plays ? pieceOf(plays.piece) : undefined
  const whole: EditList = 'piece' in plays ? (piece?.spans ?? []) : soundOfTape(hanger, plays, skip + to - from)
  const spans = slice(whole, skip, Math.min(listLength(whole), skip + to - from))
  const [first, ...rest] = itemsOf(spans, lane.name, hanger.gain + lane.gain + (piece?.gain ?? 0), mediaOf)
  if (!first) return { from, to: from, items: [] }
  const metadata = first.metadata as { 'plain-cut'?: Schema }
  const under: Schema = dips.length ? { goes_under: dips.map(({ at, dB }): Json => ({ at, dB })) } : {}
  return { from, to: from + listLength(spans), items: [{ ...first, metadata: own({ ...metadata['plain-cut'], ...under }) }, ...rest] }
}

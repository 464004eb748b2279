import type { Frames } from '../time'

/**
 * What the chunks of a WAV file say: RIFF, RF64 (EBU Tech 3306) and BW64 (ITU-R BS.2088), with the
 * broadcast extension (`bext`, EBU Tech 3285) and iXML. Headers lie: recorders that lost power never
 * filled in lengths, others stopped in the middle, so lengths are held against the file itself.
 */
export interface WaveFile {
  channels: number
  /** In Hz. */
  rate: number
  bits: number
  float: boolean
  /** Samples as they are, neither packed nor coded, each in so many bytes. */
  plain: boolean
  sampleBytes: number
  /** Where the samples are, in bytes. */
  dataFrom: number
  dataTo: number
  /** The length was never filled in, or is not true: the samples go on to the end of the file. */
  unfinished: boolean
  /** The header promises more than there is: so many frames of its own rate, else 0. */
  promised: Frames
  /** Length of the samples by the header alone, in bytes; Infinity where it was never filled in. */
  says: number
  origin: Origin
}

/** What a recorder noted about a recording. Empty where it did not. */
export interface Origin {
  description: string
  originator: string
  /** As `2026-11-24`, and the time of day as `14:32:05`. */
  date: string
  time: string
  notes: string
  /** By channel. */
  tracks: string[]
}

export const NO_ORIGIN: Origin = { description: '', originator: '', date: '', time: '', notes: '', tracks: [] }

const UNKNOWN = 0xffffffff
const PLAIN_PCM = 1
const FLOAT = 3
const EXTENSIBLE = 0xfffe
const MOST_CHUNKS = 200
const LONGEST_NOTE = 1 << 18

/** `read` gives bytes `[from, to)` as far as the file goes. Null where it is no such file. */
export function readWaveFile(read: (from: number, to: number) => Uint8Array, size: number): WaveFile | null {
  const head = view(read(0, 12))
  if (head.byteLength < 12 || !['RIFF', 'RF64', 'BW64'].includes(tag(head, 0)) || tag(head, 8) !== 'WAVE') return null
  let format: Pick<WaveFile, 'channels' | 'rate' | 'bits' | 'float' | 'plain' | 'sampleBytes'> | null = null
  let data: Pick<WaveFile, 'dataFrom' | 'dataTo' | 'unfinished' | 'promised' | 'says'> | null = null
  let longData = 0
  let origin = { ...NO_ORIGIN, tracks: [] as string[] }

  for (let at = 12, count = 0; at + 8 <= size && count < MOST_CHUNKS; count++) {
    const chunk = view(read(at, at + 8))
    if (chunk.byteLength < 8) break
    const name = tag(chunk, 0)
    const length = chunk.getUint32(4, true)
    const body = (most: number) => view(read(at + 8, at + 8 + Math.min(length, most)))
    if (name === 'ds64') {
      const sizes = body(28)
      if (sizes.byteLength >= 16) longData = Number(sizes.getBigUint64(8, true))
    } else if (name === 'fmt ') format ??= readFormat(body(40))
    else if (name === 'bext') origin = { ...origin, ...readBext(body(602)) }
    else if (name === 'iXML') origin = { ...origin, ...readIxml(text(body(LONGEST_NOTE))) }
    if (name === 'data') {
      if (!format || data) break
      data = placeOf(
        read,
        at + 8,
        length === UNKNOWN && longData ? longData : length,
        size,
        format.plain ? format.channels * format.sampleBytes : 0,
      )
      if (data.unfinished || data.promised) break
      at = data.dataTo + (data.dataTo % 2)
    } else at += 8 + length + (length % 2)
  }
  if (!format || !data) return null
  return { ...format, ...data, origin }
}

function readFormat(body: DataView) {
  if (body.byteLength < 16) return null
  const channels = body.getUint16(2, true)
  const rate = body.getUint32(4, true)
  const frameBytes = body.getUint16(12, true)
  const bits = body.getUint16(14, true)
  const kind = body.getUint16(0, true)
  const coding = kind === EXTENSIBLE && body.byteLength >= 26 ? body.getUint16(24, true) : kind
  if (!channels || !rate) return null
  const sampleBytes = frameBytes / channels
  return {
    channels,
    rate,
    bits,
    float: coding === FLOAT,
    plain: (coding === PLAIN_PCM || coding === FLOAT) && Number.isInteger(sampleBytes) && sampleBytes > 0,
    sampleBytes,
  }
}

/** Where the samples really are, whatever the header says of their length. */
function placeOf(read: (from: number, to: number) => Uint8Array, from: number, length: number, size: number, frameBytes: number) {
  const there = size - from
  const end = { dataFrom: from, dataTo: size, unfinished: false, promised: 0, says: length === UNKNOWN || length === 0 ? Infinity : length }
  if (length === UNKNOWN || length === 0) return { ...end, unfinished: there > 0 }
  if (length > there) return { ...end, promised: frameBytes ? Math.floor(length / frameBytes) : 1 }
  // a length that was true once, while the recorder went on: what follows it is no chunk
  const after = from + length + (length % 2)
  const next = view(read(after, after + 8))
  if (size - after >= 8 && !(/^[\x20-\x7e]{4}$/.test(tag(next, 0)) && after + 8 + next.getUint32(4, true) <= size + 1))
    return { ...end, unfinished: true }
  return { ...end, dataTo: from + length }
}

function readBext(body: DataView): Partial<Origin> {
  const field = (from: number, length: number) =>
    plain(text(new DataView(body.buffer, body.byteOffset + from, Math.max(0, Math.min(length, body.byteLength - from)))))
  if (body.byteLength < 338) return {}
  const date = /^(\d{4})\D(\d\d)\D(\d\d)$/.exec(field(320, 10))
  const time = /^(\d\d)\D(\d\d)\D(\d\d)$/.exec(field(330, 8))
  return {
    description: field(0, 256),
    originator: field(256, 32),
    date: date && Number(date[1]) > 1900 ? realDay(`${date[1]}-${date[2]}-${date[3]}`) : '',
    time: time && Number(time[1]) < 24 && Number(time[2]) < 60 && Number(time[3]) < 60 ? `${time[1]}:${time[2]}:${time[3]}` : '',
  }
}

/** A day of the calendar as it is, anything else as none: recorders whose clock was never set write 2020-00-00. */
export function realDay(day: string): string {
  if (!/^\d{4}-\d\d-\d\d$/.test(day)) return ''
  const made = new Date(`${day}T12:00:00Z`)
  return !Number.isNaN(made.getTime()) && made.toISOString().startsWith(day) ? day : ''
}

function readIxml(xml: string): Partial<Origin> {
  const inner = (from: string, name: string) => plain(unescaped(new RegExp(`<${name}>([^<]*)</${name}>`).exec(from)?.[1] ?? ''))
  const tracks = [...xml.matchAll(/<TRACK>([\s\S]*?)<\/TRACK>/g)]
    .slice(0, 64)
    .map(([, track]) => ({ at: Number(inner(track, 'INTERLEAVE_INDEX') || inner(track, 'CHANNEL_INDEX')), name: inner(track, 'NAME') }))
  const notes = [
    inner(xml, 'NOTE'),
    ...['SCENE', 'TAKE', 'TAPE'].map((name) => (inner(xml, name) ? `${name.toLowerCase()} ${inner(xml, name)}` : '')),
  ]
    .filter(Boolean)
    .join(', ')
  return { notes, tracks: tracks.sort((a, b) => a.at - b.at).map(({ name }) => name) }
}

const unescaped = (value: string): string =>
  value.replace(/&(lt|gt|quot|apos|amp);/g, (_, name: string) => ({ lt: '<', gt: '>', quot: '"', apos: "'", amp: '&' })[name]!)
const view = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
const tag = (from: DataView, at: number): string =>
  from.byteLength >= at + 4
    ? String.fromCharCode(from.getUint8(at), from.getUint8(at + 1), from.getUint8(at + 2), from.getUint8(at + 3))
    : ''

/** Up to the first zero byte; what is no UTF-8 shows as such. */
function text(bytes: DataView): string {
  const all = new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const end = all.indexOf(0)
  return utf8(end < 0 ? all : all.subarray(0, end))
}

/** By hand, since core knows neither browser nor server; other encodings come out as Latin letters. */
function utf8(bytes: Uint8Array): string {
  let out = ''
  for (let i = 0; i < bytes.length; i++) {
    const lead = bytes[i]
    const more = lead >= 0xf0 ? 3 : lead >= 0xe0 ? 2 : lead >= 0xc2 ? 1 : 0
    const tail = bytes.subarray(i + 1, i + 1 + more)
    if (more && lead < 0xf5 && tail.length === more && tail.every((byte) => (byte & 0xc0) === 0x80)) {
      const point = tail.reduce((sum, byte) => sum * 64 + (byte & 0x3f), lead & (0x3f >> more))
      out += point <= 0x10ffff ? String.fromCodePoint(point) : '�'
      i += more
    } else out += String.fromCharCode(lead)
  }
  return out
}

/** Control characters, and signs that turn or break a line. */
// eslint-disable-next-line no-control-regex
const HIDDEN = /[\u0000-\u001f\u007f-\u009f\u200b\u200e\u200f\u2028-\u202e\u2066-\u2069\ufeff]+/g

/** One line of plain text, without what would turn or hide it. Joiners stay: emoji and Persian are written with them. */
export const plain = (value: string): string => value.replace(HIDDEN, ' ').trim().slice(0, 500)

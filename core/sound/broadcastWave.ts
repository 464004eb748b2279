import { asciiOf } from './ascii'
import type { Bits } from './wav'

/**
 * A WAV file that says what it is: the `bext` chunk of Broadcast Wave (EBU Tech 3285, version 2 with loudness) and the `cart` chunk of
 * AES46-2002, both before the sound. Text is ASCII, as both ask for. What is too long for the 32 bits of RIFF is RF64
 * (EBU Tech 3306), which has its lengths in a `ds64` chunk of its own.
 */
export interface Label {
  title: string
  /** Who is heard. */
  artist: string
  /** By which a playout system knows it. */
  cut: string
  /** The programme. */
  client: string
  category: string
  outCue: string
  /** A reference of its own, of up to 32 letters. */
  reference: string
  /** When it was made, as `2026-11-25` and `17:52:00`. */
  date: string
  time: string
  /** When it airs first, in the same form; empty where that is not known. */
  airsDate: string
  airsTime: string
  /** Frames of the file's rate: where its words end and only room is left, and where it begins on its tape. */
  segue: number
  timeReference: number
}

/** In LUFS, LU and dBTP. */
export interface LabelLoudness {
  integrated: number
  range: number
  truePeak: number
  momentary: number
  shortTerm: number
}

export interface WaveFormat {
  channels: number
  rate: number
  bits: Bits
}

const BEXT = 602
const CART = 2048
const DS64 = 28
/** The longest that 32 bits can say, and what stands there where it is longer. */
const MOST = 0xffffffff
/** "Not measured", in hundredths. */
const UNKNOWN = 0x7fff
/** A cart chunk without an end date has this one. */
const [NEVER, NEVER_TIME] = ['9999/12/31', '23:59:59']

/** Writes one after the other into a chunk, at the places that its standard gives. */
class Fields {
  private readonly view: DataView
  private at = 0
  constructor(readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  }
  /** Text that is cut off at `width`, and filled up with zeros. */
  text(value: string, width: number): this {
    return this.letters(asciiOf(value), width)
  }
  /** Text that is ASCII already, ends of lines too. */
  letters(plain: string, width: number): this {
    for (let i = 0; i < Math.min(width, plain.length); i++) this.bytes[this.at + i] = plain.charCodeAt(i)
    this.at += width
    return this
  }
  u16(value: number): this {
    this.view.setUint16(this.at, value & 0xffff, true)
    this.at += 2
    return this
  }
  u32(value: number): this {
    this.view.setUint32(this.at, value, true)
    this.at += 4
    return this
  }
  u64(value: number): this {
    return this.u32(value % 2 ** 32).u32(Math.floor(value / 2 ** 32))
  }
  skip(width: number): this {
    this.at += width
    return this
  }
}

/** `A=PCM,F=48000,W=24,M=mono,T=Plain Cut`, as EBU R 98 writes a coding history. */
const historyOf = ({ channels, rate, bits }: WaveFormat): string =>
  `A=PCM,F=${rate},W=${bits},M=${channels === 1 ? 'mono' : 'stereo'},T=Plain Cut\r\n`

const even = (bytes: number): number => bytes + (bytes % 2)

/** Bytes before the sound; the same for so many frames of the same format, whatever the label says. */
export function headerLength(frames: number, format: WaveFormat): number {
  const length = 12 + 8 + even(BEXT + historyOf(format).length) + 8 + 16 + 8 + CART + 8
  return length - 8 + even(bytesOf(frames, format)) > MOST ? length + 8 + DS64 : length
}

const bytesOf = (frames: number, { channels, bits }: WaveFormat): number => (frames * channels * bits) / 8

/** All that stands before `frames` frames of PCM. Loudness that was not measured is told so. */
export function broadcastHeader(frames: number, format: WaveFormat, label: Label, loudness: LabelLoudness | null): Uint8Array {
  const { channels, rate, bits } = format
  const block = (channels * bits) / 8
  const sound = bytesOf(frames, format)
  const bytes = new Uint8Array(headerLength(frames, format))
  const riff = bytes.length - 8 + even(sound)
  const isLong = riff > MOST
  const history = historyOf(format)
  const fields = new Fields(bytes)
  fields
    .text(isLong ? 'RF64' : 'RIFF', 4)
    .u32(isLong ? MOST : riff)
    .text('WAVE', 4)
  if (isLong) fields.text('ds64', 4).u32(DS64).u64(riff).u64(sound).u64(frames).u32(0)
  fields.text('bext', 4).u32(BEXT + history.length)
  writeBext(fields, label, loudness)
  fields.letters(history, even(history.length))
  fields
    .text('fmt ', 4)
    .u32(16)
    .u16(1)
    .u16(channels)
    .u32(rate)
    .u32(rate * block)
    .u16(block)
    .u16(bits)
  fields.text('cart', 4).u32(CART)
  writeCart(fields, label, frames)
  fields.text('data', 4).u32(isLong ? MOST : sound)
  return bytes
}

function writeBext(fields: Fields, label: Label, loudness: LabelLoudness | null): void {
  const hundredths = (value: number | undefined) =>
    value === undefined || !Number.isFinite(value) || value <= -120 ? UNKNOWN : Math.round(100 * value)
  fields.text(label.title, 256).text('Plain Cut', 32).text(label.reference, 32).text(label.date, 10).text(label.time, 8)
  fields.u64(label.timeReference)
  // version 2, without a UMID
  fields.u16(2).skip(64)
  for (const value of [loudness?.integrated, loudness?.range, loudness?.truePeak, loudness?.momentary, loudness?.shortTerm])
    fields.u16(hundredths(value))
  fields.skip(180)
}

function writeCart(fields: Fields, label: Label, frames: number): void {
  const slashed = (date: string) => date.replaceAll('-', '/')
  fields.text('0101', 4).text(label.title, 64).text(label.artist, 64).text(label.cut, 64).text(label.client, 64)
  fields.text(label.category, 64).text('', 64).text(label.outCue, 64)
  fields
    .text(slashed(label.airsDate || label.date), 10)
    .text(label.airsTime || '00:00:00', 8)
    .text(NEVER, 10)
    .text(NEVER_TIME, 8)
  fields.text('Plain Cut', 64).text('1', 64).text('', 64)
  // the sample value of full scale, as of 16 bits
  fields.u32(32_768)
  const timers: [string, number][] = [
    ['AUDs', 0],
    ['AUDe', frames],
    ['SEGs', label.segue],
    ['SEGe', frames],
  ]
  for (const [usage, at] of timers) fields.text(usage, 4).u32(at)
  fields.skip((8 - timers.length) * 8 + 276 + 1024)
}

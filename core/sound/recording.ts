/**
 * The beginning of a WAV file that is written while it is recorded: 32-bit float, its length not
 * filled in, since nobody knows it yet (it goes on to the end of the file), with what a recorder
 * notes about it (`bext`, EBU Tech 3285).
 */
export const RECORDED_HERE = 'Plain Cut'

const UNKNOWN = 0xffffffff
const BEXT = 602

export function recordingHeader(channels: number, rate: number, description: string, at: Date): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(12 + 8 + BEXT + 8 + 16 + 8)
  const view = new DataView(bytes.buffer)
  let to = 0
  const text = (value: string, length = value.length) => {
    for (let i = 0; i < Math.min(value.length, length); i++) bytes[to + i] = value.charCodeAt(i) & 0x7f
    to += length
  }
  const number = (value: number, size: 2 | 4) => {
    if (size === 2) view.setUint16(to, value, true)
    else view.setUint32(to, value, true)
    to += size
  }
  const two = (value: number) => String(value).padStart(2, '0')
  text('RIFF')
  number(UNKNOWN, 4)
  text('WAVEbext')
  number(BEXT, 4)
  const bext = to
  text(description, 256)
  text(RECORDED_HERE, 32)
  text('', 32)
  text(`${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`)
  text(`${two(at.getHours())}:${two(at.getMinutes())}:${two(at.getSeconds())}`)
  to = bext + BEXT
  text('fmt ')
  number(16, 4)
  number(3, 2)
  number(channels, 2)
  number(rate, 4)
  number(rate * channels * 4, 4)
  number(channels * 4, 2)
  number(32, 2)
  text('data')
  number(UNKNOWN, 4)
  return bytes
}

/** Samples of each channel as the bytes that follow the header. */
export function recordingBytes(channels: readonly Float32Array[]): Uint8Array<ArrayBuffer> {
  const frames = channels[0].length
  const all = new Float32Array(frames * channels.length)
  channels.forEach((channel, c) => {
    for (let i = 0, at = c; i < frames; i++, at += channels.length) all[at] = channel[i]
  })
  return new Uint8Array(all.buffer)
}

/** What a level means to whoever holds the microphone, by its highest of the last moment, in dBFS. */
export function zone(peak: number): 'silent' | 'low' | 'good' | 'hot' | 'over' {
  if (peak >= -0.2) return 'over'
  if (peak > -6) return 'hot'
  if (peak > -30) return 'good'
  return peak > -60 ? 'low' : 'silent'
}

import { random } from './random'

/** Sample formats of a WAV file that we write. */
export type Bits = 16 | 24

/** RIFF/WAVE header (Microsoft and IBM, 1991) for PCM: 44 bytes, to stand before `frames` frames. */
export function wavHeader(frames: number, channels: number, rate: number, bits: Bits): Uint8Array {
  const block = (channels * bits) / 8
  const view = new DataView(new ArrayBuffer(44))
  const text = (at: number, chars: string) => [...chars].forEach((char, i) => view.setUint8(at + i, char.charCodeAt(0)))
  const bytes = frames * block
  text(0, 'RIFF')
  view.setUint32(4, 36 + bytes + (bytes % 2), true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, channels, true)
  view.setUint32(24, rate, true)
  view.setUint32(28, rate * block, true)
  view.setUint16(32, block, true)
  view.setUint16(34, bits, true)
  text(36, 'data')
  view.setUint32(40, bytes, true)
  return new Uint8Array(view.buffer)
}

/** Turns channels of floats into interleaved PCM, piece after piece. */
export type Packer = (channels: readonly Float32Array[]) => Uint8Array

/** A packer; 16 bit is dithered with triangular noise of two steps' width, from a fixed seed. */
export const packer = (bits: Bits): Packer => (bits === 24 ? pack24 : dithered16())

function pack24(channels: readonly Float32Array[]): Uint8Array {
  const count = channels[0].length
  const stride = channels.length * 3
  const out = new Uint8Array(count * stride)
  for (let c = 0; c < channels.length; c++) {
    const samples = channels[c]
    for (let i = 0, at = c * 3; i < count; i++, at += stride) {
      // this is where rendering spends most of its time: a whole number early halves it
      const scaled = samples[i] * 8388608
      const value = scaled >= 8388607 ? 8388607 : scaled <= -8388608 ? -8388608 : Math.floor(scaled + 0.5) | 0
      out[at] = value
      out[at + 1] = value >> 8
      out[at + 2] = value >> 16
    }
  }
  return out
}

function dithered16(): Packer {
  const next = random(0x5eed)
  return (channels) => {
    const count = channels[0].length
    const out = new Int16Array(count * channels.length)
    for (let i = 0; i < count; i++)
      for (let c = 0; c < channels.length; c++) {
        const value = Math.round(channels[c][i] * 32768 + next() - next())
        out[i * channels.length + c] = value > 32767 ? 32767 : value < -32768 ? -32768 : value
      }
    return new Uint8Array(out.buffer)
  }
}

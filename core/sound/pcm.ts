import type { WaveFile } from './waveFile'

export type Shape = Pick<WaveFile, 'channels' | 'float' | 'plain' | 'sampleBytes'>

/** Plain samples of a WAV file that need no program to be read: 8 to 32 bit whole, 32 and 64 bit float. */
export const readable = ({ plain, float, sampleBytes }: Shape): boolean =>
  plain && (float ? sampleBytes === 4 || sampleBytes === 8 : sampleBytes >= 1 && sampleBytes <= 4)

/**
 * Reads bytes of whole frames as samples into `out`, a channel each. Whole numbers are shares of
 * their full scale, float is taken as it is; what is no number is silence.
 */
export function readSamples(bytes: Uint8Array, { channels, float, sampleBytes }: Shape, out: readonly Float32Array[]): void {
  const frames = bytes.length / (channels * sampleBytes)
  // the two kinds that most tape comes in are read without a call a sample, where they lie straight
  const straight = LITTLE && bytes.byteOffset % sampleBytes === 0
  if (straight && !float && sampleBytes === 2) {
    const all = new Int16Array(bytes.buffer, bytes.byteOffset, frames * channels)
    out.forEach((channel, c) => shorts(all, channel, frames, c, channels))
  } else if (straight && float && sampleBytes === 4) {
    const all = new Float32Array(bytes.buffer, bytes.byteOffset, frames * channels)
    out.forEach((channel, c) => floats(all, channel, frames, c, channels))
  } else {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
    const read = float ? READ_FLOAT[sampleBytes] : READ_WHOLE[sampleBytes]
    out.forEach((channel, c) => read(view, channel, frames, c * sampleBytes, channels * sampleBytes))
  }
}

const LITTLE = new Uint8Array(Uint16Array.of(1).buffer)[0] === 1

function shorts(all: Int16Array, out: Float32Array, frames: number, at: number, step: number): void {
  if (step === 1) for (let i = 0; i < frames; i++) out[i] = all[i] * (1 / 32_768)
  else for (let i = 0; i < frames; i++, at += step) out[i] = all[at] * (1 / 32_768)
}

function floats(all: Float32Array, out: Float32Array, frames: number, at: number, step: number): void {
  if (step === 1 && allFinite(all)) return out.set(all)
  for (let i = 0; i < frames; i++, at += step) out[i] = finite(all[at])
}

function allFinite(all: Float32Array): boolean {
  let [a, b, c, d] = [0, 0, 0, 0]
  const fours = all.length & ~3
  for (let i = 0; i < fours; i += 4) {
    a += all[i]
    b += all[i + 1]
    c += all[i + 2]
    d += all[i + 3]
  }
  for (let i = fours; i < all.length; i++) a += all[i]
  const sum = a + b + c + d
  return sum - sum === 0
}

type Read = (view: DataView, out: Float32Array, frames: number, at: number, step: number) => void

const READ_WHOLE: Record<number, Read> = {
  1: (view, out, frames, at, step) => {
    for (let i = 0; i < frames; i++, at += step) out[i] = (view.getUint8(at) - 128) / 128
  },
  2: (view, out, frames, at, step) => {
    for (let i = 0; i < frames; i++, at += step) out[i] = view.getInt16(at, true) / 32_768
  },
  3: (view, out, frames, at, step) => {
    for (let i = 0; i < frames; i++, at += step) out[i] = (view.getUint16(at, true) + view.getInt8(at + 2) * 65_536) / 8_388_608
  },
  4: (view, out, frames, at, step) => {
    for (let i = 0; i < frames; i++, at += step) out[i] = view.getInt32(at, true) / 2_147_483_648
  },
}

const READ_FLOAT: Record<number, Read> = {
  4: (view, out, frames, at, step) => {
    for (let i = 0; i < frames; i++, at += step) out[i] = finite(view.getFloat32(at, true))
  },
  8: (view, out, frames, at, step) => {
    for (let i = 0; i < frames; i++, at += step) out[i] = finite(view.getFloat64(at, true))
  },
}

const finite = (value: number): number => (value - value === 0 ? value : 0)

/** Beyond this no sample was ever meant, as a factor of full scale: 60 dB over it. */
const ABSURD = 1000

/**
 * Silences samples of float files that are far beyond full scale. Gives the first frame where one is, or was no number;
 * null where all make sense.
 */
export function firstUnreal(samples: readonly Float32Array[], source: Uint8Array, { channels, float, sampleBytes }: Shape): number | null {
  if (!float) return null
  let first = Infinity
  for (const channel of samples)
    for (let i = 0; i < channel.length; i++)
      if (channel[i] > ABSURD || channel[i] < -ABSURD) {
        channel[i] = 0
        first = Math.min(first, i)
      }
  const view = new DataView(source.buffer, source.byteOffset, source.byteLength)
  const read = sampleBytes === 8 ? (at: number) => view.getFloat64(at, true) : (at: number) => view.getFloat32(at, true)
  for (let at = 0; at + sampleBytes <= source.length; at += sampleBytes)
    if (!Number.isFinite(read(at))) {
      first = Math.min(first, Math.floor(at / sampleBytes / channels))
      break
    }
  return first === Infinity ? null : first
}

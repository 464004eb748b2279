/** Just enough of WAV to check what was sent. */
export interface Wav {
  channels: number
  rate: number
  bits: number
  frames: number
  /** All samples as they lie in the file. */
  sound: Buffer
  /** Samples of one channel as whole numbers. */
  channel(index: number): Int32Array
}

export function readWav(file: Buffer): Wav {
  if (file.toString('latin1', 0, 4) !== 'RIFF' || file.toString('latin1', 8, 12) !== 'WAVE') throw new Error('no WAV')
  if (file.readUInt32LE(4) + 8 !== file.length)
    throw new Error(`the header says ${file.readUInt32LE(4) + 8} bytes, there are ${file.length}`)
  const chunks = new Map<string, Buffer>()
  for (let at = 12; at + 8 <= file.length;) {
    const bytes = file.readUInt32LE(at + 4)
    chunks.set(file.toString('latin1', at, at + 4), file.subarray(at + 8, at + 8 + bytes))
    at += 8 + bytes + (bytes % 2)
  }
  const [format, sound] = [chunks.get('fmt ')!, chunks.get('data')!]
  const [channels, rate, bits] = [format.readUInt16LE(2), format.readUInt32LE(4), format.readUInt16LE(14)]
  const block = (channels * bits) / 8
  const frames = sound.length / block
  return {
    channels,
    rate,
    bits,
    frames,
    sound,
    channel: (index) => Int32Array.from({ length: frames }, (_, i) => sound.readIntLE(i * block + (index * bits) / 8, bits / 8)),
  }
}

/** A WAV file of 16 bits, a channel by each function of time in seconds; samples run from -32768 to 32767. */
export function wavOf(seconds: number, rate: number, ...channels: ((t: number) => number)[]): Buffer {
  const frames = Math.round(seconds * rate)
  const block = 2 * channels.length
  const file = Buffer.alloc(44 + frames * block)
  file.write('RIFF', 0)
  file.writeUInt32LE(36 + frames * block, 4)
  file.write('WAVEfmt ', 8)
  file.writeUInt32LE(16, 16)
  file.writeUInt16LE(1, 20)
  file.writeUInt16LE(channels.length, 22)
  file.writeUInt32LE(rate, 24)
  file.writeUInt32LE(rate * block, 28)
  file.writeUInt16LE(block, 32)
  file.writeUInt16LE(16, 34)
  file.write('data', 36)
  file.writeUInt32LE(frames * block, 40)
  for (let i = 0; i < frames; i++)
    channels.forEach((channel, c) => file.writeInt16LE(Math.round(channel(i / rate)), 44 + i * block + c * 2))
  return file
}

let count = 0
/** A number that was not given yet, to make a recording another one: the same one is taken in only once. */
export const another = (): number => ++count

/** In mono: tone bursts with quiet noise between them, like words with a room; each time another. */
export function makeWav(seconds: number, rate = 44_100): Buffer {
  let noise = another()
  return wavOf(seconds, rate, (t) => {
    noise = (Math.imul(noise, 1_103_515_245) + 12_345) | 0
    const on = t % 1 < 0.6 ? Math.sin(Math.PI * ((t % 1) / 0.6)) : 0
    return 9000 * on * Math.sin(2 * Math.PI * (200 + 30 * Math.floor(t)) * t) + (noise >> 26)
  })
}

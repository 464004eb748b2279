/** The formats that are sent, in the order in which they are offered, and what each can be. */
export const FILE_FORMATS = ['wav', 'flac', 'mp3', 'mp2', 'm4a', 'opus'] as const
export type AudioFormat = (typeof FILE_FORMATS)[number]
/** A picture for online with the sound. */
export const PICTURE = 'mp4' as const
export type FileFormat = AudioFormat | typeof PICTURE

export const KBPS = [64, 96, 128, 160, 192, 224, 256, 320, 384] as const
export type Kbps = (typeof KBPS)[number]

/** Samples as they are: they have a depth, not a bit rate. */
export const isLossless = (format: FileFormat): boolean => format === 'wav' || format === 'flac'

const LEAST: Record<FileFormat, number> = { wav: 0, flac: 0, mp3: 64, mp2: 64, m4a: 64, opus: 64, mp4: 64 }
/** For one channel, and for two: beyond it there is no such rate in layers II and III (ISO 11172-3), and no use in the others. */
const MOST: Record<FileFormat, readonly [number, number]> = {
  wav: [384, 384],
  flac: [384, 384],
  mp3: [320, 320],
  mp2: [192, 384],
  m4a: [192, 320],
  opus: [256, 384],
  mp4: [192, 320],
}

/** Bit rates of a coded format, in kilobits a second. */
export const ratesOf = (format: FileFormat, channels: 1 | 2): Kbps[] =>
  KBPS.filter((rate) => rate >= LEAST[format] && rate <= MOST[format][channels - 1])

/** Opus runs at 48 kHz alone. */
export const allowsRate = (format: FileFormat, rate: number): boolean => format !== 'opus' || rate === 48_000

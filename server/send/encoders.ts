import type { SendOrder } from '../../contract/sends'

type Coded = 'mp3' | 'mp2' | 'm4a' | 'opus'

/** Codec and container of a coded file, for ffmpeg; the encoder's delay is declared where there is a way to. */
const CODECS: Record<Coded, readonly string[]> = {
  mp3: ['-c:a', 'libmp3lame', '-f', 'mp3'],
  // there is no place to declare it
  mp2: ['-c:a', 'mp2', '-f', 'mp2'],
  // its edit list declares it, and its length in samples; this encoder keeps its bit rate on average
  m4a: ['-c:a', 'aac', '-f', 'ipod'],
  opus: ['-c:a', 'libopus', '-vbr', 'off', '-f', 'opus'],
}

export const encoder = ({ format, rate, kbps }: Pick<SendOrder, 'format' | 'rate' | 'kbps'>, title: string, path: string): string[] => [
  '-ar',
  String(rate),
  ...CODECS[format as Coded].slice(0, -2),
  '-b:a',
  `${kbps}k`,
  '-metadata',
  `title=${title}`,
  ...(format === 'm4a' ? ['-movie_timescale', String(rate)] : []),
  '-y',
  ...CODECS[format as Coded].slice(-2),
  path,
]

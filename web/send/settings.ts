import type { HouseFormat } from '../../contract/programmes'
import { allowsRate, isLossless, PICTURE, ratesOf, type AudioFormat, type FileFormat } from '../../contract/fileFormats'
import type { PictureOrder } from '../../contract/pictures'
import type { SendOrder } from '../../contract/sends'

/** In which form something is sent, and where to. */
export type Settings = Pick<SendOrder, 'format' | 'rate' | 'bits' | 'channels' | 'kbps' | 'pattern'> & {
  to: string[]
  picture?: PictureOrder
  script?: boolean
}

export const FORMAT_NAMES: Record<FileFormat, string> = {
  wav: 'WAV',
  flac: 'FLAC',
  mp3: 'MP3',
  mp2: 'MP2',
  m4a: 'AAC',
  opus: 'Opus',
  mp4: 'MP4 with a picture',
}

export const DEFAULTS: Settings & { format: AudioFormat } = {
  format: 'wav',
  rate: 48_000,
  bits: 24,
  channels: 1,
  kbps: 192,
  pattern: '{slug}_{date}_{length}',
  to: [],
}

const USUAL_PICTURE: PictureOrder = { shape: 'square', captions: true }

/** What a format cannot be gives way to the nearest that it can. */
export function possible<S extends Settings>(settings: S): S {
  const { format, rate, kbps, channels } = settings
  const rates = ratesOf(format, channels)
  // it keeps its still image while sound alone is chosen
  const picture = settings.picture ?? (format === PICTURE ? USUAL_PICTURE : undefined)
  return {
    ...settings,
    picture,
    rate: allowsRate(format, rate) ? rate : 48_000,
    kbps: rates.includes(kbps) ? kbps : rates[rates.length - 1],
  }
}

/** What is sound alone is never a picture. */
export const asSound = (settings: Settings): Settings =>
  settings.format === PICTURE ? possible({ ...settings, format: DEFAULTS.format }) : settings

/** As it was sent last in this browser, where no programme says otherwise. */
export function storedSettings(): Settings {
  const last = JSON.parse(localStorage.sending ?? '{}') as Partial<Settings>
  const known = [...Object.keys(DEFAULTS), 'picture', 'script'] as (keyof Settings)[]
  return { ...DEFAULTS, ...Object.fromEntries(known.flatMap((key) => (last[key] === undefined ? [] : [[key, last[key]]]))) }
}

export function keepSettings(settings: Settings): void {
  localStorage.sending = JSON.stringify(settings)
}

export const settingsOf = ({ format, rate, bits, channels, kbps, pattern, to, script }: HouseFormat): Settings => ({
  format,
  rate,
  bits,
  channels,
  kbps,
  pattern,
  to,
  script,
})

/** `WAV, 24 bit, 48 kHz, mono` */
export function formatInWords({
  format,
  rate,
  bits,
  channels,
  kbps,
  script,
}: Pick<Settings, 'format' | 'rate' | 'bits' | 'channels' | 'kbps' | 'script'>): string {
  const beside = script ? 'with its script' : ''
  const fine = isLossless(format) ? `${bits} bit` : `${kbps} kbit/s`
  const sides = channels === 1 ? 'mono' : 'stereo'
  return [FORMAT_NAMES[format], fine, rate === 48_000 ? '48 kHz' : '44.1 kHz', sides, beside].filter(Boolean).join(', ')
}

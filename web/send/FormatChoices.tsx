import { allowsRate, FILE_FORMATS, isLossless, PICTURE, ratesOf } from '../../contract/fileFormats'
import type { ReactNode } from 'react'
import { Choice, Field } from '../ui/parts'
import { DEFAULTS, FORMAT_NAMES, possible, type Settings } from './settings'

const RATES = [
  [48_000, '48 kHz'],
  [44_100, '44.1 kHz'],
] as const

/** All that can be chosen of a file's form. */
export function FormatChoices<S extends Settings>({
  settings,
  onChange,
  pictures = false,
  script = '',
  children,
}: {
  settings: S
  onChange: (settings: S) => void
  /** Whether it can be a picture with sound. */
  pictures?: boolean
  /** What can go with it; empty where nothing can. */
  script?: string
  /** What is chosen of a picture. */
  children?: ReactNode
}) {
  const set =
    <K extends keyof Settings>(key: K) =>
    (value: Settings[K]) =>
      onChange(possible({ ...settings, [key]: value }))
  return (
    <>
      <Choice
        label="File"
        value={settings.format}
        onChange={set('format')}
        options={[...FILE_FORMATS, ...(pictures ? [PICTURE] : [])].map((format) => [format, FORMAT_NAMES[format]] as const)}
      />
      {children}
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        {isLossless(settings.format) ? (
          <Choice
            label="Depth"
            value={settings.bits}
            onChange={set('bits')}
            options={[
              [24, '24 bit'],
              [16, '16 bit, dithered'],
            ]}
          />
        ) : (
          <Choice
            label={settings.format === 'm4a' || settings.format === PICTURE ? 'Bit rate, on average' : 'Bit rate, constant'}
            value={settings.kbps}
            onChange={set('kbps')}
            options={ratesOf(settings.format, settings.channels).map((rate) => [rate, String(rate)] as const)}
          />
        )}
        <Choice
          label="Rate"
          value={settings.rate}
          onChange={set('rate')}
          options={RATES.filter(([rate]) => allowsRate(settings.format, rate))}
        />
        <Choice
          label="Channels"
          value={settings.channels}
          onChange={set('channels')}
          options={[
            [1, 'mono'],
            [2, 'stereo'],
          ]}
        />
      </div>
      {script && (
        <Choice
          label="Beside the file"
          value={settings.script ? 'script' : 'nothing'}
          onChange={(value) => set('script')(value === 'script')}
          options={[
            ['nothing', 'nothing'],
            ['script', `${script}, as a Word file`],
          ]}
        />
      )}
      <Field
        label="File name: {slug} {date} {client} {length}"
        value={settings.pattern}
        maxLength={200}
        onChange={(event) => set('pattern')(event.target.value || DEFAULTS.pattern)}
      />
    </>
  )
}

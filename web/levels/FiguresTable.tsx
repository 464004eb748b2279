import { SILENCE, type TapeFigures } from '../../core/hearing/ear'
import { RATE } from '../../core/time'

const level = (value: number, unit: string): string => (value <= SILENCE ? 'silence' : `${value.toFixed(1).replace('-', '−')} ${unit}`)

/** Loudness, peaks and speech in figures; `names` of the channels, where each is told apart. */
export function FiguresTable({ figures, names = [] }: { figures: TapeFigures; names?: readonly string[] }) {
  const { loudness, channels } = figures
  const most = (pick: (channel: TapeFigures['channels'][number]) => number) => Math.max(...channels.map(pick))
  const spoken = figures.speech.reduce((sum, { from, to }) => sum + to - from, 0)
  const rows: [string, string][][] = [
    [
      ['Integrated loudness', level(loudness.integrated, 'LUFS')],
      ['Maximum short-term', level(loudness.shortTerm, 'LUFS')],
      ['Loudness range', `${loudness.range.toFixed(1)} LU`],
    ],
    [
      [
        'True peak',
        level(
          most((channel) => channel.truePeak),
          'dBTP',
        ),
      ],
      [
        'Sample peak',
        level(
          most((channel) => channel.peak),
          'dBFS',
        ),
      ],
      ['Clipped', figures.clipped.count ? `${figures.clipped.count} ${figures.clipped.count === 1 ? 'place' : 'places'}` : 'none'],
    ],
    [
      [
        'Speech level',
        level(
          most((channel) => channel.speechLevel),
          'dBFS',
        ),
      ],
      [
        'Noise floor',
        level(
          most((channel) => channel.floor),
          'dBFS',
        ),
      ],
      ['Speech time', `${Math.round(spoken / RATE)} s`],
    ],
  ]
  return (
    <>
      <div className="mb-2 grid grid-cols-3 gap-x-8">
        {rows.map((column, i) => (
          <dl key={i} className="text-[13px]">
            {column.map(([name, value]) => (
              <div key={name} className="flex justify-between gap-3 border-b border-rule py-1.5">
                <dt className="text-faint">{name}</dt>
                <dd className="font-semibold whitespace-nowrap">{value}</dd>
              </div>
            ))}
          </dl>
        ))}
      </div>
      {names.length > 1 && (
        <p className="mb-2 text-[13px] text-soft">
          {channels
            .map((channel, c) => `${names[c]}: speech ${level(channel.speechLevel, 'dBFS')}, peak ${level(channel.truePeak, 'dBTP')}`)
            .join('. ')}
          .
        </p>
      )}
    </>
  )
}

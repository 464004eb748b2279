import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import { SILENCE, type TapeFigures } from '../../core/hearing/ear'
import { inWords, say } from '../../core/hearing/findings'
import type { Plan } from '../../core/sound/plan'
import { clock, RATE, type Frames, type Stretch } from '../../core/time'
import { hear } from '../sound/hear'
import { Dialog } from '../ui/parts'
import { useFigures } from './OnArrival'

const LoudnessChart = lazy(() => import('./LoudnessChart').then(({ LoudnessChart }) => ({ default: LoudnessChart })))

/** What the ear would notice: of what is selected, or of the whole tape. */
export function FiguresDialog({ tape, plan, selected, onGo, onClose }: { tape: TapeInfo; plan: Plan; selected: Stretch | null; onGo: (frame: Frames) => void; onClose: () => void }) {
  const whole = useFigures(tape)
  const { data: part, isPending } = useQuery({
    queryKey: ['hear', tape.id, selected?.from, selected?.to],
    enabled: selected !== null,
    queryFn: ({ signal }) => hear({ plan, from: selected!.from, to: selected!.to }, signal),
  })
  const figures = selected ? part : whole
  return (
    <Dialog wide open onClose={onClose} title={selected ? `Levels, ${clock(selected.from)} to ${clock(selected.to)}` : 'Levels of this tape'}>
      {!figures ? (
        <p className="py-8 text-center text-soft">{selected ? (isPending ? 'Listening to it …' : 'The loudness could not be measured.') : 'Known once all of the tape is here.'}</p>
      ) : (
        <>
          <p className="mb-4 font-serif text-[18px]">{inWords(figures)}</p>
          <Table figures={figures} tape={selected ? undefined : tape} />
        </>
      )}
      {tape.state === 'ready' && (
        <Suspense fallback={<div className="h-[300px]" />}>
          <LoudnessChart tape={tape} selected={selected} onGo={onGo} />
        </Suspense>
      )}
      {!selected && whole && tape.findings.length > 0 && <ul className="mt-3 flex flex-col gap-1 text-[13px]">{tape.findings.map((finding) => <li key={say(finding)}>{say(finding)}</li>)}</ul>}
    </Dialog>
  )
}

const level = (value: number, unit: string): string => (value <= SILENCE ? 'silence' : `${value.toFixed(1).replace('-', '−')} ${unit}`)

function Table({ figures, tape }: { figures: TapeFigures; tape?: TapeInfo }) {
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
      ['True peak', level(most((channel) => channel.truePeak), 'dBTP')],
      ['Sample peak', level(most((channel) => channel.peak), 'dBFS')],
      ['Clipped', figures.clipped.count ? `${figures.clipped.count} ${figures.clipped.count === 1 ? 'place' : 'places'}` : 'none'],
    ],
    [
      ['Speech level', level(most((channel) => channel.speechLevel), 'dBFS')],
      ['Noise floor', level(most((channel) => channel.floor), 'dBFS')],
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
      {tape && tape.channels > 1 && (
        <p className="mb-2 text-[13px] text-soft">
          {channels.map((channel, c) => `${nameOf(tape, c)}: speech ${level(channel.speechLevel, 'dBFS')}, peak ${level(channel.truePeak, 'dBTP')}`).join('. ')}.
        </p>
      )}
    </>
  )
}

const nameOf = (tape: TapeInfo, channel: number): string => tape.sides.find((side) => side.channels.length === 1 && side.channels[0] === channel)?.name || `Channel ${channel + 1}`

import { lazy, Suspense } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import { inWords, say } from '../../core/hearing/findings'
import type { Plan } from '../../core/render/plan'
import { clock, type Frames, type Stretch } from '../../core/time'
import { Dialog } from '../ui/parts'
import { useFigures } from '../api/queries'
import { FiguresTable } from './FiguresTable'
import { useMeasured } from './useMeasured'

const LoudnessChart = lazy(() => import('./LoudnessChart').then(({ LoudnessChart }) => ({ default: LoudnessChart })))

/** What the ear would notice: of what is selected, or of the whole tape. */
export function TapeFiguresDialog({
  tape,
  plan,
  selected,
  onGo,
  onClose,
}: {
  tape: TapeInfo
  plan: Plan
  selected: Stretch | null
  onGo: (frame: Frames) => void
  onClose: () => void
}) {
  const whole = useFigures(tape)
  const measured = useMeasured(selected && plan, selected?.from ?? 0, selected?.to ?? 0)
  const figures = selected ? (measured === 'failed' ? null : measured) : whole
  return (
    <Dialog
      wide
      open
      onClose={onClose}
      title={selected ? `Levels, ${clock(selected.from)} to ${clock(selected.to)}` : 'Levels of this tape'}
    >
      {!figures ? (
        <p className="py-8 text-center text-soft">
          {selected ? (measured ? 'The loudness could not be measured.' : 'Measuring …') : 'Known once all of the tape is here.'}
        </p>
      ) : (
        <>
          <p className="mb-4 font-serif text-[18px]">{inWords(figures)}</p>
          <FiguresTable figures={figures} names={selected || tape.channels < 2 ? [] : figures.channels.map((_, c) => nameOf(tape, c))} />
        </>
      )}
      {tape.state === 'ready' && (
        <Suspense fallback={<div className="h-[300px]" />}>
          <LoudnessChart tape={tape} selected={selected} onGo={onGo} />
        </Suspense>
      )}
      {!selected && whole && tape.findings.length > 0 && (
        <ul className="mt-3 flex flex-col gap-1 text-[13px]">
          {tape.findings.map((finding) => (
            <li key={say(finding)}>{say(finding)}</li>
          ))}
        </ul>
      )}
    </Dialog>
  )
}

const nameOf = (tape: TapeInfo, channel: number): string =>
  tape.sides.find((side) => side.channels.length === 1 && side.channels[0] === channel)?.name || `Channel ${channel + 1}`

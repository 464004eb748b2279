import { X } from 'lucide-react'
import { useEffect, useState, type ReactNode } from 'react'
import type { Change } from '../../core/edits/evenOut'
import { LOW_CUT } from '../../core/edits/lowCut'
import { SILENCE, type TapeFigures } from '../../core/hearing/ear'
import type { LevelPoint } from '../../core/sound/level'
import { parseTime } from '../../core/time'
import { parseFigure } from '../../core/typed'
import { FigureInput } from '../ui/FigureInput'
import { Button } from '../ui/parts'
import { fine } from '../shell/Transport'
import { CommandButton, CommandKey } from '../commands/CommandButton'

/** So high peaks may go where a piece is sent, in dBTP. */
const CEILING = -1

interface Props {
  /** The level of what is selected is to be typed at once. */
  typing: boolean
  /** The level of what is selected, in dB; null where nothing is. */
  chosen: number | null
  /** Whose level it is, where it is that of one side. */
  of: string | null
  /** What was measured of what is selected; null until it is known, or where nothing is. */
  measured: TapeFigures | null
  onChosen: (dB: number) => void
  /** Below how many hertz it is cut; null: it is not. Absent for a tape, whose low cut is a step of mending. */
  lowCut?: { hertz: number | null; set: (hertz: number | null) => void }
  /** The level point at the playhead. */
  point: LevelPoint | null
  onPoint: (to: LevelPoint) => void
  /** What would bring what is selected level with its neighbours; null where that was not asked for. */
  suggested: readonly Change[] | null
  onEven: () => void
  onTake: () => void
  onNotTake: () => void
  breath: number
  onBreath: (dB: number) => void
  /** The gain of all of it in dB, and its figures until they are known null; absent for a tape. */
  gain?: { value: number; set: (dB: number) => void; figures: TapeFigures | null }
  onTape?: () => void
  onClose: () => void
}

/** Levels, in figures: to be read and typed. */
export function LevelPanel({
  typing,
  chosen,
  of,
  measured,
  onChosen,
  lowCut,
  point,
  onPoint,
  suggested,
  onEven,
  onTake,
  onNotTake,
  breath,
  onBreath,
  gain,
  onTape,
  onClose,
}: Props) {
  return (
    <section
      aria-label="Levels"
      className={`relative flex shrink-0 flex-wrap items-end gap-x-5 gap-y-2 border-t border-rule bg-paper-low px-6 pt-2.5
        pr-12 pb-3 text-[13px]`}
      data-testid="level-panel"
    >
      <Part title={of ? `What is selected, ${of} only` : 'What is selected'}>
        {chosen === null ? (
          <span className="leading-8 text-faint">Nothing is selected.</span>
        ) : (
          <span className="flex items-center gap-3">
            <Decibels label="Level of what is selected" value={chosen} onKeep={onChosen} first={typing} />
            {lowCut && <LowCut {...lowCut} />}
            <span className="text-soft tabular-nums" data-testid="measured">
              {measured ? inFigures(measured) : 'measuring …'}
            </span>
          </span>
        )}
      </Part>
      <Part title="Level point">
        {point ? (
          <span className="flex items-center gap-2" data-testid="level-point">
            <Decibels label="Level of the point" value={point.dB} onKeep={(dB) => onPoint({ ...point, dB })} />
            at
            <FigureInput
              label="Place of the level point"
              value={fine(point.at)}
              read={parseTime}
              noun="time"
              hint="0:04.250"
              onKeep={(at) => onPoint({ ...point, at })}
              className="h-8 w-[82px] border-rule bg-paper-lit px-1 text-right"
            />
            <CommandButton id="level.pointRemove">
              Remove <CommandKey id="level.pointRemove" />
            </CommandButton>
          </span>
        ) : (
          <CommandButton id="level.pointAdd">
            Add at the playhead <CommandKey id="level.pointAdd" />
          </CommandButton>
        )}
      </Part>
      <Part title="Compared with neighbours">
        {suggested ? (
          <span className="flex items-center gap-2" data-testid="suggested">
            <span className="font-semibold tabular-nums">{suggested.map(({ dB }) => signed(dB)).join(', ')} dB</span>
            <Button look="strong" onClick={onTake}>
              Apply <CommandKey id="edit.bringBack" />
            </Button>
            <Button look="bare" onClick={onNotTake}>
              Dismiss <CommandKey id="select.clear" />
            </Button>
          </span>
        ) : (
          <Button disabled={chosen === null} onClick={onEven}>
            Even out <CommandKey id="level.even" />
          </Button>
        )}
      </Part>
      {onTape && (
        <Part title="Level line">
          <Button onClick={onTape}>
            Copy to the tape <CommandKey id="level.onTape" />
          </Button>
        </Part>
      )}
      <Part title="Breath reduction">
        <Decibels label="Breath reduction" value={breath} onKeep={onBreath} />
      </Part>
      {gain && <Whole {...gain} />}
      <button type="button" aria-label="Close" className="absolute top-2 right-3 rounded p-1 text-faint hover:text-ink" onClick={onClose}>
        <X size={16} />
      </button>
    </section>
  )
}

/** The gain of all of the piece, and how far its peaks then are from what may be sent. */
function Whole({ value, set, figures }: NonNullable<Props['gain']>) {
  const peak = figures && peakOf(figures)
  const room = peak !== null && peak > SILENCE ? CEILING - peak : null
  const loudness = figures?.loudness.integrated ?? SILENCE
  return (
    <Part title={`All of the piece${loudness > SILENCE ? `, ${signed(loudness)} LUFS` : ''}`}>
      <span className="flex items-center gap-3">
        <Decibels label="Gain of all of the piece" value={value} onKeep={set} />
        <span data-testid="headroom" className={room !== null && room < 0 ? 'font-semibold text-cut-ink' : 'text-soft'}>
          {peak === null
            ? 'measuring …'
            : room === null
              ? 'silence'
              : `peaks ${signed(peak)} dBTP, ${room >= 0 ? `${room.toFixed(1)} dB headroom` : `${(-room).toFixed(1)} dB over`}`}
        </span>
      </span>
    </Part>
  )
}

const peakOf = ({ channels }: TapeFigures): number => Math.max(...channels.map(({ truePeak }) => truePeak))

function inFigures(figures: TapeFigures): string {
  const { integrated } = figures.loudness
  const peak = peakOf(figures)
  return peak <= SILENCE ? 'silence' : `${integrated > SILENCE ? `${signed(integrated)} LUFS, ` : ''}peak ${signed(peak)} dBTP`
}

/** Below how many hertz what is selected is cut, to be typed; empty is none. */
function LowCut({ hertz, set }: NonNullable<Props['lowCut']>) {
  const read = (text: string): number | null => {
    const typed = parseFigure(text)
    return typed !== null && typed >= LOW_CUT.least && typed <= LOW_CUT.most ? Math.round(typed) : null
  }
  return (
    <span className="flex items-center gap-1.5">
      low cut
      <FigureInput
        label="Low cut of what is selected, Hz"
        value={hertz === null ? '' : String(hertz)}
        placeholder="none"
        inputMode="numeric"
        read={read}
        noun="low cut"
        hint={`a figure from ${LOW_CUT.least} to ${LOW_CUT.most}`}
        onKeep={set}
        onEmpty={() => set(null)}
        className="h-8 w-14 rounded-md border-rule bg-paper-lit px-2 text-right tabular-nums placeholder:text-faint"
      />
      <span className="text-faint">Hz</span>
    </span>
  )
}

const signed = (dB: number): string => `${dB < 0 ? '−' : dB > 0 ? '+' : ''}${Math.abs(dB).toFixed(1)}`

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div>
      <div className="mb-0.5 text-[12px] text-faint">{title}</div>
      <div className="flex h-8 items-center">{children}</div>
    </div>
  )
}

/** A figure in dB that is typed, or stepped by the arrow keys. */
function Decibels({
  label,
  value,
  onKeep,
  first,
}: {
  label: string
  value: number
  onKeep: (dB: number) => void
  /** It has the focus when it appears. */ first?: boolean
}) {
  const [text, setText] = useState(value.toFixed(1))
  useEffect(() => setText(value.toFixed(1)), [value])
  const keep = (typed: string) => {
    const dB = parseFigure(typed)
    if (dB !== null && Math.abs(dB - value) > 0.04) onKeep(Math.round(10 * Math.min(24, Math.max(-60, dB))) / 10)
    else setText(value.toFixed(1))
  }
  return (
    <span className="flex items-center gap-1.5">
      <input
        aria-label={`${label}, dB`}
        inputMode="decimal"
        autoFocus={first}
        onFocus={(event) => event.target.select()}
        className="h-8 w-16 rounded-md border border-rule bg-paper-lit px-2 text-right tabular-nums focus:border-tape focus:outline-none"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={(event) => keep(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur()
          if (event.key === 'Escape') {
            setText(value.toFixed(1))
            requestAnimationFrame(() => (event.target as HTMLInputElement).blur())
          }
          const by = event.key === 'ArrowUp' ? 0.5 : event.key === 'ArrowDown' ? -0.5 : 0
          if (!by) return
          event.preventDefault()
          keep(String(Number(text) + by))
        }}
      />
      <span className="text-faint">dB</span>
    </span>
  )
}

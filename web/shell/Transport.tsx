import { LoaderCircle, Pause, Play } from 'lucide-react'
import { useRef, type ReactNode } from 'react'
import { clock, parseTime, type Frames, type Stretch } from '../../core/time'
import { useFrames, useWaiting } from '../sound/usePlayer'
import { player } from '../sound/player'
import { run } from '../commands/commands'
import { FigureInput } from '../ui/FigureInput'
import { Meter } from './Meter'
import { useSpeed } from '../sound/useSpeed'
import { Tip } from '../ui/parts'
import { CommandKey } from '../commands/CommandButton'

/** The foot of a view that plays: the button, the place, the level. */
export function Transport({
  playing,
  place,
  narrow,
  children,
}: {
  playing: boolean
  place: () => Frames
  /** There is much beside it. */
  narrow?: boolean
  children?: ReactNode
}) {
  const figure = useRef<HTMLSpanElement>(null)
  const { speed, hurrying } = useSpeed()
  const waiting = useWaiting()
  useFrames(() => {
    const text = clock(place())
    if (figure.current && figure.current.textContent !== text) figure.current.textContent = text
  }, playing)
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1">
      <button
        type="button"
        aria-label={playing ? 'Pause' : 'Play'}
        title={playing && waiting ? 'Waiting for the sound' : undefined}
        data-own-space
        onPointerEnter={() => player.warm()}
        onClick={() => run('play.toggle')}
        className="flex size-9 shrink-0 items-center justify-center rounded-full border border-ink hover:bg-paper-low"
      >
        {playing && waiting ? (
          <LoaderCircle size={17} className="animate-spin text-cut" />
        ) : playing ? (
          <Pause size={15} fill="currentColor" />
        ) : (
          <Play size={15} fill="currentColor" className="ml-0.5" />
        )}
      </button>
      <span
        ref={figure}
        className="w-[88px] shrink-0 text-[23px] max-[860px]:w-[72px] max-[860px]:text-[19px] font-semibold tracking-tight"
        data-testid="place"
      >
        {clock(place())}
      </span>
      <Meter playing={playing} narrow={narrow} />
      <Tip
        text={
          <>
            Speed, at the same pitch <CommandKey id="play.slower" /> <CommandKey id="play.speed" /> <CommandKey id="play.faster" />
            {hurrying && '; faster where nobody speaks '}
            {hurrying && <CommandKey id="play.hurry" />}
          </>
        }
      >
        <button
          type="button"
          data-testid="speed"
          aria-label={`Speed ${speed}${hurrying ? ', faster where nobody speaks' : ''}`}
          onClick={() => run('play.speed')}
          className={`h-7 shrink-0 rounded-md px-1.5 text-[13px] tabular-nums hover:bg-paper-low
            ${speed === 1 && !hurrying ? 'text-faint' : 'font-semibold text-tape'}`}
        >
          {speed < 0 ? '−' : ''}
          {Math.abs(speed)}×{hurrying && ' »'}
        </button>
      </Tip>
      {children}
    </div>
  )
}

/** Start, end and length of the selection, each to be typed over. */
export function SelectionFigures({
  selection,
  passages,
  length,
  words,
  onSelect,
}: {
  selection: Stretch | null
  /** All that is chosen. */ passages: readonly Stretch[]
  length: Frames
  words: number
  onSelect: (selection: Stretch) => void
}) {
  if (passages.length > 1)
    return (
      <span className="flex flex-wrap items-center gap-2" data-testid="selection">
        <span className="rounded-full bg-wash px-3 py-1 text-[13px] font-semibold" data-testid="several">
          {passages.length} passages
        </span>
        <span className="text-faint">{fine(passages.reduce((sum, { from, to }) => sum + to - from, 0))} in all</span>
      </span>
    )
  if (!selection)
    return (
      <span className="flex shrink-0 items-center gap-1.5 text-faint" data-testid="selection">
        Nothing selected. Drag, or <CommandKey id="select.in" /> <CommandKey id="select.out" />
      </span>
    )
  const { from, to } = selection
  return (
    <span className="flex flex-wrap items-center gap-2" data-testid="selection">
      <Figure label="From" value={from} onKeep={(value) => value < to && onSelect({ from: value, to })} />
      <Figure label="to" value={to} onKeep={(value) => value > from && value <= length && onSelect({ from, to: value })} />
      <Figure
        label=""
        name="Length"
        strong
        value={to - from}
        onKeep={(value) => value > 0 && from + value <= length && onSelect({ from, to: from + value })}
      />
      {words > 0 && <span className="text-faint">{words === 1 ? '1 word' : `${words} words`}</span>}
    </span>
  )
}

function Figure({
  label,
  name,
  value,
  onKeep,
  strong,
}: {
  label: string
  name?: string
  value: Frames
  onKeep: (value: Frames) => void
  strong?: boolean
}) {
  return (
    <label className="flex items-center gap-1 text-faint">
      {label}
      <FigureInput
        label={`Selection: ${name ?? label}`}
        value={fine(value)}
        read={parseTime}
        noun="time"
        hint="0:04.250"
        onKeep={onKeep}
        className={`w-[82px] border-transparent bg-transparent px-1 py-0.5 hover:border-rule ${strong ? 'font-semibold' : ''}`}
      />
    </label>
  )
}

/** `m:ss.mmm`, where edges are set by figure. */
export function fine(frames: Frames): string {
  const ms = Math.round((frames * 1000) / 48_000)
  const seconds = Math.floor(ms / 1000)
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}.${String(ms % 1000).padStart(3, '0')}`
}

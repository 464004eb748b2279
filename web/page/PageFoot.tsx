import type { ReactNode } from 'react'
import type { Layout } from '../../core/page/timing'
import { clock, type Frames } from '../../core/time'
import { parseLength } from '../../core/typed'
import { CommandButton } from '../commands/CommandButton'
import { ViewMenu } from '../commands/CommandMenu'
import { Transport } from '../shell/Transport'
import { FigureInput } from '../ui/FigureInput'
import type { Mode } from './laid/usePage'

interface Props {
  playing: boolean
  place: () => Frames
  mode: Mode
  changeMode: (mode: Mode) => void
  air: Layout
  file: Layout
  slot: Frames
  onSlot: (slot: Frames) => void
  /** How many blocks are chosen. */
  chosen: number
  /** How loud the file is. */
  mix: ReactNode
  /** The lane that is listened to by itself. */
  solo: string | null
}

/** How the page plays, how long it is against its slot, and the way out. */
export function PageFoot({ playing, place, mode, changeMode, air, file, slot, onSlot, chosen, mix, solo }: Props) {
  const over = air.length - slot
  return (
    <>
      <Transport playing={playing} place={place} narrow />
      <div className="flex shrink-0 rounded-md border border-rule" role="group" aria-label="How it plays">
        {(
          [
            ['rehearse', 'Rehearse'],
            ['sent', 'As sent'],
          ] as const
        ).map(([value, text]) => (
          <button
            key={value}
            type="button"
            aria-pressed={mode === value}
            onClick={() => changeMode(value)}
            className={`h-8 px-1.5 text-[12.5px] first:rounded-l-md last:rounded-r-md
              ${mode === value ? 'bg-ink text-paper' : 'hover:bg-paper-low'}`}
          >
            {text}
          </button>
        ))}
      </div>
      <dl className="flex flex-wrap items-baseline gap-x-3 text-[13px] whitespace-nowrap" data-testid="figures">
        <FootFigure name="TRT">{clock(air.length)}</FootFigure>
        <div className="flex items-baseline gap-1.5">
          <dt className="text-faint">slot</dt>
          <dd>
            <SlotField value={slot} onKeep={onSlot} />
          </dd>
        </div>
        {slot > 0 && (
          <div className={`font-semibold ${over > 0 ? 'text-cut-ink' : 'text-tape'}`}>
            <dt className="sr-only">Over/under</dt>
            <dd>{over === 0 ? 'on time' : `${over > 0 ? 'over' : 'under'} by ${clock(Math.abs(over))}`}</dd>
          </div>
        )}
        {chosen <= 1 && (
          <FootFigure name="file" light>
            {clock(file.length)}
          </FootFigure>
        )}
      </dl>
      {mix}
      {solo !== null && (
        <span role="status" className="text-[13px] font-semibold whitespace-nowrap text-cut-ink" data-testid="solo">
          solo: {solo}
        </span>
      )}
      {chosen > 1 && (
        <span role="status" className="rounded-full bg-wash px-2.5 py-1 text-[13px] font-semibold whitespace-nowrap" data-testid="chosen">
          {chosen} blocks chosen
        </span>
      )}
      <span className="flex-1" />
      {slot > 0 && over !== 0 && <CommandButton id="page.fit">Fit</CommandButton>}
      <ViewMenu />
      <CommandButton id="page.send" look="strong">
        Send
      </CommandButton>
    </>
  )
}

function SlotField({ value, onKeep }: { value: Frames; onKeep: (slot: Frames) => void }) {
  return (
    <FigureInput
      label="Slot"
      value={clock(value)}
      read={parseLength}
      noun="length"
      hint="3:30 or 210"
      className="w-[62px] border-transparent bg-transparent px-1 text-[16px] font-semibold hover:border-rule"
      onKeep={(slot) => {
        if (slot !== value) onKeep(slot)
      }}
    />
  )
}

function FootFigure({ name, children, light }: { name: string; children: ReactNode; light?: boolean }) {
  return (
    <div className="flex items-baseline gap-1.5">
      <dt className="text-faint">{name}</dt>
      <dd className={light ? 'text-ink' : 'text-[16px] font-semibold'}>{children}</dd>
    </div>
  )
}

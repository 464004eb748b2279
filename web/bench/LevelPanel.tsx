import { X } from 'lucide-react'
import { useEffect, useState, type ReactNode } from 'react'
import type { Change } from '../../core/edits/evenOut'
import { SILENCE } from '../../core/hearing/ear'
import { Button, CommandKey } from '../ui/parts'

/** So high peaks may go where a piece is sent, in dBTP. */
const CEILING = -1

interface Props {
  /** The level of what is selected is to be typed at once. */
  typing: boolean
  /** The level of what is selected, in dB; null where nothing is. */
  chosen: number | null
  onChosen: (dB: number) => void
  /** What would bring what is selected level with its neighbours; null where that was not asked for. */
  suggested: readonly Change[] | null
  onEven: () => void
  onTake: () => void
  onNotTake: () => void
  breath: number
  onBreath: (dB: number) => void
  gain: number
  onGain: (dB: number) => void
  /** True peak in dBTP and loudness in LUFS of all of it; null until they are known. */
  figures: { peak: number; loudness: number } | null
  onTape: () => void
  onClose: () => void
}

/** Levels, in figures: to be read and typed. */
export function LevelPanel({ typing, chosen, onChosen, suggested, onEven, onTake, onNotTake, breath, onBreath, gain, onGain, figures, onTape, onClose }: Props) {
  const room = figures && figures.peak > SILENCE ? CEILING - figures.peak : null
  return (
    <section aria-label="Levels" className="relative flex shrink-0 flex-wrap items-end gap-x-5 gap-y-2 border-t border-rule bg-paper-low px-6 pt-2.5 pb-3 text-[13px]" data-testid="level-panel">
      <Part title="What is selected">
        {chosen === null ? <span className="leading-8 text-faint">Nothing is selected.</span> : <Decibels label="Level of what is selected" value={chosen} onKeep={onChosen} first={typing} />}
      </Part>
      <Part title="Compared with neighbours">
        {suggested ? (
          <span className="flex items-center gap-2" data-testid="suggested">
            <span className="font-semibold tabular-nums">{suggested.map(({ dB }) => signed(dB)).join(', ')} dB</span>
            <Button look="strong" onClick={onTake}>Apply <CommandKey id="edit.bringBack" /></Button>
            <Button look="bare" onClick={onNotTake}>Dismiss <CommandKey id="select.clear" /></Button>
          </span>
        ) : (
          <Button disabled={chosen === null} onClick={onEven}>Even out <CommandKey id="level.even" /></Button>
        )}
      </Part>
      <Part title="Its line">
        <Button onClick={onTape}>Copy to the tape <CommandKey id="level.onTape" /></Button>
      </Part>
      <Part title="Breath reduction">
        <Decibels label="Breath reduction" value={breath} onKeep={onBreath} />
      </Part>
      <Part title={`All of the piece${figures && figures.loudness > SILENCE ? `, ${signed(figures.loudness)} LUFS` : ''}`}>
        <span className="flex items-center gap-3">
          <Decibels label="Gain of all of the piece" value={gain} onKeep={onGain} />
          <span data-testid="headroom" className={room !== null && room < 0 ? 'font-semibold text-cut-ink' : 'text-soft'}>
            {!figures ? 'listening …' : room === null ? 'silence' : `peaks ${signed(figures.peak)} dBTP, ${room >= 0 ? `${room.toFixed(1)} dB headroom` : `${(-room).toFixed(1)} dB over`}`}
          </span>
        </span>
      </Part>
      <button type="button" aria-label="Close" className="absolute top-2 right-3 rounded p-1 text-faint hover:text-ink" onClick={onClose}><X size={16} /></button>
    </section>
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
function Decibels({ label, value, onKeep, first }: { label: string; value: number; onKeep: (dB: number) => void; /** It has the focus when it appears. */ first?: boolean }) {
  const [text, setText] = useState(value.toFixed(1))
  useEffect(() => setText(value.toFixed(1)), [value])
  const keep = (typed: string) => {
    const dB = Number(typed.replace('−', '-').replace(',', '.'))
    if (typed.trim() !== '' && Number.isFinite(dB) && Math.abs(dB - value) > 0.04) onKeep(Math.round(10 * Math.min(24, Math.max(-60, dB))) / 10)
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

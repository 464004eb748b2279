import { useEffect, useRef, useState } from 'react'
import { decibels } from '../../core/sound/level'
import { zone } from '../../core/sound/recording'
import { onLevels, useRecorder } from './recorder'

const LOWEST = -60
const HELD_MS = 1500
const share = (dB: number): number => Math.max(0, Math.min(1, (dB - LOWEST) / -LOWEST))
const ZONES = [
  ['too low', -60, -30],
  ['good', -30, -6],
  ['too hot', -6, 0],
] as const
const SAYS = {
  silent: 'No signal',
  low: 'Too low: move closer or turn it up',
  good: 'Good level',
  hot: 'Too hot: move back or turn it down',
  over: 'Clipping: can’t be repaired',
}

/** Follows the level that comes in: moves the bars, and gives what the highest of the last moment means. */
function useInputLevel() {
  const { chosen } = useRecorder()
  const bars = useRef<(HTMLDivElement | null)[]>([])
  const held = useRef<{ dB: number; at: number }>({ dB: -120, at: 0 })
  const [now, setNow] = useState<keyof typeof SAYS>('silent')
  const [peak, setPeak] = useState('')
  useEffect(
    () =>
      onLevels((peaks) => {
        const loudest = Math.max(...peaks.map(decibels))
        const time = performance.now()
        if (loudest >= held.current.dB || time - held.current.at > HELD_MS) held.current = { dB: loudest, at: time }
        peaks.forEach((value, c) => {
          const bar = bars.current[c]
          if (bar) bar.style.width = `${share(decibels(value)) * 100}%`
        })
        setNow(zone(held.current.dB))
        setPeak(held.current.dB > -100 ? held.current.dB.toFixed(1).replace('-', '−') : '')
      }),
    [chosen],
  )
  const bar = (c: number) => (element: HTMLDivElement | null) => void (bars.current[c] = element)
  return { chosen, bar, now, peak, tone: now === 'hot' || now === 'over' ? 'bg-cut' : 'bg-ink' }
}

/** The level that comes in, with what it means. */
export function InputMeter() {
  const { chosen, bar, now, peak, tone } = useInputLevel()
  return (
    <div>
      <div className="mb-2 flex items-baseline justify-between">
        <span
          className={`text-[15px] font-medium ${now === 'good' ? 'text-tape' : now === 'silent' ? 'text-faint' : 'text-cut-ink'}`}
          data-testid="zone"
        >
          {SAYS[now]}
        </span>
        <span className="text-[14px] text-soft" data-testid="input-level">
          {peak && `${peak} dB`}
        </span>
      </div>
      <div role="img" aria-label="Level of the microphone in dBFS">
        {chosen.map((input, c) => (
          <div key={input} className="relative mb-1 h-4 overflow-hidden rounded-sm bg-rule">
            <div
              className="absolute top-0 h-full bg-wash"
              style={{ left: `${share(-30) * 100}%`, width: `${(share(-6) - share(-30)) * 100}%` }}
            />
            <div ref={bar(c)} className={`absolute top-0 h-full ${tone}`} style={{ width: 0 }} />
          </div>
        ))}
        <div className="relative h-4 text-[11px] text-faint">
          {ZONES.map(([says, from, to]) => (
            <span
              key={says}
              className="absolute -translate-x-1/2 whitespace-nowrap"
              style={{ left: `${((share(from) + share(to)) / 2) * 100}%` }}
            >
              {says}
            </span>
          ))}
        </div>
      </div>
    </div>
  )
}

/** The same, small: bars, and a word where the level is not good. */
export function SmallInputMeter() {
  const { chosen, bar, now, peak, tone } = useInputLevel()
  return (
    <div
      className="flex items-center gap-2"
      role="img"
      aria-label={`Level of the microphone: ${SAYS[now]}`}
      data-testid="small-input-meter"
      data-peak={peak}
    >
      <div className="w-24">
        {chosen.map((input, c) => (
          <div key={input} className="relative mb-[2px] h-[6px] overflow-hidden rounded-sm bg-rule last:mb-0">
            <div ref={bar(c)} className={`absolute top-0 h-full ${tone}`} style={{ width: 0 }} />
          </div>
        ))}
      </div>
      {now !== 'good' && (
        <span className={`text-[12px] ${now === 'silent' ? 'text-faint' : 'text-cut-ink'}`}>{SAYS[now].split(':')[0]}</span>
      )}
    </div>
  )
}

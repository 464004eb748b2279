import { useRef, useState } from 'react'
import { decibels } from '../../core/sound/level'
import { player } from '../sound/player'
import { useFrames } from '../sound/usePlayer'

/** Level of what plays, in dBFS, with the highest held for a while. */

const LOWEST = -48
const SCALE = [-36, -24, -12, -6, 0]
const FALL = 26 // dB a second
const HELD_MS = 1800

const share = (dB: number): number => Math.max(0, Math.min(1, (dB - LOWEST) / -LOWEST))

export function Meter({ playing, narrow }: { playing: boolean; narrow?: boolean }) {
  const bars = useRef<(HTMLDivElement | null)[]>([])
  const holds = useRef<(HTMLDivElement | null)[]>([])
  const state = useRef([0, 1].map(() => ({ level: LOWEST, held: LOWEST, since: 0 })))
  const last = useRef(performance.now())
  const [over, setOver] = useState(false)
  const [readout, setReadout] = useState('')

  useFrames(
    () => {
      const now = performance.now()
      const passed = Math.min(0.1, (now - last.current) / 1000)
      last.current = now
      player.takePeaks().forEach((peak, side) => {
        const channel = state.current[side]
        const dB = decibels(peak)
        channel.level = Math.max(dB, channel.level - FALL * passed, LOWEST)
        if (dB >= channel.held || now - channel.since > HELD_MS) {
          channel.held = Math.max(channel.level, LOWEST)
          channel.since = now
        }
        if (peak > 1) setOver(true)
        bars.current[side]!.style.width = `${share(channel.level) * 100}%`
        holds.current[side]!.style.left = `${share(channel.held) * 100}%`
        holds.current[side]!.style.opacity = channel.held > LOWEST ? '1' : '0'
      })
      const held = Math.max(...state.current.map((channel) => channel.held))
      const text = held > LOWEST ? held.toFixed(1).replace('-', '−') : ''
      if (text !== readout) setReadout(text)
    },
    playing || readout !== '',
  )

  return (
    <div
      className={`relative shrink-0 max-[1180px]:w-[120px] ${narrow ? 'w-[112px]' : 'mr-3 w-[180px]'}`}
      role="img"
      aria-label="Playback level in dBFS"
      data-testid="meter"
    >
      {[0, 1].map((side) => (
        <div key={side} className="relative mb-[2px] h-[5px] bg-rule">
          <div ref={(element) => void (bars.current[side] = element)} className="h-full bg-ink" style={{ width: 0 }} />
          <div
            ref={(element) => void (holds.current[side] = element)}
            className="absolute top-0 h-full w-[2px] bg-cut"
            style={{ opacity: 0 }}
          />
        </div>
      ))}
      <div className="relative h-3 text-[9.5px] text-faint">
        {(narrow ? SCALE.filter((dB) => dB !== -6) : SCALE).map((dB) => (
          <span
            key={dB}
            className={`absolute -translate-x-1/2 ${dB === -6 ? 'max-[1180px]:hidden' : ''}`}
            style={{ left: `${share(dB) * 100}%` }}
          >
            {dB === 0 ? '0' : `−${-dB}`}
          </span>
        ))}
      </div>
      <button
        type="button"
        title="Over full scale: press to clear"
        onClick={() => setOver(false)}
        className={`absolute -top-0.5 -right-3.5 size-2.5 rounded-full ${over ? 'bg-cut' : 'invisible'}`}
        aria-label="Went over full scale. Clear."
      />
    </div>
  )
}

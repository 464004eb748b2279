import { EarOff, Infinity as Loops, Layers, MoreHorizontal } from 'lucide-react'
import type { LiveClip } from '../../core/live/board'
import { RATE } from '../../core/time'
import { Menu, MenuItem } from '../ui/parts'
import type { Run } from './clipSound'
import { leftOf, short } from './timeLeft'
import type { Board } from './useBoard'
import type { Prepared } from './usePrepared'

interface Props {
  board: Board
  place: string
  name: string
  clip: LiveClip
  prepared: Prepared | undefined
  run: Run | undefined
  onOpen: (piece: string) => void
}

const FADES = [0, 0.5, 2] as const

/** One clip on its key: what it is, how long, whether it is ready, and how much is left while it plays. */
export function ClipCell({ board, place, name, clip, prepared, run, onOpen }: Props) {
  const cued = board.cued === place
  const length = prepared?.plan?.length ?? 0
  const ready = prepared?.state === 'ready'
  const slug = prepared?.piece?.slug || 'Untitled'
  const paused = board.paused?.clip === clip.id ? board.paused.at : 0
  const left = run ? leftOf(run, length) : Math.max(0, length - paused)
  const share = run && length ? run.at / length : 0
  return (
    <div
      className={`group relative flex min-h-0 touch-manipulation flex-col overflow-hidden rounded-lg border-2 select-none
        ${run ? 'border-ink bg-ink text-paper' : cued ? 'border-ink bg-paper-lit' : 'border-rule bg-paper-lit'}
        ${board.moving === clip.id ? 'opacity-50' : ''}`}
      data-testid={`clip-${place}`}
      data-state={run ? 'playing' : (prepared?.state ?? 'loading')}
    >
      <button
        type="button"
        tabIndex={-1}
        aria-label={`${name}: ${slug}, ${short(left)}${run ? ' left, playing' : ready ? '' : ', not ready'}`}
        className="absolute inset-0 z-10 cursor-pointer"
        onPointerDown={(event) => {
          if (event.button !== 0) return
          event.preventDefault()
          if (event.shiftKey) board.listen(place)
          else board.press(place)
        }}
        onContextMenu={(event) => {
          event.preventDefault()
          board.cue(place)
        }}
      />
      <div className="flex items-center gap-1.5 px-2 pt-1.5">
        <span className={`text-[20px] leading-none font-bold ${run ? '' : 'text-voice'}`}>{name}</span>
        {clip.loop && <Loops size={14} aria-label="loops" />}
        {clip.over && <Layers size={13} aria-label="plays beside others" />}
        <span className="flex-1" />
        <span className="relative z-20">
          <Menu
            label={`More for ${slug}`}
            trigger={
              <button type="button" tabIndex={-1} className="flex size-7 items-center justify-center rounded opacity-70 hover:opacity-100">
                <MoreHorizontal size={16} />
              </button>
            }
          >
            <MenuItem onSelect={() => board.cue(place)}>Cue</MenuItem>
            <MenuItem onSelect={() => board.listen(place)}>Hear it yourself</MenuItem>
            <MenuItem onSelect={() => board.change(clip, 'loop', clip.loop ? undefined : true, 'loop')}>
              {clip.loop ? '✓ ' : ''}Loops
            </MenuItem>
            <MenuItem onSelect={() => board.change(clip, 'over', clip.over ? undefined : true, 'plays beside others')}>
              {clip.over ? '✓ ' : ''}Plays beside others
            </MenuItem>
            {FADES.map((seconds) => (
              <MenuItem
                key={seconds}
                onSelect={() => board.change(clip, 'fade', seconds ? Math.round(seconds * RATE) : undefined, 'fade when stopped')}
              >
                {(clip.fade ?? 0) === Math.round(seconds * RATE) ? '✓ ' : ''}
                {seconds ? `Fades ${seconds} s when stopped` : 'Stops at once'}
              </MenuItem>
            ))}
            <MenuItem onSelect={() => board.move(clip.id)}>To another key</MenuItem>
            <MenuItem onSelect={() => onOpen(clip.piece)}>Open on the Bench</MenuItem>
            <MenuItem onSelect={() => board.remove(clip)}>Remove from the board</MenuItem>
          </Menu>
        </span>
      </div>
      <p className="line-clamp-2 min-h-0 flex-1 px-2 text-[14px] leading-[1.15] font-medium break-words max-[1200px]:text-[13px]">{slug}</p>
      <p
        className={`flex items-baseline justify-between px-2 pb-1.5 leading-none
          ${run ? 'text-[22px] font-bold' : 'text-[18px] font-semibold'}`}
      >
        {prepared?.state === 'failed' ? (
          <span className="flex items-center gap-1 text-[12px] font-semibold text-cut-ink" title={prepared.reason}>
            <EarOff size={14} /> not ready
          </span>
        ) : !ready && !run ? (
          <span className="text-[12px] font-semibold text-faint">fetching</span>
        ) : (
          <span>{run?.loop ? `${short(run.at)} in` : short(left)}</span>
        )}
        {!run && (paused > 0 || cued) && (
          <span className="rounded-sm bg-ink px-1 py-0.5 text-[11px] font-semibold text-paper">{paused > 0 ? 'paused' : 'cued'}</span>
        )}
      </p>
      <span className="block h-1.5 bg-rule" aria-hidden>
        <span className={`block h-full ${run ? 'bg-cut' : ''}`} style={{ width: `${share * 100}%` }} />
      </span>
    </div>
  )
}

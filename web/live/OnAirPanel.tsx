import { Square } from 'lucide-react'
import { CommandKey } from '../commands/CommandButton'
import { LAST, lastSeconds, leftOf, short } from './timeLeft'
import type { Board } from './useBoard'

/** What is on air, and how much of it is left: to be read at arm's length, in the dark, and without colours. */
export function OnAirPanel({ board }: { board: Board }) {
  const { runs, clips, prepared } = board
  const live = runs.flatMap((run) => {
    const clip = clips.find(({ id }) => id === run.clip)
    const length = clip ? (prepared.get(clip.piece)?.plan?.length ?? 0) : 0
    return clip ? [{ run, clip, length, left: leftOf(run, length) }] : []
  })
  const [main, ...others] = [...live].reverse()
  const ready = clips.filter(({ piece }) => prepared.get(piece)?.state === 'ready').length
  const counted = main && !main.run.loop ? lastSeconds(main.left) : null
  return (
    <section aria-label="On air" className="flex min-w-0 flex-1 flex-col rounded-lg border-2 border-rule bg-paper-low px-5 py-3">
      <div className="flex items-center gap-3">
        <h2 className="text-[13px] font-semibold text-faint">{main ? 'On air' : 'Nothing on air'}</h2>
        {others.map(({ run, clip, left }) => (
          <span key={run.run} className="truncate rounded bg-paper-lit px-2 py-0.5 text-[13px]">
            {board.slugOf(clip)} <span className="font-semibold">{run.loop ? 'loops' : short(left)}</span>
          </span>
        ))}
        <span className="flex-1" />
        <button
          type="button"
          className="flex h-10 items-center gap-2 rounded-md border-2 border-ink px-4 text-[15px] font-semibold disabled:opacity-40"
          disabled={!main && board.heard.length === 0}
          onClick={board.stopAll}
        >
          <Square size={16} fill="currentColor" /> Stop all <CommandKey id="live.stopAll" />
        </button>
      </div>
      <div className="flex min-h-[104px] items-center gap-6">
        <p className="min-w-[3ch] text-[88px] leading-none font-bold tracking-tight" data-testid="time-left" aria-live="off">
          {main ? main.run.loop ? short(main.run.at) : short(main.left) : <span className="text-[56px] text-faint">{ready}</span>}
        </p>
        <div className="min-w-0 flex-1">
          <p className={`truncate text-[26px] leading-tight font-semibold ${main ? '' : 'text-faint'}`}>
            {main ? board.slugOf(main.clip) : `of ${clips.length} ready`}
          </p>
          <p className="truncate text-[15px] text-soft">
            {main?.run.stopping
              ? 'fading'
              : main?.run.loop
                ? 'loops until it is stopped'
                : main
                  ? `out: … ${prepared.get(main.clip.piece)?.outCue}`
                  : board.kept && clips.length > 0
                    ? 'Kept in this browser: it opens and plays without the server.'
                    : ' '}
          </p>
          {main && <LastSeconds counted={counted} share={main.length ? main.run.at / main.length : 0} />}
        </div>
      </div>
    </section>
  )
}

/** A bar that runs full; in the last five seconds five blocks, of which one goes each second. */
function LastSeconds({ counted, share }: { counted: number | null; share: number }) {
  if (counted === null)
    return (
      <span className="mt-2 block h-5 overflow-hidden rounded border border-grain" aria-hidden>
        <span className="block h-full bg-ink" style={{ width: `${share * 100}%` }} />
      </span>
    )
  return (
    <span className="mt-2 grid h-5 grid-cols-5 gap-2" data-testid="last-seconds" data-left={counted} aria-hidden>
      {Array.from({ length: LAST }, (_, i) => (
        <span key={i} className={`rounded border-2 border-cut ${i < counted ? 'bg-cut' : ''}`} />
      ))}
    </span>
  )
}

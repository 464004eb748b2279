import { toast } from 'sonner'
import { beyondEnd, endIn, endOut, type End } from '../../core/edits/ends'
import { CommandButton, CommandKey } from '../commands/CommandButton'
import { useCommands } from '../commands/commands'
import { short } from './timeLeft'
import type { Board } from './useBoard'

/** What comes next: its words at both ends, and a last trim before it plays. */
export function CuedPanel({ board, nameOf }: { board: Board; nameOf: (key: string) => string }) {
  const { cued, places, prepared, facts } = board
  const clip = cued ? places.get(cued) : undefined
  const one = clip && prepared.get(clip.piece)
  const trim = (end: End, make: typeof endIn, label: string) => {
    if (!one?.live || !one.piece || !facts) return
    const offOf = (tape: string) => facts.tapes.find(({ id }) => id === tape)?.off ?? []
    const steps = make(one.piece, end, facts.wordsOf, beyondEnd(end, { ...facts, offOf }))
    if (steps.length) one.live.act(steps, { label })
    else toast('There is no other word there.', { duration: 1500 })
  }
  useCommands({
    'end.startEarlier': () => trim('head', endOut, 'start one word earlier'),
    'end.startLater': () => trim('head', endIn, 'start one word later'),
    'end.endEarlier': () => trim('tail', endIn, 'end one word earlier'),
    'end.endLater': () => trim('tail', endOut, 'end one word later'),
  })
  return (
    <section
      aria-label="Cued"
      className="flex w-[400px] shrink-0 flex-col rounded-lg border-2 border-rule px-4 py-3 max-[1100px]:w-[330px] max-[860px]:w-full"
    >
      <div className="flex items-baseline gap-2">
        <h2 className="text-[13px] font-semibold text-faint">Cued</h2>
        {cued && clip && <span className="text-[18px] font-bold text-voice">{nameOf(cued)}</span>}
        <span className="flex-1" />
        {one && Math.abs(one.gain) >= 0.05 && (
          <span className="text-[13px] text-soft" title="For the level of this board">
            {inDecibels(one.gain)}
          </span>
        )}
        {one?.plan && <span className="text-[18px] font-semibold">{short(one.plan.length)}</span>}
      </div>
      {clip && one ? (
        <>
          <p className="truncate text-[18px] font-semibold">{board.slugOf(clip)}</p>
          <p className="line-clamp-2 min-h-[2.6em] text-[14px] leading-snug text-soft">{one.reason || `“${one.inCue} … ${one.outCue}”`}</p>
          <div className="mt-auto grid grid-cols-2 gap-1.5 pt-2">
            <Trim id="end.startEarlier" text="Starts earlier" />
            <Trim id="end.startLater" text="Starts later" />
            <Trim id="end.endEarlier" text="Ends earlier" />
            <Trim id="end.endLater" text="Ends later" />
          </div>
        </>
      ) : (
        <p className="mt-2 text-soft">
          Nothing cued. The arrow keys cue, <CommandKey id="live.play" /> plays.
        </p>
      )}
    </section>
  )
}

const inDecibels = (gain: number): string => `${gain > 0 ? '+' : '−'}${Math.abs(gain).toFixed(1)} dB`

function Trim({ id, text }: { id: 'end.startEarlier' | 'end.startLater' | 'end.endEarlier' | 'end.endLater'; text: string }) {
  return <CommandButton id={id}>{text}</CommandButton>
}

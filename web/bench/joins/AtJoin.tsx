import { parseTime, RATE } from '../../../core/time'
import type { Prediction } from '../../../core/cuts/predict'
import type { FactsOf } from '../../../core/render/plan'
import { FigureInput } from '../../ui/FigureInput'
import type { JoinRow } from '../benchSheet'
import { CloseUp } from './CloseUp'
import { Judgement } from '../../joins/Judgement'
import type { useFadeActs } from '../cuts/useFadeActs'
import type { useGapActs } from '../cuts/useGapActs'
import type { useJoinActs } from './useJoinActs'
import { CommandKey } from '../../commands/CommandButton'

interface AtJoinProps {
  row: JoinRow
  judged: Prediction | undefined
  joinActs: ReturnType<typeof useJoinActs>
  gaps: ReturnType<typeof useGapActs>
  fades: ReturnType<typeof useFadeActs>
  factsOf: FactsOf
  /** The height of full scale in the wave. */
  scale: number
  spectrum: boolean
}

/** The join that is worked on: what is said at it, how it is made, why there, what else could be; and its close-up. */
export function AtJoin({
  row: { cut, before, after },
  judged,
  joinActs: { others, step, move },
  gaps,
  fades,
  factsOf,
  scale,
  spectrum,
}: AtJoinProps) {
  const { join } = cut
  return (
    <section aria-label="Close-up" className="shrink-0 border-t border-rule bg-paper-low px-6 pt-2 pb-1">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-1 text-[13px]">
        <span className="text-[12px] font-semibold text-faint">Close-up</span>
        <span className="min-w-0 font-serif">
          {before} <span className="text-cut">/</span> {after}
        </span>
        <span className="flex items-baseline gap-1">
          gap
          <FigureInput
            label="Gap in seconds"
            value={(gaps.gapAt(cut) / RATE).toFixed(2)}
            read={(text) => parseTime(text.replace(/\s*s\s*$/, ''))}
            noun="gap"
            hint="0.35"
            onKeep={gaps.setTo}
            className="w-11 border-rule bg-transparent px-1 text-right"
          />
          s
        </span>
        <span className="text-soft">fade {Math.round((join.fade * 1000) / RATE)} ms</span>
        {join.asked?.why && (
          <span className="min-w-0 text-soft" data-testid="why" title={join.asked.why}>
            {join.asked.why}
          </span>
        )}
        <Judgement judged={judged} />
        {(others.earlier || others.later) && (
          <span className="flex flex-wrap items-center gap-1 text-[12px] text-faint" data-testid="other-places">
            try the cut one word{' '}
            {others.earlier && (
              <>
                <CommandKey id="join.wordEarlier" /> earlier {others.earlier.changes}
              </>
            )}{' '}
            {others.later && (
              <>
                <CommandKey id="join.wordLater" /> later {others.later.changes}
              </>
            )}
          </span>
        )}
        {gaps.masks && (
          <span className="flex shrink-0 items-center gap-1 text-[12px] text-faint" data-testid="masks">
            <CommandKey id="join.mask" /> overlap the next phrase
          </span>
        )}
        <span className="flex-1 max-[1240px]:hidden" />
        <span className="flex flex-wrap items-center gap-1 text-[12px] text-faint">
          by {step.name}: <CommandKey id="join.leftEarlier" />
          <CommandKey id="join.leftLater" /> outgoing <CommandKey id="join.rightEarlier" />
          <CommandKey id="join.rightLater" /> incoming <CommandKey id="join.cutEarlier" />
          <CommandKey id="join.cutLater" /> join
        </span>
      </div>
      <CloseUp
        cut={cut}
        factsOf={factsOf}
        scale={scale}
        spectrum={spectrum}
        onMove={move}
        onFade={fades.fadeTo}
        onOverlap={fades.overlapBy}
      />
    </section>
  )
}

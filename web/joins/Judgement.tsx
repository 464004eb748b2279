import type { Prediction } from '../../core/cuts/predict'

/** From here on a join is spoken about before it was played, and something better is looked for near it. */
export const MAY_BE_AUDIBLE = 0.35
const LIKELY = 0.55

/** Whether a join is expected to be audible; null where it is not, or nothing is known of it yet. */
export const audible = (judged: Prediction | undefined): 'likely' | 'possibly' | null =>
  !judged || judged.heard < MAY_BE_AUDIBLE ? null : judged.heard >= LIKELY ? 'likely' : 'possibly'

/** What is to be expected of a join, where it is anything. */
export function Judgement({ judged, brief }: { judged: Prediction | undefined; brief?: boolean }) {
  const expected = audible(judged)
  if (!expected) return null
  return (
    <span className="shrink-0 rounded-sm bg-paper-low px-1.5 text-[11.5px] font-normal text-cut-ink" title={judged!.why}>
      {expected} audible{!brief && judged!.why && `: ${judged!.why}`}
    </span>
  )
}

import { clock } from '../../core/time'
import { useDesk } from '../api/queries'
import { airTime } from './airTime'

export const useStoryName = (id: string): string => useDesk().data?.stories.find((story) => story.id === id)?.slug ?? 'Story'

/** How the story stands against the slot of its first output, wherever one works on it. */
export function StoryFigures({ id }: { id: string }) {
  const story = useDesk().data?.stories.find((row) => row.id === id)
  if (!story) return null
  const { airs, slot, trt } = story.outputs[0]
  const over = trt - slot
  return (
    <span className="flex shrink-0 items-center gap-3 text-[13px] text-soft" data-testid="story-figures">
      {airs && <span>Airs {airTime(airs)}</span>}
      <span className="h-2 w-28 overflow-hidden rounded-full bg-rule max-[1300px]:w-16 max-[1180px]:hidden" aria-hidden>
        <span
          className={`block h-full ${over > 0 ? 'bg-cut' : 'bg-ink'}`}
          style={{ width: `${Math.min(100, slot ? (trt / slot) * 100 : 0)}%` }}
        />
      </span>
      <span className="font-semibold text-ink">{clock(trt)}</span>
      {slot > 0 && (
        <span className={over > 0 ? 'text-cut-ink' : ''}>
          of {clock(slot)} · {over > 0 ? 'over' : 'under'} by {clock(Math.abs(over))}
        </span>
      )}
    </span>
  )
}

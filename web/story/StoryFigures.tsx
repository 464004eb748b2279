import { clock } from '../../core/time'
import { useDesk } from '../api/queries'
import { airTime } from './airTime'

export const useStoryName = (id: string): string => useDesk().data?.stories.find((story) => story.id === id)?.slug ?? 'Story'

/** How the story stands against its slot, wherever one works on it. */
export function StoryFigures({ id }: { id: string }) {
  const story = useDesk().data?.stories.find((row) => row.id === id)
  if (!story) return null
  const over = story.trt - story.slot
  return (
    <span className="flex shrink-0 items-center gap-3 text-[13px] text-soft" data-testid="story-figures">
      {story.airs && <span>Airs {airTime(story.airs)}</span>}
      <span className="h-2 w-28 overflow-hidden rounded-full bg-rule max-[1300px]:w-16 max-[1180px]:hidden" aria-hidden>
        <span
          className={`block h-full ${over > 0 ? 'bg-cut' : 'bg-ink'}`}
          style={{ width: `${Math.min(100, story.slot ? (story.trt / story.slot) * 100 : 0)}%` }}
        />
      </span>
      <span className="font-semibold text-ink">{clock(story.trt)}</span>
      {story.slot > 0 && (
        <span className={over > 0 ? 'text-cut-ink' : ''}>
          of {clock(story.slot)} · {over > 0 ? 'over' : 'under'} by {clock(Math.abs(over))}
        </span>
      )}
    </span>
  )
}

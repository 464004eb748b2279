import { memo } from 'react'
import { Link } from 'react-router'
import { clock } from '../../core/time'
import { useStoryTapes } from '../library/useLibrary'
import { carry } from './lanes/carried'

/** The tapes that a story uses, and those that were put in it; `under`: those that lie in the page's lanes. */
export const TapeList = memo(function TapeList({ story, under }: { story: string; under: readonly string[] }) {
  const rows = useStoryTapes(story)
  if (!rows.length) return <p className="py-3 text-faint">None yet.</p>
  return (
    <ul data-testid="story-tapes">
      {rows.map((row) => (
        <li key={row.id} className="border-b border-rule" draggable onDragStart={carry('tape', row.id)}>
          <Link to={`/tapes/${row.id}?story=${story}`} className="flex items-baseline gap-3 py-2 hover:bg-paper-low">
            <span className="min-w-0 flex-1 truncate">{row.name}</span>
            {!row.usedIn.includes(story) && !under.includes(row.id) && <span className="text-[12px] text-faint">unused</span>}
            <span className="text-[13px] text-soft">{clock(row.frames)}</span>
          </Link>
        </li>
      ))}
    </ul>
  )
})

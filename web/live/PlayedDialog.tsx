import { Download } from 'lucide-react'
import { RATE } from '../../core/time'
import { Dialog, Empty } from '../ui/parts'
import { usePlays } from './queries'
import { short } from './timeLeft'

/** What was played on air, and when. */
export function PlayedDialog({ board, onClose }: { board: string; onClose: () => void }) {
  const plays = usePlays(board).data ?? []
  return (
    <Dialog open title="Played" onClose={onClose}>
      {plays.length === 0 && <Empty title="Nothing played yet." />}
      <ul data-testid="played">
        {plays.map(({ id, at, slug, seconds, stopped }) => (
          <li key={id} className="flex items-baseline gap-3 border-b border-rule py-1.5">
            <time dateTime={at} className="shrink-0 text-faint">
              {new Date(at).toLocaleString('en-GB', {
                day: 'numeric',
                month: 'short',
                hour: '2-digit',
                minute: '2-digit',
                second: '2-digit',
              })}
            </time>
            <span className="min-w-0 flex-1 truncate font-medium">{slug}</span>
            <span className="shrink-0 text-soft">
              {short(seconds * RATE)}
              {stopped ? ', stopped' : ''}
            </span>
          </li>
        ))}
      </ul>
      {plays.length > 0 && (
        <a className="mt-4 inline-flex items-center gap-1.5 text-[13px] text-tape hover:underline" href={`/api/boards/${board}/plays.csv`}>
          <Download size={14} /> Save as a table
        </a>
      )}
    </Dialog>
  )
}

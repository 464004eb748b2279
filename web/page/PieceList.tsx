import { useQueryClient } from '@tanstack/react-query'
import { memo, type MouseEvent } from 'react'
import { Link } from 'react-router'
import { toast } from 'sonner'
import type { PieceRow } from '../../contract/desk'
import { wordsLength } from '../../core/edits/actuality'
import { tradeLength } from '../../core/time'
import { patch } from '../api/client'
import { orSay } from '../api/orSay'
import { Button } from '../ui/parts'
import { useChosen } from '../ui/useChosen'
import { carry } from './lanes/carried'

interface PieceListProps {
  story: string
  rows: readonly PieceRow[]
  /** Those that are on the page. */
  used: readonly string[]
  /** Puts pieces on the page, in this order. */
  onAdd: (pieces: readonly string[]) => void
}

/** The pieces of a story: one, or several that are chosen, go on the page or to the archive. */
export const PieceList = memo(function PieceList({ story, rows: all, used: onPage, onAdd }: PieceListProps) {
  const queries = useQueryClient()
  const used = new Set(onPage)
  const rows = all.filter((row) => row.body.story === story && !row.aside)
  const chosen = useChosen(`pieces/${story}`, rows)
  if (!rows.length)
    return (
      <p className="py-3 text-faint">
        None yet. Open a tape under{' '}
        <Link to="/tapes" className="underline">
          Tapes
        </Link>{' '}
        and pull some.
      </p>
    )

  const archive = async (ids: readonly string[], aside: boolean) => {
    await Promise.all(ids.map((id) => patch(`/documents/${id}`, { aside })))
    await queries.invalidateQueries({ queryKey: ['pieces'] })
  }
  const archiveChosen = async () => {
    const ids = chosen.all.map(({ id }) => id)
    await archive(ids, true)
    chosen.choose(null)
    toast.success(`${count(ids.length)} archived.`, {
      duration: 10_000,
      action: { label: 'Restore', onClick: () => orSay(archive(ids, false)) },
    })
  }
  const free = chosen.all.filter(({ id }) => !used.has(id))
  const onClick = (id: string) => (event: MouseEvent) => {
    if (!event.ctrlKey && !event.metaKey && !event.shiftKey) return
    event.preventDefault()
    chosen.pressed(id, event)
  }
  return (
    <>
      <ul data-testid="pieces">
        {rows.map((row) => (
          <li
            key={row.id}
            className={`flex items-center gap-2 border-b border-rule py-2 ${chosen.is(row.id) ? 'bg-wash' : ''}`}
            draggable
            onDragStart={carry('piece', row.id)}
            onClick={onClick(row.id)}
          >
            <input
              type="checkbox"
              aria-label={`Choose ${row.body.slug || 'Untitled'}`}
              className="accent-[var(--tape)]"
              checked={chosen.is(row.id)}
              onClick={(event) => event.stopPropagation()}
              onChange={(event) =>
                (event.nativeEvent as unknown as MouseEvent).shiftKey ? chosen.chooseAsFarAs(row.id) : chosen.toggle(row.id)
              }
            />
            <Link to={`/pieces/${row.id}`} className="min-w-0 flex-1 truncate font-medium hover:underline">
              {row.body.slug || 'Untitled'}
            </Link>
            <span className="text-soft">{tradeLength(wordsLength(row.body))}</span>
            {used.has(row.id) ? (
              <span className="text-right text-[12px] text-faint">on the page</span>
            ) : (
              <button
                type="button"
                className="w-[34px] text-right text-[12px] text-tape hover:underline"
                aria-label={`add ${row.body.slug} to the page`}
                onClick={() => onAdd([row.id])}
              >
                add
              </button>
            )}
          </li>
        ))}
      </ul>
      {chosen.all.length > 0 && (
        <div className="flex flex-wrap items-center gap-1.5 py-2 text-[13px]" data-testid="chosen-pieces">
          <span role="status" className="w-full font-semibold">
            {count(chosen.all.length)} chosen
          </span>
          <Button
            disabled={!free.length}
            onClick={() => {
              onAdd(free.map(({ id }) => id))
              chosen.choose(null)
            }}
          >
            Add to the page
          </Button>
          <Button onClick={() => orSay(archiveChosen())}>Archive</Button>
          <Button look="bare" onClick={() => chosen.choose(null)}>
            Clear
          </Button>
        </div>
      )}
    </>
  )
})

const count = (n: number): string => (n === 1 ? '1 piece' : `${n} pieces`)

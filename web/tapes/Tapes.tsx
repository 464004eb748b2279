import { flexRender, getCoreRowModel, useReactTable, type SortingState } from '@tanstack/react-table'
import { useQueryClient } from '@tanstack/react-query'
import { useVirtualizer } from '@tanstack/react-virtual'
import { ArrowDown, ArrowUp, Columns3, MoreHorizontal } from 'lucide-react'
import { useCallback, useRef, useState, type MouseEvent } from 'react'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import type { LibraryRow, TapeOrder } from '../../contract/library'
import { patch, post, remove } from '../api/client'
import { orSay } from '../api/orSay'
import { useDesk } from '../api/queries'
import { useCommands } from '../commands/commands'
import { Button, Empty, Menu, MenuItem } from '../ui/parts'
import { SetAside } from '../shell/SetAside'
import { Crumb, Shell } from '../shell/Shell'
import { Cards } from './Cards'
import { ChosenTapes } from './ChosenTapes'
import { COLUMN_NAMES, COLUMNS, fitting, showColumn, size, useShown } from './columns'
import { FileTape } from './FileTape'
import { useWidth } from '../ui/useWidth'
import { narrowed } from '../library/filing'
import { Narrow } from './Narrow'
import { useChosenTapes } from './useChosenTapes'
import { useLibrary, useRows } from '../library/useLibrary'
import { CommandButton, CommandKey } from '../commands/CommandButton'

const ROW = 58
let lastSorting: SortingState = [{ id: 'day', desc: true }]

/** The library: all tapes, as one wants to see them. */
export function Tapes() {
  const desk = useDesk().data
  const { shown } = useShown()
  const [sorting, setSorting] = useState<SortingState>(lastSorting)
  lastSorting = sorting
  const library = useLibrary({ order: (sorting[0]?.id ?? 'added') as TapeOrder, descending: sorting[0]?.desc ?? true })
  const { facts, filter, setFilter, total, error } = library
  const [filing, setFiling] = useState<LibraryRow | null>(null)
  const storyName = useCallback((id: string) => desk?.stories.find((story) => story.id === id)?.slug ?? '', [desk])
  const scroller = useRef<HTMLDivElement>(null)
  const width = useWidth(scroller)
  const windowed = useVirtualizer({ count: total, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 8 })
  const inView = windowed.getVirtualItems()
  const { rowAt, said } = useRows(
    library,
    inView.map(({ index }) => index),
  )
  const there = inView.flatMap((place) => {
    const row = rowAt(place.index)
    return row ? [{ index: place.index, start: place.start, row }] : []
  })
  const table = useReactTable({
    data: there.map(({ row }) => row),
    columns: COLUMNS,
    state: { columnVisibility: fitting(shown, width), sorting },
    meta: { said, storyName },
    manualSorting: true,
    autoResetPageIndex: false,
    onSortingChange: setSorting,
    getRowId: (row) => row.id,
    getCoreRowModel: getCoreRowModel(),
  })
  const chosen = useChosenTapes(library.rowsBetween)
  const tapes = facts?.tapes ?? 0
  const grid = {
    gridTemplateColumns: `24px ${table
      .getVisibleLeafColumns()
      .map((column) => (column.id === 'name' ? 'minmax(200px, 1fr)' : `${column.getSize()}px`))
      .join(' ')} 40px`,
  }

  /** Ctrl or ⌘ chooses one more, Shift all as far as there. */
  const choosing = (event: MouseEvent, row: LibraryRow, place: number) => {
    if (!event.shiftKey && !event.ctrlKey && !event.metaKey) return
    event.preventDefault()
    event.stopPropagation()
    if (event.shiftKey) orSay(chosen.asFarAs(place))
    else chosen.toggle(row, place)
  }
  useCommands({
    'select.clear': { run: chosen.clear, title: 'Clear what is chosen', unable: chosen.rows.length ? null : 'No tape is chosen.' },
    'select.all': { run: () => orSay(chosen.all(total)), title: 'Choose all tapes in the list', unable: total ? null : 'No tapes match.' },
  })
  return (
    <Shell
      path={
        <>
          <Crumb to="/">Desk</Crumb>
          <Crumb>Tapes</Crumb>
        </>
      }
    >
      <div className="flex min-h-0 flex-1 flex-col px-10 pt-7 max-[1180px]:px-6">
        <div className="mb-4 flex flex-wrap items-center gap-3">
          <h1 className="flex-1 font-serif text-[28px] font-semibold">Tapes</h1>
          <span className="text-[13px] text-faint">
            {tapes > 0 &&
              `${total === tapes ? '' : `${total} of `}${tapes} ${tapes === 1 ? 'tape' : 'tapes'}, ${size(facts!.disk)} on disk`}
          </span>
          <Menu
            label="Columns"
            trigger={
              <Button look="bare" className="px-2">
                <Columns3 size={16} />
              </Button>
            }
          >
            {table
              .getAllLeafColumns()
              .filter((column) => column.getCanHide())
              .map((column) => (
                <MenuItem key={column.id} onSelect={() => showColumn(column.id, shown[column.id] === false)}>
                  <span className="w-4">{shown[column.id] !== false ? '✓' : ''}</span>
                  {COLUMN_NAMES[column.id]}
                </MenuItem>
              ))}
          </Menu>
          <CommandButton id="go.record">Record</CommandButton>
          <CommandButton id="new.tape" look="strong">
            Import
          </CommandButton>
        </div>
        <Cards />
        {error && <Empty title="Can’t reach the server; trying again.">Your tapes are safe. This list fills as soon as it is back.</Empty>}
        {facts && tapes === 0 && (
          <Empty title="No tape yet.">
            Drop a file, or a whole folder, from your recorder or phone anywhere on this window, or choose one with{' '}
            <CommandKey id="new.tape" />. WAV, MP3, FLAC, M4A, Ogg and most others will do.
          </Empty>
        )}
        {tapes > 0 && <Narrow facts={facts!} filter={filter} onFilter={setFilter} storyName={storyName} />}
        <ChosenTapes rows={chosen.rows} stories={desk?.stories ?? []} onClear={chosen.clear} />
        <div ref={scroller} className="-mx-2 min-h-0 flex-1 overflow-auto px-2 pb-10" tabIndex={0} role="region" aria-label="List of tapes">
          {tapes > 0 && (
            <div role="table" aria-label="Tapes" aria-rowcount={total + 1} data-testid="tapes" className="min-w-fit">
              <div role="row" className="sticky top-0 z-10 grid gap-x-4 border-b border-rule bg-paper text-[12px] text-faint" style={grid}>
                <span role="columnheader">
                  <span className="sr-only">Chosen</span>
                </span>
                {table.getHeaderGroups()[0].headers.map((header) => {
                  const sort = header.column.getIsSorted()
                  return (
                    <div
                      key={header.id}
                      role="columnheader"
                      aria-sort={sort === 'asc' ? 'ascending' : sort === 'desc' ? 'descending' : 'none'}
                      className={right(header.column.columnDef.meta) ? 'text-right' : ''}
                    >
                      <button
                        type="button"
                        className="inline-flex items-center gap-1 py-2 font-semibold hover:text-ink"
                        onClick={header.column.getToggleSortingHandler()}
                      >
                        {flexRender(header.column.columnDef.header, header.getContext())}
                        {sort === 'asc' ? <ArrowUp size={12} /> : sort === 'desc' ? <ArrowDown size={12} /> : null}
                      </button>
                    </div>
                  )
                })}
                <span role="columnheader">
                  <span className="sr-only">More</span>
                </span>
              </div>
              <div role="rowgroup" className="relative" style={{ height: windowed.getTotalSize() }}>
                {there.map(({ index, start }, i) => {
                  const row = table.getRowModel().rows[i]
                  return (
                    <div
                      key={row.id}
                      role="row"
                      aria-rowindex={index + 2}
                      aria-selected={chosen.is(row.id)}
                      className={`absolute right-0 left-0 grid items-center gap-x-4 border-b border-rule
                        ${chosen.is(row.id) ? 'bg-wash' : 'hover:bg-paper-lit'}`}
                      style={{ ...grid, height: ROW, transform: `translateY(${start}px)` }}
                      onClickCapture={(event) => choosing(event, row.original, index)}
                    >
                      <div role="cell">
                        <input
                          type="checkbox"
                          aria-label={`Choose ${row.original.name}`}
                          className="accent-[var(--tape)]"
                          checked={chosen.is(row.id)}
                          onChange={() => chosen.toggle(row.original, index)}
                        />
                      </div>
                      {row.getVisibleCells().map((cell) => (
                        <div key={cell.id} role="cell" className={`min-w-0 ${right(cell.column.columnDef.meta) ? 'text-right' : ''}`}>
                          {flexRender(cell.column.columnDef.cell, cell.getContext())}
                        </div>
                      ))}
                      <div role="cell" className="text-right">
                        <More row={row.original} onFile={() => setTimeout(() => setFiling(row.original))} />
                      </div>
                    </div>
                  )
                })}
              </div>
              {narrowed(filter) && library.first?.total === 0 && (
                <Empty title="No tapes match.">Take something away from what it is narrowed down by, or show all.</Empty>
              )}
            </div>
          )}
          <SetAside rows={facts?.archived ?? []} />
          <Deleted rows={facts?.deleted ?? []} />
        </div>
      </div>
      {filing && <FileTape tape={filing} stories={desk?.stories ?? []} onClose={() => setFiling(null)} />}
    </Shell>
  )
}

const right = (meta: unknown): boolean => Boolean((meta as { right?: boolean } | undefined)?.right)

function More({ row, onFile }: { row: LibraryRow; onFile: () => void }) {
  const navigate = useNavigate()
  const queries = useQueryClient()
  const fresh = () => void queries.invalidateQueries({ queryKey: ['tapes'] })
  const drop = async () => {
    try {
      await remove(`/library/tapes/${row.id}`)
      fresh()
      toast.success(`“${row.name}” is deleted. It can be restored for 30 days.`, {
        duration: 10_000,
        action: { label: 'Restore', onClick: () => orSay(post(`/library/tapes/${row.id}/back`, {}).then(fresh)) },
      })
    } catch (problem) {
      toast.error((problem as Error).message, { duration: 10_000 })
    }
  }
  return (
    <Menu
      label={`More for ${row.name}`}
      trigger={
        <Button look="bare" className="px-2">
          <MoreHorizontal size={16} />
        </Button>
      }
    >
      <MenuItem onSelect={() => void navigate(`/tapes/${row.id}`)}>Open</MenuItem>
      <MenuItem onSelect={onFile}>Rename, tag, put in a story …</MenuItem>
      <MenuItem onSelect={() => orSay(patch(`/documents/${row.id}`, { aside: true }).then(fresh))}>Archive</MenuItem>
      <MenuItem onSelect={() => void drop()}>Delete</MenuItem>
    </Menu>
  )
}

function Deleted({ rows }: { rows: readonly { id: string; name: string }[] }) {
  const queries = useQueryClient()
  if (!rows.length) return null
  return (
    <details className="mt-4">
      <summary className="cursor-pointer text-faint">Deleted, and kept for 30 days: {rows.length}</summary>
      <ul>
        {rows.map(({ id, name }) => (
          <li key={id} className="flex items-center gap-3 border-b border-rule py-2">
            <span className="flex-1 text-soft">{name}</span>
            <Button
              look="bare"
              onClick={() => orSay(post(`/library/tapes/${id}/back`, {}).then(() => queries.invalidateQueries({ queryKey: ['tapes'] })))}
            >
              Restore
            </Button>
          </li>
        ))}
      </ul>
    </details>
  )
}

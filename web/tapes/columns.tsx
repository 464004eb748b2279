import { createColumnHelper, type RowData, type VisibilityState } from '@tanstack/react-table'
import { format, parseISO } from 'date-fns'
import { Link } from 'react-router'
import { create } from 'zustand'
import { STATES, type LibraryRow, type Said } from '../../contract/library'
import { clock } from '../../core/time'
import { Progress } from '../ui/parts'
import { dayOf, speakersOf, stateOf, STATE_NAMES } from '../library/filing'

/** The columns that a list of tapes may have. The first always shows. */

declare module '@tanstack/react-table' {
  // eslint-disable-next-line no-unused-vars
  interface TableMeta<TData extends RowData> {
    said: ReadonlyMap<string, Said>
    storyName: (id: string) => string
  }
}

const column = createColumnHelper<LibraryRow>()
export const size = (bytes: number): string =>
  bytes < 1e9 ? `${Math.max(1, Math.round(bytes / 1e6))} MB` : `${(bytes / 1e9).toFixed(1)} GB`

export const COLUMNS = [
  column.accessor('name', {
    header: 'Tape',
    size: 280,
    enableHiding: false,
    cell: ({ row: { original: tape }, table }) => {
      const said = table.options.meta?.said.get(tape.id)
      return (
        <>
          <Link
            to={`/tapes/${tape.id}${said ? `?at=${said.at}` : ''}`}
            className="block truncate font-serif text-[17px] font-medium hover:underline"
          >
            {tape.name}
          </Link>
          {said ? (
            <span className="block truncate font-serif text-[13px] text-soft italic">“{said.text}”</span>
          ) : (
            <span className="block truncate text-[12px] text-faint">{tape.fileName}</span>
          )}
        </>
      )
    },
  }),
  column.accessor((row) => speakersOf(row).join(', '), {
    id: 'who',
    header: 'Speaker',
    size: 150,
    cell: ({ getValue }) => (
      <span className="block truncate text-soft" title={getValue()}>
        {getValue()}
      </span>
    ),
  }),
  column.accessor('frames', {
    id: 'length',
    header: 'Length',
    size: 92,
    meta: { right: true },
    cell: ({ row: { original: tape } }) =>
      tape.state === 'arriving' ? (
        <span className="flex flex-col items-end gap-1 text-[12px] text-faint">
          importing
          <Progress value={tape.progress} label={`${tape.name} arriving`} />
        </span>
      ) : (
        <span className="font-semibold">{clock(tape.frames)}</span>
      ),
  }),
  column.accessor((row) => STATES.indexOf(stateOf(row)), {
    id: 'state',
    header: 'Status',
    size: 124,
    cell: ({ row: { original: tape } }) => {
      const state = stateOf(tape)
      return (
        <span className="flex items-center gap-1.5 whitespace-nowrap text-soft">
          {state === 'new' && <span className="size-1.5 rounded-full bg-cut" aria-hidden />}
          {state === 'used'
            ? `in ${tape.uses} ${tape.uses === 1 ? 'piece' : 'pieces'}`
            : state === 'logged'
              ? `${tape.marks} ${tape.marks === 1 ? 'mark' : 'marks'}`
              : STATE_NAMES[state]}
        </span>
      )
    },
  }),
  column.accessor((row) => row.tags.join(', '), {
    id: 'tags',
    header: 'Tags',
    size: 130,
    cell: ({ row: { original: tape } }) => (
      <span className="flex flex-wrap gap-1">
        {tape.tags.map((tag) => (
          <span key={tag} className="rounded bg-wash px-1.5 py-0.5 text-[12px]">
            {tag}
          </span>
        ))}
      </span>
    ),
  }),
  column.accessor(dayOf, {
    id: 'day',
    header: 'Recorded',
    size: 100,
    cell: ({ getValue, row: { original: tape } }) => (
      <span
        className={`whitespace-nowrap ${tape.day ? 'text-soft' : 'text-faint'}`}
        title={tape.day ? undefined : 'The recording date is unknown; this is when it was imported.'}
      >
        {format(parseISO(getValue()), 'd MMM yyyy')}
      </span>
    ),
  }),
  column.accessor('added', {
    header: 'Added',
    size: 110,
    cell: ({ getValue }) => <span className="whitespace-nowrap text-soft">{format(new Date(getValue()), 'd MMM, HH:mm')}</span>,
  }),
  column.accessor((row) => new Set([...row.stories, ...row.usedIn]).size, {
    id: 'stories',
    header: 'Story',
    size: 140,
    cell: ({ row: { original: tape }, table }) => (
      <span className="block truncate text-soft">
        {[...new Set([...tape.stories, ...tape.usedIn])]
          .map((id) => table.options.meta?.storyName(id))
          .filter(Boolean)
          .join(', ')}
      </span>
    ),
  }),
  column.accessor('hasWords', {
    id: 'words',
    header: 'Transcript',
    size: 70,
    cell: ({ getValue }) => <span className="text-soft">{getValue() ? 'yes' : 'none'}</span>,
  }),
  column.accessor('disk', {
    header: 'On disk',
    size: 84,
    meta: { right: true },
    cell: ({ getValue }) => <span className="text-soft">{getValue() ? size(getValue()) : ''}</span>,
  }),
]

export const COLUMN_NAMES: Record<string, string> = {
  who: 'Speaker',
  length: 'Length',
  state: 'Status',
  tags: 'Tags',
  day: 'Recorded',
  added: 'Added',
  stories: 'Story',
  words: 'Transcript',
  disk: 'On disk',
}
const AT_FIRST: VisibilityState = { added: false, words: false, disk: false, stories: false }

/** Which columns show: a person's own choice, kept. */
export const useShown = create<{ shown: VisibilityState }>(() => ({
  shown: localStorage.tapeColumns ? (JSON.parse(localStorage.tapeColumns as string) as VisibilityState) : AT_FIRST,
}))
export function showColumn(id: string, on: boolean): void {
  const shown = { ...useShown.getState().shown, [id]: on }
  localStorage.tapeColumns = JSON.stringify(shown)
  useShown.setState({ shown })
}

/** What a narrow window does without, the first first. */
const SPARED = ['disk', 'words', 'added', 'stories', 'day', 'tags', 'state', 'who']
const NAME_WIDTH = 200
const GAP = 16
const CHECK_WIDTH = 24 + GAP
const MENU_WIDTH = 40

/** The columns that were chosen, as far as there is room for them. */
export function fitting(shown: VisibilityState, width: number): VisibilityState {
  const now = { ...shown }
  const sizes = new Map(COLUMNS.flatMap((one) => (one.id ? [[one.id, (one.size ?? 100) + GAP] as const] : [])))
  const needed = () =>
    CHECK_WIDTH + NAME_WIDTH + GAP + MENU_WIDTH + [...sizes].reduce((sum, [id, size]) => sum + (now[id] === false ? 0 : size), 0)
  for (const id of SPARED) {
    if (needed() <= width) break
    now[id] = false
  }
  return now
}

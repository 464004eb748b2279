import { ChevronDown, Search, X } from 'lucide-react'
import type { ReactNode } from 'react'
import { toast } from 'sonner'
import { useQueryClient } from '@tanstack/react-query'
import { STATES, type Filter, type LibraryFacts } from '../../contract/library'
import { minuteSecond } from '../../core/time'
import { parseLength } from '../../core/typed'
import { put, remove } from '../api/client'
import { useOnce } from '../api/useOnce'
import { FigureInput } from '../ui/FigureInput'
import { Button, Menu, MenuItem } from '../ui/parts'
import { ANYTHING, narrowed, STATE_NAMES } from '../library/filing'
import { useSearches } from '../library/useLibrary'

interface Props {
  facts: LibraryFacts
  filter: Filter
  onFilter: (filter: Filter) => void
  storyName: (id: string) => string
}

/** What a list of tapes is narrowed down by: one line to type in, and a few choices beside it. */
export function Narrow({ facts, filter, onFilter, storyName }: Props) {
  const queries = useQueryClient()
  const searches = useSearches().data ?? []
  const set = (fields: Partial<Filter>) => onFilter({ ...filter, ...fields })
  const keep = useOnce(async () => {
    const name =
      filter.text.trim() ||
      [filter.tag, filter.speaker, filter.state && STATE_NAMES[filter.state as keyof typeof STATE_NAMES]].filter(Boolean).join(', ') ||
      'Search'
    await put(`/library/searches/${crypto.randomUUID()}`, { name: name.slice(0, 100), filter })
    void queries.invalidateQueries({ queryKey: ['searches'] })
    toast.success(`Saved as “${name}”.`)
  })
  const forget = useOnce(async (id: string) => {
    await remove(`/library/searches/${id}`)
    void queries.invalidateQueries({ queryKey: ['searches'] })
  })
  return (
    <div className="mb-4 flex flex-col gap-2.5">
      <div className="flex flex-wrap items-center gap-2">
        <label className="relative min-w-64 flex-1">
          <Search size={15} className="absolute top-2.5 left-3 text-faint" aria-hidden />
          <input
            type="search"
            aria-label="Find tapes"
            value={filter.text}
            onChange={(event) => set({ text: event.target.value })}
            placeholder="A name, a tag, or words that were said"
            className="h-9 w-full rounded-md border border-rule bg-paper-lit pr-3 pl-9 text-[14px] focus:border-tape focus:outline-none"
          />
        </label>
        <Pick
          name="Status"
          value={filter.state && STATE_NAMES[filter.state as keyof typeof STATE_NAMES]}
          onClear={() => set({ state: '' })}
        >
          {STATES.map((state) => (
            <MenuItem key={state} onSelect={() => set({ state })}>
              {STATE_NAMES[state]}
            </MenuItem>
          ))}
        </Pick>
        <Pick name="Speaker" value={filter.speaker} onClear={() => set({ speaker: '' })}>
          {facts.speakers.map((speaker) => (
            <MenuItem key={speaker} onSelect={() => set({ speaker })}>
              {speaker}
            </MenuItem>
          ))}
        </Pick>
        <Pick name="Tag" value={filter.tag} onClear={() => set({ tag: '' })}>
          {facts.tags.map((tag) => (
            <MenuItem key={tag} onSelect={() => set({ tag })}>
              {tag}
            </MenuItem>
          ))}
        </Pick>
        <Pick name="Story" value={filter.story ? storyName(filter.story) : ''} onClear={() => set({ story: null })}>
          {facts.stories.map((story) => (
            <MenuItem key={story} onSelect={() => set({ story })}>
              {storyName(story)}
            </MenuItem>
          ))}
        </Pick>
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 text-[13px] text-soft">
        <span className="flex items-center gap-1.5">
          Recorded <Day label="From" value={filter.from} onChange={(from) => set({ from })} /> to{' '}
          <Day label="To" value={filter.to} onChange={(to) => set({ to })} />
        </span>
        <span className="flex items-center gap-1.5">
          Length <Time label="At least" value={filter.shortest} onChange={(shortest) => set({ shortest })} /> to{' '}
          <Time label="At most" value={filter.longest} onChange={(longest) => set({ longest })} />
        </span>
        <span className="flex-1" />
        {narrowed(filter) && (
          <>
            <button type="button" className="text-tape hover:underline" onClick={keep.run}>
              Save search
            </button>
            <button type="button" className="text-tape hover:underline" onClick={() => onFilter(ANYTHING)}>
              Show all
            </button>
          </>
        )}
        {searches.length > 0 && (
          <Menu
            label="Saved searches"
            trigger={
              <Button look="bare" className="h-7 px-2">
                Saved searches <ChevronDown size={13} />
              </Button>
            }
          >
            {searches.map((search) => (
              <div key={search.id} className="flex items-center">
                <span className="flex-1">
                  <MenuItem onSelect={() => onFilter(search.filter)}>{search.name}</MenuItem>
                </span>
                <button
                  type="button"
                  aria-label={`Delete “${search.name}”`}
                  className="px-2 text-faint hover:text-cut-ink"
                  onClick={() => forget.run(search.id)}
                >
                  <X size={13} />
                </button>
              </div>
            ))}
          </Menu>
        )}
      </div>
    </div>
  )
}

function Pick({ name, value, onClear, children }: { name: string; value: string; onClear: () => void; children: ReactNode }) {
  return (
    <span className="flex items-center">
      <Menu
        label={value ? `${name}: ${value}` : name}
        trigger={
          <Button className={`h-9 ${value ? 'rounded-r-none border-tape text-tape' : ''}`}>
            <span className="max-w-36 truncate">{value || name}</span> <ChevronDown size={13} />
          </Button>
        }
      >
        {children}
      </Menu>
      {value && (
        <button
          type="button"
          aria-label={`Any ${name.toLowerCase()}`}
          className="flex h-9 items-center rounded-r-md border border-l-0 border-tape px-1.5 text-tape"
          onClick={onClear}
        >
          <X size={13} />
        </button>
      )}
    </span>
  )
}

const field = 'h-7 rounded border border-rule bg-paper-lit px-1.5 text-[13px] text-ink focus:border-tape focus:outline-none'

function Day({ label, value, onChange }: { label: string; value: string; onChange: (value: string) => void }) {
  return (
    <input
      type="date"
      aria-label={`${label} day`}
      value={value}
      className={`${field} w-[122px]`}
      onChange={(event) => onChange(event.target.value)}
    />
  )
}

function Time({ label, value, onChange }: { label: string; value: number | null; onChange: (value: number | null) => void }) {
  return (
    <FigureInput
      label={`${label} length`}
      value={value === null ? '' : minuteSecond(value)}
      read={parseLength}
      noun="length"
      hint="3:30 or 210"
      placeholder="m:ss"
      className="h-7 w-14 border-rule bg-paper-lit px-1.5 text-right text-[13px]"
      onKeep={onChange}
      onEmpty={() => onChange(null)}
    />
  )
}

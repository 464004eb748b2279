import { lazy, Suspense, useState } from 'react'
import { useQueryClient } from '@tanstack/react-query'
import { toast } from 'sonner'
import type { StoryRow } from '../../contract/desk'
import type { LibraryRow } from '../../contract/library'
import { tapeHead } from '../../core/tape/tape'
import { patch, post, remove } from '../api/client'
import { useOnce } from '../api/useOnce'
import { liveDocument } from '../documents/useDocument'
import { Button, Menu, MenuItem } from '../ui/parts'

const TidySeveral = lazy(async () => ({ default: (await import('../tidy/TidySeveral')).TidySeveral }))

const count = (n: number): string => (n === 1 ? '1 tape' : `${n} tapes`)
/** All of them are open while they are tidied. */
const MOST_TIDIED = 20
/** An act is under way; the list shows it once the server has it. */
const UNDER_WAY_MS = 300

/** What can be done with the tapes that are chosen, as one, and undone as one. */
export function ChosenTapes({
  rows,
  stories,
  onClear,
}: {
  rows: readonly LibraryRow[]
  stories: readonly StoryRow[]
  onClear: () => void
}) {
  const queries = useQueryClient()
  const [tidying, setTidying] = useState(false)
  const fresh = () => void setTimeout(() => void queries.invalidateQueries({ queryKey: ['tapes'] }), UNDER_WAY_MS)
  const ids = rows.map(({ id }) => id)

  /** Does something to each, and offers to undo it for all of them. */
  const acting = useOnce(async (says: string, each: (id: string) => Promise<unknown>, back: (id: string) => Promise<unknown>) => {
    await Promise.all(ids.map(each))
    fresh()
    onClear()
    toast.success(`${count(ids.length)} ${says}.`, {
      duration: 10_000,
      action: { label: 'Undo', onClick: () => void Promise.all(ids.map(back)).then(fresh, (error: Error) => toast.error(error.message)) },
    })
  })
  /** Adds something to a list that a tape's record has, where it is not in it yet. */
  const adding = (key: 'tags' | 'stories', value: string, says: string) => {
    const had = new Set<string>()
    const set = async (id: string, change: (list: string[]) => string[]) => {
      const live = await liveDocument(id, 'tape')
      const list = tapeHead(live.body)[key]
      const next = change(list)
      if (next.length !== list.length) live.act([{ type: 'set', id: 'tape', key, value: next }], { label: says })
    }
    const add = (id: string) =>
      set(id, (list) => {
        if (list.includes(value)) had.add(id)
        return list.includes(value) ? list : [...list, value]
      })
    acting.run(says, add, (id) => (had.has(id) ? Promise.resolve() : set(id, (list) => list.filter((one) => one !== value))))
  }
  const setAside = (id: string, aside: boolean) => patch(`/documents/${id}`, { aside })

  if (!rows.length) return null
  return (
    <div className="mb-2 flex flex-wrap items-center gap-2 rounded-lg bg-wash px-3 py-1.5 text-[13px]" data-testid="chosen-tapes">
      <span role="status" className="font-semibold">
        {count(rows.length)} chosen
      </span>
      <form
        className="flex items-center"
        onSubmit={(event) => {
          event.preventDefault()
          const tag = String(new FormData(event.currentTarget).get('tag') ?? '')
            .trim()
            .slice(0, 60)
          if (tag) adding('tags', tag, `tagged “${tag}”`)
        }}
      >
        <input
          name="tag"
          aria-label="Tag for the chosen tapes"
          placeholder="tag"
          className="h-8 w-28 rounded-l-md border border-rule bg-paper-lit px-2 focus:border-tape focus:outline-none"
        />
        <Button type="submit" disabled={acting.busy} className="rounded-l-none border-l-0">
          Add tag
        </Button>
      </form>
      <Menu label="Put in a story" trigger={<Button disabled={acting.busy}>Put in a story …</Button>}>
        {stories
          .filter(({ aside }) => !aside)
          .map(({ id, slug }) => (
            <MenuItem key={id} onSelect={() => adding('stories', id, `put in “${slug || 'Untitled'}”`)}>
              {slug || 'Untitled'}
            </MenuItem>
          ))}
      </Menu>
      <Button disabled={acting.busy || rows.length > MOST_TIDIED} onClick={() => setTidying(true)}>
        Tidy …
      </Button>
      <Button
        disabled={acting.busy}
        onClick={() =>
          acting.run(
            'archived',
            (id) => setAside(id, true),
            (id) => setAside(id, false),
          )
        }
      >
        Archive
      </Button>
      <Button
        disabled={acting.busy}
        onClick={() =>
          acting.run(
            'deleted, and kept for 30 days',
            (id) => remove(`/library/tapes/${id}`),
            (id) => post(`/library/tapes/${id}/back`, {}),
          )
        }
      >
        Delete
      </Button>
      <Suspense>{tidying && <TidySeveral kind="tape" all={rows} onClose={() => setTidying(false)} />}</Suspense>
      <span className="flex-1" />
      <Button look="bare" onClick={onClear}>
        Clear
      </Button>
    </div>
  )
}

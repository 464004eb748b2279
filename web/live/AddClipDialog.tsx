import { useState } from 'react'
import { clipLength } from '../../core/edits/actuality'
import { useAllPieces } from '../api/queries'
import { Dialog, Field } from '../ui/parts'
import { short } from './timeLeft'

/** Chooses a piece for a key: the newest first, narrowed down by what is typed; ↵ takes the first. */
export function AddClipDialog({
  keyName,
  taken,
  onPick,
  onClose,
}: {
  keyName: string
  taken: ReadonlySet<string>
  onPick: (piece: string) => void
  onClose: () => void
}) {
  const [typed, setTyped] = useState('')
  const wanted = typed.trim().toLocaleLowerCase()
  const rows = (useAllPieces().data ?? [])
    .filter(({ id, aside, body }) => !aside && !taken.has(id) && `${body.slug} ${body.speaker}`.toLocaleLowerCase().includes(wanted))
    .sort((a, b) => (a.changed < b.changed ? 1 : -1))
    .slice(0, 60)
  return (
    <Dialog open title={`A piece for key ${keyName}`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          if (rows[0]) onPick(rows[0].id)
        }}
      >
        <Field label="Slug or name" value={typed} autoFocus onChange={(event) => setTyped(event.target.value)} />
      </form>
      <ul className="mt-3">
        {rows.map(({ id, body }, i) => (
          <li key={id}>
            <button
              type="button"
              className={`flex w-full items-baseline gap-3 border-b border-rule px-2 py-2 text-left hover:bg-paper-low
                ${i === 0 && wanted ? 'bg-wash' : ''}`}
              onClick={() => onPick(id)}
            >
              <span className="min-w-0 flex-1 truncate font-medium">{body.slug || 'Untitled'}</span>
              <span className="shrink-0 text-[13px] text-faint">{body.speaker}</span>
              <span className="shrink-0 text-[13px]">{short(clipLength(body))}</span>
            </button>
          </li>
        ))}
      </ul>
      {rows.length === 0 && <p className="py-4 text-soft">No piece of that name.</p>}
    </Dialog>
  )
}

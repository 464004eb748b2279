import { patch } from '../api/client'
import { orSay } from '../api/orSay'
import { Button } from '../ui/parts'

/** What is archived, folded away, with the way back. */
export function SetAside({ rows }: { rows: readonly { id: string; name: string }[] }) {
  if (!rows.length) return null
  return (
    <details className="mt-8">
      <summary className="cursor-pointer text-faint">Archived: {rows.length}</summary>
      <ul>
        {rows.map(({ id, name }) => (
          <li key={id} className="flex items-center gap-3 border-b border-rule py-2">
            <span className="flex-1 text-soft">{name || 'Untitled'}</span>
            <Button look="bare" onClick={() => orSay(patch(`/documents/${id}`, { aside: false }))}>
              Restore
            </Button>
          </li>
        ))}
      </ul>
    </details>
  )
}

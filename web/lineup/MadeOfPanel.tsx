import { useQueryClient } from '@tanstack/react-query'
import { Link } from 'react-router'
import { toast } from 'sonner'
import { post } from '../api/client'
import { useAllPieces } from '../api/queries'
import { useOnce } from '../api/useOnce'
import { author } from '../documents/waiting'
import { useMadeOf } from './useLineUp'

/** What a joined tape was made of, and pieces of those tapes that can be moved over to it. */
export function MadeOfPanel({ tape }: { tape: string }) {
  const sources = useMadeOf(tape)
  const pieces = useAllPieces().data ?? []
  const queries = useQueryClient()
  const move = useOnce(async (piece: string, slug: string) => {
    await post(`/lineups/of/${tape}/move`, { piece, author })
    toast.success(`“${slug}” now uses this tape. Undo on its Bench reverts that.`)
    await queries.invalidateQueries({ queryKey: ['pieces'] })
  })
  if (!sources?.length) return null
  const of = new Set(sources.map((source) => source.tape))
  const movable = pieces.filter((piece) => !piece.aside && piece.body.spans.some((span) => of.has(span.tape)))
  return (
    <div className="py-1.5 text-[13px]">
      <p className="text-faint">Lined up of</p>
      <ul>
        {sources.map((source) => (
          <li key={source.tape} className="py-0.5">
            <Link className="hover:underline" to={`/tapes/${source.tape}`}>
              {source.name}
            </Link>
            {!source.used && <span className="text-faint">, not used</span>}
          </li>
        ))}
      </ul>
      {movable.length > 0 && (
        <>
          <p className="pt-2 text-faint">Pieces of these, not yet cut from here</p>
          <ul>
            {movable.map(({ id, body }) => (
              <li key={id} className="flex items-baseline gap-2 py-0.5">
                <span className="min-w-0 flex-1 truncate">{body.slug || 'Untitled'}</span>
                <button type="button" className="shrink-0 text-tape hover:underline" onClick={() => move.run(id, body.slug)}>
                  Move over
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}

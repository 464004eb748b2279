import { useState } from 'react'
import type { StoredDocument } from '../../../contract/documents'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { actualityType, clipLength, type Actuality } from '../../../core/edits/actuality'
import { tapesOf } from '../../../core/edits/editList'
import { appended } from '../../../core/edits/order'
import { withSides } from '../../../core/render/plan'
import { applyAll } from '../../../core/steps/document'
import { tradeLength } from '../../../core/time'
import { get, put } from '../../api/client'
import { useFacts, useStoryPieces } from '../../api/queries'
import { useOnce } from '../../api/useOnce'
import { Button, Dialog } from '../../ui/parts'
import { withPlacedJoins } from '../../joins/placedJoins'

/** Several pieces become one, in the order in which they were ticked. The pieces themselves stay as they are. */
export function JoinOnDialog({ id, piece, onClose }: { id: string; piece: Actuality; onClose: () => void }) {
  const navigate = useNavigate()
  const rows = (useStoryPieces(piece.story).data ?? []).filter((row) => row.id !== id && row.body.story === piece.story)
  const [ticked, setTicked] = useState<readonly string[]>([])
  const all = [piece, ...ticked.flatMap((one) => rows.filter((row) => row.id === one).map(({ body }) => body))]
  const facts = useFacts(tapesOf(all.flatMap(({ spans }) => spans)))

  const join = useOnce(async () => {
    if (!facts) return
    // with what is kept beside them, which lists do without
    const whole = await Promise.all(ticked.map(async (other) => (await get<StoredDocument<'actuality'>>(`/documents/${other}`)).body))
    const { piece: one, meet } = appended([piece, ...whole])
    const factsOf = withSides(facts.factsOf, one)
    const made = crypto.randomUUID()
    const body = applyAll(actualityType, one, await withPlacedJoins(one, [], meet, factsOf, facts.wordsOf))
    await put(`/documents/${made}`, { ...body, slug: `${piece.slug || 'Untitled'}, joined` })
    void navigate(`/pieces/${made}`)
    onClose()
    toast.success(`${all.length} pieces appended. The originals are unchanged.`)
  })
  return (
    <Dialog title="Append pieces" open onClose={onClose} describe="They follow this piece in the order in which you choose them.">
      {rows.length === 0 && (
        <p className="py-2 text-faint">{piece.story ? 'This story has no other pieces.' : 'There are no other pieces without a story.'}</p>
      )}
      <ul className="mb-4" data-testid="others">
        {rows.map((row) => {
          const at = ticked.indexOf(row.id)
          return (
            <li key={row.id} className="border-b border-rule">
              <label className="flex cursor-pointer items-center gap-3 py-2">
                <input
                  type="checkbox"
                  className="size-4 accent-tape"
                  checked={at >= 0}
                  onChange={() => setTicked(at >= 0 ? ticked.filter((one) => one !== row.id) : [...ticked, row.id])}
                />
                <span className="min-w-0 flex-1 truncate">{row.body.slug || 'Untitled'}</span>
                {at >= 0 && <span className="text-[13px] font-semibold text-tape">{at + 2}</span>}
                <span className="text-[13px] text-faint">{tradeLength(clipLength(row.body))}</span>
              </label>
            </li>
          )
        })}
      </ul>
      <Button look="strong" disabled={!ticked.length || !facts || join.busy} onClick={join.run}>
        {ticked.length ? `Append ${all.length - 1} ${all.length === 2 ? 'piece' : 'pieces'}` : 'Choose pieces to append'}
      </Button>
    </Dialog>
  )
}

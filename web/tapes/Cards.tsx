import { useState } from 'react'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { format } from 'date-fns'
import { toast } from 'sonner'
import type { Card, CardFile } from '../../contract/cards'
import { get, post } from '../api/client'
import { useOnce } from '../api/useOnce'
import { Button, Dialog } from '../ui/parts'

export const useCards = () => useQuery({ queryKey: ['cards'], queryFn: () => get<Card[]>('/intake/cards') }).data ?? []

export const freshOf = (card: Card): CardFile[] => card.files.filter((file) => !file.tape)

/** Recorders' cards that are in: what is new on them is offered, and nothing is taken unasked. */
export function Cards() {
  const cards = useCards()
  const [looking, setLooking] = useState<string | null>(null)
  const card = cards.find(({ name }) => name === looking)
  return (
    <>
      {cards.map((one) => {
        const fresh = freshOf(one).length
        return (
          <div key={one.name} role="status" className="mb-4 flex items-center gap-3 rounded-lg border border-rule bg-paper-lit px-4 py-2.5">
            <span className="min-w-0 flex-1">
              The card <span className="font-semibold">{one.name}</span> is in:{' '}
              {fresh
                ? `${fresh} new ${fresh === 1 ? 'recording' : 'recordings'}`
                : one.files.length
                  ? 'all of it is here already'
                  : 'there is no sound on it'}
              .
            </span>
            {one.files.length > 0 && <Button onClick={() => setLooking(one.name)}>{fresh ? 'Choose what to take …' : 'Look'}</Button>}
          </div>
        )
      })}
      {card && <TakeFrom card={card} onClose={() => setLooking(null)} />}
    </>
  )
}

function TakeFrom({ card, onClose }: { card: Card; onClose: () => void }) {
  const queries = useQueryClient()
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(freshOf(card).map(({ path }) => path)))
  const paths = card.files.filter((file) => !file.tape && chosen.has(file.path)).map(({ path }) => path)
  const take = useOnce(async () => {
    await post('/intake/cards/take', { card: card.name, paths })
    toast.success(
      `${paths.length === 1 ? 'One recording is' : `${paths.length} recordings are`} being copied. Leave the card in until they are here.`,
    )
    void queries.invalidateQueries({ queryKey: ['tapes'] })
    onClose()
  })
  return (
    <Dialog open wide title={`On the card ${card.name}`} onClose={onClose}>
      <ul className="mb-4 border-t border-rule" aria-label="Recordings on the card">
        {card.files.map((file, i) => (
          <li key={file.path} className="border-b border-rule">
            <label className={`flex items-center gap-3 py-2 ${file.tape ? 'text-faint' : 'cursor-pointer hover:bg-paper-low'}`}>
              <input
                type="checkbox"
                className="accent-[var(--tape)]"
                disabled={file.tape !== null}
                checked={file.tape !== null || chosen.has(file.path)}
                onChange={({ target }) =>
                  setChosen((now) => new Set(target.checked ? [...now, file.path] : [...now].filter((path) => path !== file.path)))
                }
              />
              <span className="min-w-0 flex-1 truncate font-medium">{file.path}</span>
              {file.run !== null && card.files[i - 1]?.run === file.run && (
                <span className="text-[12px] text-faint">goes on from the one before</span>
              )}
              {file.tape && <span className="text-[12px]">here already</span>}
              <span className="text-[13px]">{format(new Date(file.modified), 'd MMM, HH:mm')}</span>
              <span className="w-20 text-right text-[13px]">{(file.bytes / 1e6).toFixed(1)} MB</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="flex items-center justify-end gap-3">
        <span className="flex-1 text-[13px] text-faint">Nothing on the card is changed.</span>
        <Button look="strong" disabled={!paths.length || take.busy} onClick={take.run}>
          Take {paths.length === 1 ? 'one' : paths.length}
        </Button>
      </div>
    </Dialog>
  )
}

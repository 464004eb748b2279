import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { WARNED_DAYS, type Going, type KeepRules } from '../../contract/keepRules'
import { clock } from '../../core/time'
import { get, post, put } from '../api/client'
import { orSay } from '../api/orSay'
import { Button, Dialog, Field } from '../ui/parts'

export const useGoing = () => useQuery({ queryKey: ['keepRules', 'going'], queryFn: () => get<Going[]>('/keepRules/going') })
const useRules = () => useQuery({ queryKey: ['keepRules'], queryFn: () => get<KeepRules>('/keepRules') })

const day = (at: string): string => new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
const typedDays = (typed: string): number | null | 'wrong' => {
  if (!typed.trim()) return null
  const days = Number(typed)
  return Number.isInteger(days) && days >= 7 && days <= 36_500 ? days : 'wrong'
}

/** How long recordings and story files are kept, and which will go by that, while they can still be spared. */
export function KeepRulesDialog({ onClose }: { onClose: () => void }) {
  const rules = useRules().data
  return (
    <Dialog open title="What is kept how long" onClose={onClose}>
      {rules && <Rules key={JSON.stringify(rules)} rules={rules} />}
      <GoingTapes />
    </Dialog>
  )
}

function Rules({ rules }: { rules: KeepRules }) {
  const [tapes, setTapes] = useState(String(rules.unusedTapes ?? ''))
  const [files, setFiles] = useState(String(rules.storyFiles ?? ''))
  const [unusedTapes, storyFiles] = [typedDays(tapes), typedDays(files)]
  const wrong = unusedTapes === 'wrong' || storyFiles === 'wrong'
  const keeping = useMutation({ mutationFn: () => put<KeepRules>('/keepRules', { unusedTapes, storyFiles }) })
  const same = unusedTapes === rules.unusedTapes && storyFiles === rules.storyFiles
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        keeping.mutate()
      }}
    >
      <div className="grid grid-cols-2 gap-4">
        <Field
          label="Recordings that nothing uses, days"
          value={tapes}
          placeholder="for ever"
          onChange={(event) => setTapes(event.target.value)}
        />
        <Field
          label="Story files made here, days"
          value={files}
          placeholder="for ever"
          onChange={(event) => setFiles(event.target.value)}
        />
      </div>
      <p className="text-[13px] text-soft">
        What a piece or a page uses, and what is filed in a story on the Desk, is always kept. A recording is named here {WARNED_DAYS} days
        before it goes, and can be restored for 30 days after.
      </p>
      {(wrong || keeping.error) && (
        <p role="alert" className="text-[13px] text-cut-ink">
          {wrong ? 'A number of days, 7 at least, or nothing.' : keeping.error?.message}
        </p>
      )}
      <Button type="submit" look="strong" className="self-end" disabled={wrong || same || keeping.isPending}>
        Set
      </Button>
    </form>
  )
}

function GoingTapes() {
  const going = useGoing().data ?? []
  if (!going.length) return null
  const spare = (tapes: string[]) => orSay(post('/keepRules/spare', { tapes }))
  return (
    <section aria-label="Will go" className="mt-6">
      <h3 className="flex items-baseline justify-between border-b border-rule pb-1.5 text-[12px] font-semibold text-faint">
        Will go
        <Button look="bare" className="h-7" onClick={() => spare(going.map(({ id }) => id))}>
          Keep all of them
        </Button>
      </h3>
      <ul data-testid="going">
        {going.map(({ id, name, frames, goes }) => (
          <li key={id} className="flex items-center gap-3 border-b border-rule py-1.5 text-[13px]">
            <Link className="min-w-0 flex-1 truncate font-medium hover:underline" to={`/tapes/${id}`}>
              {name}
            </Link>
            <span className="text-faint">{clock(frames)}</span>
            <span>on {day(goes)}</span>
            <Button className="h-7" onClick={() => spare([id])}>
              Keep
            </Button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** Says on the Desk that some will go; nothing where none will. */
export function GoingNote({ onLook }: { onLook: () => void }) {
  const going = useGoing().data ?? []
  if (!going.length) return null
  return (
    <p role="status" className="mt-3 border-l-2 border-cut pl-3 text-[13px]">
      {going.length === 1 ? 'One recording that nothing uses goes' : `${going.length} recordings that nothing uses go`} from{' '}
      {day(going[0].goes)} on.{' '}
      <button type="button" className="text-tape hover:underline" onClick={onLook}>
        Look, and keep what you want
      </button>
    </p>
  )
}

import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { toast } from 'sonner'
import type { KeptTreatment } from '../../contract/keptTreatments'
import type { TapeInfo } from '../../contract/tapes'
import type { MendStep } from '../../core/mend/chain'
import { alike } from '../../core/mend/sameVoice'
import { get, put, remove } from '../api/client'
import { orSay } from '../api/orSay'
import { useOnce } from '../api/useOnce'
import { Button, Field, Menu, MenuItem } from '../ui/parts'
import { suited } from './elsewhere'
import type { Voice } from './steps'

interface Props {
  tape: TapeInfo
  side: number
  /** Whose voice it is, and how it is recorded here. */
  speaker: string
  voice: Voice
  /** What it is mended by, and what that is called; null: it is heard as recorded. */
  applied: { steps: readonly MendStep[]; name: string } | null
  /** Tries steps on this side. */
  onTry: (steps: readonly MendStep[]) => void
}

/** Treatments by names of their own: one is kept, and is offered where the same voice comes in again recorded alike. */
export function KeptTreatments({ tape, side, speaker, voice, applied, onTry }: Props) {
  const all = useQuery({ queryKey: ['treatments'], queryFn: () => get<KeptTreatment[]>('/treatments') }).data ?? []
  const [naming, setNaming] = useState<string | null>(null)
  const fits = (one: KeptTreatment) => speaker !== '' && one.speaker === speaker && alike(one.voice, voice)
  const offered = applied ? undefined : all.find(fits)
  const others = all.filter((one) => one !== offered)
  const use = useOnce(async (one: KeptTreatment) => onTry(await suited(one.steps, one.voice, { tape, side })))
  const keep = useOnce(async (name: string) => {
    const { speechLevel, floor, peak } = voice
    const steps = applied!.steps.filter(({ within }) => !within)
    await put(`/treatments/${encodeURIComponent(name)}`, { speaker, voice: { speechLevel, floor, peak }, steps })
    setNaming(null)
    toast.success(`Kept as “${name}”.`)
  })
  return (
    <>
      {offered && (
        <p className="flex items-baseline gap-2 border-b border-rule py-2" data-testid="mend-kept">
          <span className="flex-1 text-soft">“{offered.name}” is kept for this voice, recorded like this.</span>
          <button type="button" className="text-tape hover:underline" onClick={() => use.run(offered)}>
            try it
          </button>
        </p>
      )}
      {naming !== null ? (
        <form
          className="flex items-end gap-1.5 pb-2"
          onSubmit={(event) => {
            event.preventDefault()
            if (naming.trim()) keep.run(naming.trim())
          }}
        >
          <Field
            className="min-w-0 flex-1"
            label="Keep by the name"
            autoFocus
            maxLength={100}
            value={naming}
            onChange={({ target }) => setNaming(target.value)}
            onKeyDown={(event) => event.key === 'Escape' && setNaming(null)}
          />
          <Button type="submit" look="strong" className="h-9" disabled={!naming.trim() || keep.busy}>
            Keep
          </Button>
        </form>
      ) : (
        <div className="flex flex-wrap gap-1.5 pb-2 empty:hidden">
          {applied && (
            <Button onClick={() => setNaming([speaker, applied.name].filter(Boolean).join(', ').slice(0, 100))}>Keep by a name …</Button>
          )}
          {others.length > 0 && (
            <Menu label="Kept treatments" trigger={<Button>Kept treatments …</Button>}>
              {others.map((one) => (
                <MenuItem key={one.name} onSelect={() => use.run(one)}>
                  <span className="flex-1">{one.name}</span>
                  {one.speaker && <span className="text-faint">{one.speaker}</span>}
                </MenuItem>
              ))}
              {others.map((one) => (
                <MenuItem key={`without ${one.name}`} onSelect={() => orSay(remove(`/treatments/${encodeURIComponent(one.name)}`))}>
                  <span className="text-faint">Remove “{one.name}”</span>
                </MenuItem>
              ))}
            </Menu>
          )}
        </div>
      )}
    </>
  )
}

import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import type { HouseFormat, Programme } from '../../contract/programmes'
import { USUAL_LOUDNESS } from '../../core/page/story'
import { put, remove } from '../api/client'
import { orSay } from '../api/orSay'
import { Button, Dialog, Field } from '../ui/parts'
import { DestinationChoice } from './DestinationChoice'
import { FormatChoices } from './FormatChoices'
import { DEFAULTS } from './settings'

/** In which form a programme wants its files: chosen by every output of that programme. */
export function ProgrammeDialog({ of, onClose }: { of: Programme | null; onClose: () => void }) {
  const [name, setName] = useState(of?.name ?? '')
  const [format, setFormat] = useState<HouseFormat>(() => of?.format ?? { ...DEFAULTS, loudness: USUAL_LOUDNESS })
  const [loudness, setLoudness] = useState(() => inWords(format.loudness))
  const lufs = Number(loudness.replace('−', '-').replace(',', '.'))
  const readable = loudness.trim() !== '' && lufs >= -40 && lufs <= -9
  const keeping = useMutation({
    mutationFn: () => put<Programme>(`/programmes/${encodeURIComponent(name.trim())}`, { ...format, loudness: lufs }),
    onSuccess: onClose,
  })
  return (
    <Dialog open title={of ? `House format of ${of.name}` : 'New house format'} onClose={onClose}>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          keeping.mutate()
        }}
      >
        <div className="grid grid-cols-[1fr_9rem] gap-4">
          <Field
            label="Programme, as outputs name it"
            value={name}
            readOnly={of !== null}
            maxLength={200}
            placeholder="Harbour Desk"
            onChange={(event) => setName(event.target.value)}
          />
          <div>
            <Field label="Loudness, LUFS" value={loudness} aria-invalid={!readable} onChange={(event) => setLoudness(event.target.value)} />
            {!readable && (
              <p role="alert" className="mt-1 text-[13px] text-cut-ink">
                From −40 to −9.
              </p>
            )}
          </div>
        </div>
        <FormatChoices settings={format} onChange={setFormat} script="script or cue sheet" />
        <DestinationChoice to={format.to} onChange={(to) => setFormat({ ...format, to })} />
        {keeping.error && (
          <p role="alert" className="text-[13px] text-cut-ink">
            {keeping.error.message}
          </p>
        )}
        <div className="flex gap-2">
          {of && (
            <Button look="bare" onClick={() => orSay(remove(`/programmes/${encodeURIComponent(of.name)}`).then(onClose))}>
              Remove
            </Button>
          )}
          <span className="flex-1" />
          <Button onClick={onClose}>Cancel</Button>
          <Button look="strong" type="submit" disabled={!name.trim() || !readable || keeping.isPending}>
            Keep
          </Button>
        </div>
      </form>
    </Dialog>
  )
}

const inWords = (lufs: number): string => String(lufs).replace('-', '−')

import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import type { LineUpInfo } from '../../contract/lineups'
import type { TapeInfo } from '../../contract/tapes'
import { clock } from '../../core/time'
import { post, remove } from '../api/client'
import { useOnce } from '../api/useOnce'
import { useTapes } from '../api/queries'
import { Button, Dialog, Empty, Field, Progress } from '../ui/parts'
import { Sources } from './Sources'
import { useLineUp } from './useLineUp'

interface Props {
  /** The tape whose clock counts. */
  tape: TapeInfo
  lineUp: string | null
  onLineUp: (id: string | null) => void
  onClose: () => void
}

/** Puts recordings of one conversation in step: which, how they lie, what becomes of each. */
export function LineUpDialog({ tape, lineUp, onLineUp, onClose }: Props) {
  const info = useLineUp(lineUp)
  const navigate = useNavigate()
  const joined = info?.state === 'joined' ? info.tape : null
  useEffect(() => {
    if (!joined) return
    onClose()
    void navigate(`/tapes/${joined}`)
    // once it is there
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [joined])
  const callOff = () => {
    if (lineUp) void remove(`/lineups/${lineUp}`).catch(() => undefined)
    onLineUp(null)
  }
  return (
    <Dialog open wide title="Line up recordings of one conversation" onClose={onClose}>
      {!lineUp && <Which tape={tape} onBegun={onLineUp} />}
      {lineUp && (!info || info.state === 'comparing') && (
        <Waiting text="Listening for what they have in common …" value={info?.progress ?? 0} onCancel={callOff} />
      )}
      {info?.state === 'compared' && <Sources info={info} name={tape.name} onBack={callOff} />}
      {(info?.state === 'joining' || info?.state === 'joined') && (
        <Waiting text="Writing them as sides of one tape …" value={info.progress} onCancel={callOff} />
      )}
      {(info?.state === 'failed' || info?.state === 'cancelled') && (
        <Empty title="That did not work.">
          <p>{info.error || 'It was called off.'}</p>
          <Button className="mt-4" onClick={() => onLineUp(null)}>
            Start again
          </Button>
        </Empty>
      )}
    </Dialog>
  )
}

function Waiting({ text, value, onCancel }: { text: string; value: number; onCancel: () => void }) {
  return (
    <div className="flex flex-col gap-4 py-6">
      <p className="font-serif text-[17px]">{text}</p>
      <Progress value={value} label="Line up" />
      <p className="text-[13px] text-faint">You can close this and go on working; it is under Sides when you come back.</p>
      <div>
        <Button onClick={onCancel}>Cancel</Button>
      </div>
    </div>
  )
}

/** Which tapes; those of the same day and the same stories stand first. */
function Which({ tape, onBegun }: { tape: TapeInfo; onBegun: (id: string) => void }) {
  const tapes = useTapes().data ?? []
  const [text, setText] = useState('')
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const near = (other: TapeInfo) => (other.day && other.day === tape.day ? 0 : 1)
  const found = tapes
    .filter(
      (other) =>
        other.id !== tape.id &&
        other.state === 'ready' &&
        !other.aside &&
        (chosen.has(other.id) || `${other.name} ${other.speaker}`.toLowerCase().includes(text.toLowerCase())),
    )
    .sort((a, b) => near(a) - near(b))
  const begin = useOnce(async () => onBegun((await post<LineUpInfo>('/lineups', { tapes: [tape.id, ...chosen] })).id))
  return (
    <div className="flex flex-col gap-4">
      <p className="text-soft">
        Choose the other recordings of the conversation on “{tape.name}”. They are put in step by their sound, and become sides of a new
        tape. All of them stay as they are.
      </p>
      <Field label="Find tapes" value={text} onChange={({ target }) => setText(target.value)} autoFocus />
      <ul className="max-h-[38vh] overflow-y-auto border-t border-rule" aria-label="Tapes to line up with">
        {found.map((other) => (
          <li key={other.id} className="border-b border-rule">
            <label className="flex cursor-pointer items-center gap-3 py-2 hover:bg-paper-low">
              <input
                type="checkbox"
                className="accent-[var(--tape)]"
                checked={chosen.has(other.id)}
                disabled={!chosen.has(other.id) && chosen.size === 7}
                onChange={({ target }) =>
                  setChosen((now) => new Set(target.checked ? [...now, other.id] : [...now].filter((id) => id !== other.id)))
                }
              />
              <span className="min-w-0 flex-1 truncate font-medium">{other.name}</span>
              <span className="min-w-0 truncate text-[13px] text-soft">{other.speaker}</span>
              <span className="text-[13px] text-faint">{other.day}</span>
              <span className="w-16 text-right text-[13px]">{clock(other.frames)}</span>
            </label>
          </li>
        ))}
        {!found.length && <li className="py-3 text-faint">No other tape is called that.</li>}
      </ul>
      <div className="flex justify-end">
        <Button look="strong" disabled={!chosen.size || begin.busy} onClick={begin.run}>
          Compare them
        </Button>
      </div>
    </div>
  )
}

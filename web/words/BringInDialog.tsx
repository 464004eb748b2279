import { useQuery } from '@tanstack/react-query'
import { useRef } from 'react'
import { toast } from 'sonner'
import type { Bringing } from '../../contract/bringings'
import { clock, type Frames } from '../../core/time'
import { get, remove } from '../api/client'
import { Button, Dialog, Progress } from '../ui/parts'
import { sendWords } from './sendWords'

/** Brings in words that somebody has written down: they are laid on the tape, and where the two disagree it is said. */
export function BringInDialog({
  tape,
  name,
  onGo,
  onClose,
}: {
  tape: string
  name: string
  onGo: (frame: Frames) => void
  onClose: () => void
}) {
  const field = useRef<HTMLInputElement>(null)
  const { data: bringing } = useQuery({ queryKey: ['bringing', tape], queryFn: () => get<Bringing | null>(`/bringings/${tape}`) })
  const send = (file: File) => sendWords(tape, file).catch((error: Error) => toast.error(error.message))
  const end = () => void remove(`/bringings/${tape}`).catch(() => undefined)
  const busy = bringing?.state === 'waiting' || bringing?.state === 'working'
  const { placed = 0, disagreements = [] } = bringing?.report ?? {}
  return (
    <Dialog open title="Bring words in" onClose={onClose}>
      <input
        ref={field}
        type="file"
        hidden
        accept=".txt,.docx,.srt,.vtt,.json,text/plain"
        data-testid="words-file"
        onChange={(event) => {
          const [file] = event.target.files ?? []
          event.target.value = ''
          if (file) void send(file)
        }}
      />
      {!bringing && (
        <>
          <p className="mb-4 text-soft">
            A transcript of “{name}” as plain text, Word, SubRip, WebVTT or JSON. A name and a colon say who speaks. The words are put where
            they are said; those that are on the tape now make room for them, and undo brings them back.
          </p>
          <Button look="strong" onClick={() => field.current?.click()}>
            Choose a file …
          </Button>
        </>
      )}
      {busy && (
        <>
          <p className="mb-3 text-soft">“{bringing.name}” is being laid on the tape. You can go on working; this can be shut.</p>
          <div className="flex items-center gap-4">
            <Progress value={bringing.progress} label="Laying the words on the tape" />
            <Button look="bare" onClick={end}>
              Cancel
            </Button>
          </div>
        </>
      )}
      {bringing?.state === 'failed' && (
        <>
          <p className="mb-3 text-cut-ink" role="alert">
            {bringing.error}
          </p>
          <Button onClick={end}>Start again</Button>
        </>
      )}
      {bringing?.state === 'done' && (
        <>
          <p className="mb-3">
            {placed} words of “{bringing.name}” lie on the tape.{' '}
            {disagreements.length
              ? `In ${disagreements.length} ${disagreements.length === 1 ? 'place' : 'places'} the two do not agree:`
              : 'Text and tape agree everywhere.'}
          </p>
          <ul className="mb-4 border-t border-rule" data-testid="disagreements">
            {disagreements.map((one) => (
              <li key={`${one.what}/${one.at}/${one.text}`} className="border-b border-rule">
                <button
                  type="button"
                  className="flex w-full items-baseline gap-3 py-2 text-left hover:bg-paper-low"
                  onClick={() => {
                    onClose()
                    onGo(one.at)
                  }}
                >
                  <span className="w-14 shrink-0 text-[13px] text-soft">{clock(one.at)}</span>
                  <span className="min-w-0 flex-1">
                    <span className="text-[13px] text-faint">
                      {one.what === 'missing' ? 'not said here' : 'said here, and not in the text'}
                    </span>
                    <span className="block font-serif">{one.text}</span>
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <Button onClick={end}>Bring in another</Button>
        </>
      )}
    </Dialog>
  )
}

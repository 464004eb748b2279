import { useQuery } from '@tanstack/react-query'
import { formatDistanceStrict } from 'date-fns'
import { toast } from 'sonner'
import type { Recognition } from '../../contract/recognitions'
import type { TapeInfo } from '../../contract/tapes'
import type { Transcript } from '../../core/transcript/transcript'
import { get, post, remove } from '../api/client'
import { useSteady } from './useSteady'
import { CommandKey } from '../commands/CommandButton'

const recognitionQuery = (tape: string) => ({
  queryKey: ['recognition', tape],
  queryFn: () => get<Recognition | null>(`/recognitions/${tape}`),
})

const say = (error: unknown) => toast.error((error as Error).message)

/** How far a tape's words are to be trusted, and how they come about. */
export function WordsPanel({ tape, transcript }: { tape: TapeInfo; transcript: Transcript }) {
  const { data: recognition } = useQuery(recognitionQuery(tape.id))
  const { words } = transcript
  const left = useSteady(recognition?.left ?? null)
  const busy = recognition?.state === 'waiting' || recognition?.state === 'working'
  const checked = words.filter((word) => word.checked).length
  const ask = () => void post('/recognitions', { tape: tape.id }).catch(say)
  const cancel = () => void remove(`/recognitions/${tape.id}`).catch(say)
  return (
    <div className="py-2 text-[13px]" data-testid="words-panel">
      {busy && (
        <div className="pb-2">
          <p className="flex justify-between gap-3">
            <span>{recognition.state === 'waiting' ? 'Words are about to be recognised' : 'Transcribing'}</span>
            <button type="button" className="text-soft hover:text-ink hover:underline" onClick={cancel}>
              Cancel
            </button>
          </p>
          <div
            className="mt-1.5 h-1 rounded bg-rule"
            role="progressbar"
            aria-label="Transcribing"
            aria-valuenow={Math.round(recognition.progress * 100)}
            aria-valuemin={0}
            aria-valuemax={100}
          >
            <div className="h-1 rounded bg-tape transition-[width]" style={{ width: `${recognition.progress * 100}%` }} />
          </div>
          {left !== null && <p className="pt-1 text-faint">{left < 1 ? 'nearly there' : `${formatDistanceStrict(0, left * 1000)} left`}</p>}
        </div>
      )}
      {recognition?.state === 'failed' && <p className="pb-2 text-cut-ink">{recognition.error}</p>}
      {words.length > 0 ? (
        <p className="text-soft">
          {checked === words.length
            ? 'All words are checked.'
            : checked
              ? `${checked} of ${words.length} words are checked; the others are a guess.`
              : 'These words are a rough guess. Nobody has checked them yet.'}{' '}
          <CommandKey id="words.correct" /> corrects the transcript, <CommandKey id="words.check" /> marks the selected words as checked.
        </p>
      ) : (
        !busy &&
        tape.state === 'ready' && (
          <p className="text-faint">
            {recognition?.state === 'done' ? 'No speech was found.' : 'No transcript yet.'}{' '}
            <button type="button" className="text-tape hover:underline" onClick={ask}>
              Transcribe
            </button>
          </p>
        )
      )}
    </div>
  )
}

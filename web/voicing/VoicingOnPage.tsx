import { useQuery } from '@tanstack/react-query'
import type { Voicing } from '../../contract/voicings'
import { get, remove } from '../api/client'
import { orSay } from '../api/orSay'
import { useTapes } from '../api/queries'
import { Button } from '../ui/parts'
import { LayTapeDialog } from './LayTapeDialog'
import type { useRecording } from './useRecording'

interface Props {
  story: string
  recording: ReturnType<typeof useRecording>
  /** Tapes of the story. */
  own: readonly string[]
}

/** What a page shows of lines that are looked for on tapes: how far that is, what was found, and which tape to look on. */
export function VoicingOnPage({ story, recording, own }: Props) {
  return (
    <>
      <Notes story={story} />
      {recording.laying && <LayTapeDialog lines={recording.wanted} own={own} onClose={recording.close} onPick={recording.findOn} />}
    </>
  )
}

function Notes({ story }: { story: string }) {
  const all = useQuery({ queryKey: ['voicings', story], queryFn: () => get<Voicing[]>(`/voicings/of/${story}`) }).data ?? []
  const tapes = useTapes().data
  return all.map((voicing) => {
    const open = voicing.state === 'waiting' || voicing.state === 'working'
    const name = tapes?.find(({ id }) => id === voicing.tape)?.name ?? 'a tape'
    return (
      <p
        key={voicing.tape}
        role="status"
        data-testid="voicing"
        className="flex shrink-0 items-center gap-3 border-b border-rule bg-paper-lit px-6 py-1.5 text-[14px]"
      >
        <span className={`min-w-0 flex-1 truncate ${voicing.state === 'failed' ? 'text-cut-ink' : ''}`}>{says(voicing, name)}</span>
        <Button look="bare" className="h-7" onClick={() => orSay(remove(`/voicings/${voicing.tape}`))}>
          {open ? 'Cancel' : 'OK'}
        </Button>
      </p>
    )
  })
}

function says({ state, progress, report, error }: Voicing, name: string): string {
  if (state === 'failed') return error
  if (!report) return `Finding the lines on “${name}”: ${progress ? `${Math.round(progress * 100)} %` : 'transcribing'}`
  const { placed, lines } = report
  if (!placed) return `None of the ${lines} lines were found on “${name}”.`
  const missing = lines - placed
  return (
    `${placed === 1 ? '1 line' : `${placed} lines`} of “${name}” ${placed === 1 ? 'is' : 'are'} on the page` +
    (missing ? `; ${missing === 1 ? '1 was' : `${missing} were`} not found.` : '.')
  )
}

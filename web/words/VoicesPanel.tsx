import { toast } from 'sonner'
import type { TapeInfo } from '../../contract/tapes'
import { givenTo } from '../../core/speakers/voicesOf'
import type { Transcript, TranscriptStep } from '../../core/transcript/transcript'
import type { Stretch } from '../../core/time'
import { post } from '../api/client'
import { useOnce } from '../api/useOnce'
import type { LiveDocument } from '../documents/liveDocument'
import { author } from '../documents/waiting'
import { EditableText } from '../ui/EditableText'

interface Props {
  tape: TapeInfo
  live: LiveDocument<'transcript'>
  transcript: Transcript
  selected: Stretch | null
}

/** Who says what: names stay with the voice across the tape; two that are called the same are one. */
export function VoicesPanel({ tape, live, transcript, selected }: Props) {
  const { words, voices } = transcript
  const counts = new Map<string, number>()
  for (const { voice } of words) if (voice) counts.set(voice, (counts.get(voice) ?? 0) + 1)
  const known = Object.keys(voices)
    .filter((voice) => counts.has(voice))
    .sort()
  const names = [...new Set(known.map((voice) => voices[voice]))]
  const chosen = selected
    ? words.flatMap((word, i) =>
        2 * (Math.min(word.to, selected.to) - Math.max(word.from, selected.from)) >= word.to - word.from ? [i] : [],
      )
    : []

  const rename = (voice: string, name: string) => {
    if (name) live.act([{ type: 'voice', voice, name, was: voices[voice] } satisfies TranscriptStep], { label: 'name a voice' })
  }
  const give = (name: string) => {
    if (name) live.act(givenTo(transcript, chosen, name), { label: 'words of another voice' })
  }
  const tellApart = useOnce(async () => {
    const { voices: found } = await post<{ voices: number }>(`/recognitions/${tape.id}/voices`, { author })
    toast(found > 1 ? `${found} speakers found. Name them, and correct any that are wrong.` : 'Only one speaker was found.')
  })

  if (!words.length) return null
  return (
    <div className="pb-2 text-[13px]" data-testid="voices-panel">
      {known.length > 0 && (
        <ul>
          {known.map((voice) => (
            <li key={voice} className="flex items-center gap-2 border-b border-rule py-1.5">
              <EditableText
                label={`Name of ${voices[voice]}`}
                value={voices[voice]}
                className="min-w-0 flex-1 font-medium"
                onKeep={(name) => rename(voice, name)}
              />
              <span className="text-faint">{counts.get(voice)} words</span>
            </li>
          ))}
        </ul>
      )}
      {known.some((voice) => /^Voice \d+$/.test(voices[voice])) && (
        <p className="pt-1.5 text-faint">Identified by sound: a suggestion. Give two the same name to merge them.</p>
      )}
      {!known.length && tape.sides.length === 1 && tape.state === 'ready' && (
        <button type="button" disabled={tellApart.busy} className="text-tape hover:underline disabled:opacity-60" onClick={tellApart.run}>
          {tellApart.busy ? 'Listening for voices …' : 'Identify speakers'}
        </button>
      )}
      {chosen.length > 0 && (
        <p className="flex flex-wrap items-center gap-x-2 gap-y-1 pt-2">
          <span className="text-faint">Selected words spoken by</span>
          {names.map((name) => (
            <button key={name} type="button" className="text-tape hover:underline" onClick={() => give(name)}>
              {name}
            </button>
          ))}
          <EditableText label="Another speaker says it" value="" placeholder="another speaker" onKeep={give} />
        </p>
      )}
    </div>
  )
}

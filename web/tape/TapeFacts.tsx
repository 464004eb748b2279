import { format, parseISO } from 'date-fns'
import type { TapeInfo } from '../../contract/tapes'
import { SPOKEN, type TapeHead } from '../../core/tape/tape'
import { EditableText } from '../ui/EditableText'
import { LanguageChoice } from '../words/LanguageChoice'

interface Props {
  tape: TapeInfo
  head: TapeHead
  onSet: (key: 'speaker' | 'role' | 'language', value: string, label: string) => void
}

/** Who speaks on a tape, in what language, and what is known of its file. */
export function TapeFacts({ tape, head, onSet }: Props) {
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 py-2 text-[13px]">
      <dt className="text-faint">Speaker</dt>
      <dd>
        <EditableText
          label="Speaker"
          value={head.speaker}
          placeholder="who speaks"
          onKeep={(value) => onSet('speaker', value, 'speaker')}
        />
      </dd>
      <dt className="text-faint">Role</dt>
      <dd>
        <EditableText label="Role" value={head.role} placeholder="role" onKeep={(value) => onSet('role', value, 'role')} />
      </dd>
      <dt className="text-faint">Language</dt>
      <dd>
        <LanguageChoice value={head.language ?? SPOKEN} onKeep={(value) => onSet('language', value, 'language')} />
      </dd>
      <dt className="text-faint">Recorded</dt>
      <dd>
        {head.day
          ? `${format(parseISO(head.day), 'd MMMM yyyy')}${tape.origin.time ? `, ${tape.origin.time.slice(0, 5)}` : ''}`
          : 'nobody noted when'}
      </dd>
      {[tape.origin.description, tape.origin.notes].some(Boolean) && (
        <>
          <dt className="text-faint">Noted</dt>
          <dd className="min-w-0 break-words">{[tape.origin.description, tape.origin.notes].filter(Boolean).join('. ')}</dd>
        </>
      )}
      {tape.origin.originator && (
        <>
          <dt className="text-faint">Recorder</dt>
          <dd className="min-w-0 break-words">{tape.origin.originator}</dd>
        </>
      )}
      <dt className="text-faint">File</dt>
      <dd className="min-w-0 break-words">
        {tape.format}, {((tape.bytes || tape.size) / 1e6).toFixed(1)} MB
      </dd>
      <dt className="text-faint">Room tone</dt>
      <dd>
        {tape.state === 'arriving'
          ? 'known once all of it is here'
          : tape.tone.made
            ? 'made from its noise floor: no stretch is quiet enough'
            : `its own, ${tape.tone.quiet.length} quiet ${tape.tone.quiet.length === 1 ? 'stretch' : 'stretches'}`}
      </dd>
      {tape.sha256 && (
        <>
          <dt className="text-faint">SHA-256</dt>
          <dd className="truncate" title={tape.sha256}>
            {tape.sha256.slice(0, 16)}…
          </dd>
        </>
      )}
    </dl>
  )
}

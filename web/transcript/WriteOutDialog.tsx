import type { TranscriptFormat } from '../../contract/transcripts'
import { clock, type Stretch } from '../../core/time'
import { Dialog } from '../ui/parts'

const SAYS: [TranscriptFormat, string, string][] = [
  ['txt', 'Plain text', 'paragraphs, with who speaks'],
  ['docx', 'Word', 'the same with times, as a document'],
  ['log', 'Log sheet', 'time, who, what and your marks, as a table'],
  ['srt', 'SubRip', 'subtitles'],
  ['vtt', 'WebVTT', 'subtitles for the web'],
  ['json', 'JSON', 'every word with its times, in seconds'],
]

/** Writes the words of a tape, of what is selected on it, or of a piece into a file. */
export function WriteOutDialog({
  id,
  name,
  selected,
  onClose,
}: {
  id: string
  name: string
  selected?: Stretch | null
  onClose: () => void
}) {
  const range = selected ? `&from=${selected.from}&to=${selected.to}` : ''
  return (
    <Dialog open title="Export transcript" onClose={onClose}>
      <p className="mb-3 text-soft">
        {selected ? `The selected ${clock(selected.to - selected.from)} of “${name}”.` : `All of “${name}”.`}
      </p>
      <ul className="border-t border-rule">
        {SAYS.map(([format, title, what]) => (
          <li key={format} className="border-b border-rule">
            <a
              href={`/api/transcripts/${id}?as=${format}${range}`}
              download
              className="flex items-baseline gap-3 py-2.5 hover:bg-paper-low"
              onClick={onClose}
            >
              <span className="w-28 font-semibold">{title}</span>
              <span className="text-[13px] text-soft">{what}</span>
            </a>
          </li>
        ))}
      </ul>
    </Dialog>
  )
}

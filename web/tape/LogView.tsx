import { useParams } from 'react-router'
import { marksOf, offRecord, tapeHead } from '../../core/tape/tape'
import { clock } from '../../core/time'
import { paragraphsOf } from '../../core/transcript/cues'
import { masked } from '../../core/transcript/masked'
import { wordsOf } from '../../core/transcript/transcript'
import { useDocument } from '../documents/useDocument'
import { Button } from '../ui/parts'

/** A tape's log as a sheet of paper: when, who, what was said, and the marks where they stand. */
export function LogView() {
  const { id = '' } = useParams()
  const tape = useDocument(id, 'tape')
  const transcript = useDocument(id, 'transcript')
  if (!tape || !transcript) return null
  if ('error' in tape || 'error' in transcript) return <p className="p-8">Tape not found.</p>
  const head = tapeHead(tape.body)
  const words = masked(wordsOf(transcript.body), offRecord(tape.body))
  const marks = marksOf(tape.body)
  // a mark stands where it was dropped, so what is said there goes on below it
  const breaks = [0, ...marks.map(({ at }) => at), Infinity]
  const lines = [
    ...breaks
      .slice(1)
      .flatMap((end, i) => paragraphsOf(words.filter(({ from }) => from >= breaks[i] && from < end)))
      .map(({ from, speaker, text }) => ({ at: from, who: speaker, text, mark: false })),
    ...marks.map(({ at, text, star }) => ({ at, who: star ? '★' : '▾', text: text || 'mark', mark: true })),
  ].sort((a, b) => a.at - b.at || Number(b.mark) - Number(a.mark))
  return (
    <main
      className={`mx-auto h-full max-w-3xl overflow-y-auto bg-paper px-8 py-8 print:h-auto print:overflow-visible
      print:bg-white print:p-0`}
    >
      <header className="mb-6 flex items-baseline justify-between gap-4 border-b border-ink pb-3">
        <div>
          <h1 className="font-serif text-[24px] font-semibold">{head.name}</h1>
          <p className="text-[13px] text-soft">{[head.speaker, head.role, head.day].filter(Boolean).join(', ')}</p>
        </div>
        <Button className="print:hidden" onClick={() => print()}>
          Print
        </Button>
      </header>
      <table className="w-full text-left">
        <thead className="sr-only">
          <tr>
            <th>Time</th>
            <th>Speaker</th>
            <th>Note</th>
          </tr>
        </thead>
        <tbody>
          {lines.map(({ at, who, text, mark }, i) => (
            <tr key={i} className={`align-baseline ${mark ? 'text-tape' : ''}`}>
              <td className="w-16 py-1.5 pr-3 text-[13px] text-faint tabular-nums">{clock(at)}</td>
              <td className="w-32 py-1.5 pr-3 text-[13px] font-semibold">{who}</td>
              <td className={`py-1.5 ${mark ? 'text-[13px] font-medium' : 'font-serif text-[15px] leading-relaxed'}`}>{text}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </main>
  )
}

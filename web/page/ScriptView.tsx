import { useParams, useSearchParams } from 'react-router'
import type { WordsOf } from '../../core/edits/pieceWords'
import { scriptOf } from '../../core/page/scriptSheet'
import type { StoryDocument } from '../../core/page/story'
import { clock } from '../../core/time'
import { airTimeInFull } from '../story/airTime'
import { useDocument } from '../documents/useDocument'
import { Button } from '../ui/parts'
import { usePage } from './laid/usePage'

const NO_WORDS: WordsOf = () => []

/** The script as a page to print: slugs, copy, cues, lengths, the running time. */
export function ScriptView() {
  const { id = '' } = useParams()
  const document = useDocument(id, 'story')
  if (!document || 'error' in document) return <p className="p-10">{document ? 'That story is not here.' : 'Opening …'}</p>
  return <Script id={id} body={document.body} />
}

function Script({ id, body }: { id: string; body: StoryDocument }) {
  const { head, output, air, file, known, facts, ready } = usePage(id, body, 'rehearse', useSearchParams()[0].get('output'))
  const airs = output.airs ? airTimeInFull(output.airs) : ''
  const { rows } = scriptOf(head.slug, { output, air, file }, airs, (piece) => known.get(piece), facts?.wordsOf ?? NO_WORDS)
  const asked = new URLSearchParams({ kind: 'story', id, output: output.id })
  return (
    <main className="mx-auto h-full max-w-[52rem] overflow-y-auto p-10 print:h-auto print:overflow-visible print:p-0">
      <header className="mb-6 flex items-start justify-between border-b-2 border-ink pb-4">
        <div>
          <h1 className="font-serif text-[28px] font-semibold">{head.slug}</h1>
          <p className="mt-1 text-soft">
            {airs ? `Airs ${airs}` : 'No air time set'}
            {output.client && ` · ${output.client}`}
          </p>
        </div>
        <dl className="grid grid-cols-[auto_auto] gap-x-4 text-right">
          <dt className="text-faint">TRT</dt>
          <dd className="font-semibold">{clock(air.length)}</dd>
          <dt className="text-faint">slot</dt>
          <dd>{output.slot ? clock(output.slot) : 'not set'}</dd>
          <dt className="text-faint">file</dt>
          <dd>{clock(file.length)}</dd>
        </dl>
      </header>
      <table className="w-full border-collapse">
        <thead className="text-left text-[12px] text-faint">
          <tr>
            <th scope="col" className="w-20 pb-2">
              From
            </th>
            <th scope="col" className="w-40 pb-2">
              Block
            </th>
            <th scope="col" className="pb-2">
              Script
            </th>
            <th scope="col" className="w-16 pb-2 text-right">
              Length
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={i} className="break-inside-avoid border-t border-rule align-top">
              <td className="py-3 text-soft">{row.from}</td>
              <td className="py-3 pr-4">
                <strong className="block">{row.block}</strong>
                <span className="text-[13px] text-soft">{row.who}</span>
              </td>
              <td className="py-3 pr-4 font-serif text-[17px] leading-[1.5] whitespace-pre-wrap">
                {row.lines.map((line, k) => (
                  <p key={k}>{line}</p>
                ))}
              </td>
              <td className="py-3 text-right font-semibold">{row.length}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-8 flex gap-2 print:hidden">
        <Button look="strong" onClick={() => window.print()}>
          Print
        </Button>
        <Button onClick={() => globalThis.location.assign(`/api/sends/script?${asked}`)} disabled={!ready}>
          Save as Word file
        </Button>
      </div>
    </main>
  )
}

import { useParams, useSearchParams } from 'react-router'
import { pieceWords } from '../../core/edits/pieceWords'
import { BLOCK_KINDS, type StoryDocument } from '../../core/page/story'
import { inCue, outCue } from '../../core/tape/words'
import { clock, tradeLength } from '../../core/time'
import { airTimeInFull } from '../story/airTime'
import { useDocument } from '../documents/useDocument'
import { useOnce } from '../api/useOnce'
import { Button } from '../ui/parts'
import { wordFile, type ScriptRow } from './scriptFile'
import { KINDS } from './laid/kinds'
import { usePage } from './laid/usePage'

/** The script as a page to print: slugs, copy, cues, lengths, the running time. */
export function ScriptView() {
  const { id = '' } = useParams()
  const document = useDocument(id, 'story')
  if (!document || 'error' in document) return <p className="p-10">{document ? 'That story is not here.' : 'Opening …'}</p>
  return <Script id={id} body={document.body} />
}

function Script({ id, body }: { id: string; body: StoryDocument }) {
  const { head, output, air, file, known, facts, ready } = usePage(id, body, 'rehearse', useSearchParams()[0].get('output'))
  const rows = air.placed.map(({ block, at, words }): ScriptRow => {
    const piece = block.piece ? known.get(block.piece) : undefined
    const said = piece && facts ? pieceWords(piece.spans, facts.wordsOf, piece.sides) : []
    const { live, written } = BLOCK_KINDS[block.kind]
    const speaker = [piece?.speaker, piece?.role].filter(Boolean).join(', ') || (piece ? 'no speaker named' : 'no piece')
    return {
      from: clock(at),
      kind: block.kind,
      block: (!written && piece?.slug) || KINDS[block.kind],
      who: live ? 'live, not in the file' : written ? block.reader || 'no reader named' : speaker,
      lines: written ? [block.text || '—'] : [`In: “${inCue(said) || 'no words on this tape yet'} …”`, `Out: “… ${outCue(said)}”`],
      length: tradeLength(words),
    }
  })
  const about = [
    output.airs ? `Airs ${airTimeInFull(output.airs)}` : 'No air time set',
    ...(output.client ? [output.client] : []),
    `TRT ${clock(air.length)}, slot ${output.slot ? clock(output.slot) : 'not set'}, file ${clock(file.length)}`,
  ]
  const save = useOnce(async () => {
    const blob = await wordFile({ title: head.slug || 'Script', about, rows })
    const link = globalThis.document.createElement('a')
    link.href = URL.createObjectURL(blob)
    link.download = `${(head.slug || 'script').replace(/[^\p{L}\p{N} -]/gu, '').trim()}.docx`
    link.click()
    setTimeout(() => URL.revokeObjectURL(link.href), 60_000)
  })
  return (
    <main className="mx-auto h-full max-w-[52rem] overflow-y-auto p-10 print:h-auto print:overflow-visible print:p-0">
      <header className="mb-6 flex items-start justify-between border-b-2 border-ink pb-4">
        <div>
          <h1 className="font-serif text-[28px] font-semibold">{head.slug}</h1>
          <p className="mt-1 text-soft">
            {output.airs ? `Airs ${airTimeInFull(output.airs)}` : 'No air time set'}
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
        <Button onClick={save.run} disabled={!ready || save.busy}>
          Save as Word file
        </Button>
      </div>
    </main>
  )
}

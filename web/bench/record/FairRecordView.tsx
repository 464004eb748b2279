import { Play } from 'lucide-react'
import { useEffect, useMemo } from 'react'
import { Link, useParams } from 'react-router'
import { clipLength } from '../../../core/edits/actuality'
import { tapesOf } from '../../../core/edits/editList'
import { bringBack } from '../../../core/edits/bringBack'
import { fairRecord, type FairRecord, type RecordPart } from '../../../core/edits/fairRecord'
import type { Nick } from '../../../core/edits/gone'
import type { Warning } from '../../../core/edits/warnings'
import { planOf } from '../../../core/render/plan'
import { wholeTape } from '../../../core/edits/ofTape'
import { SPOKEN } from '../../../core/tape/tape'
import { masked } from '../../../core/transcript/masked'
import { clock, inSeconds, RATE, tradeLength } from '../../../core/time'
import { useFacts } from '../../api/queries'
import { useDocument } from '../../documents/useDocument'
import { player } from '../../sound/player'
import { usePlaying } from '../../sound/usePlayer'
import { Button, Empty } from '../../ui/parts'
import { Mended } from './Mended'
import type { TapeStretch } from '../../../core/stretches'

const OWNER = 'record of edits'
/** What is heard before and after a place, so that it is heard in context. */
const CONTEXT = 2 * RATE

/** What a cut may have changed, with the words that went. */
const saysOf = ({ kind, words }: Warning): string => {
  const named = `“${words.join(', ')}”`
  if (kind === 'answers joined') return 'two answers joined'
  return kind === 'question' ? 'a question removed' : kind === 'attribution' ? `${named} removed: who said it` : `${named} removed`
}

const HOW: Record<string, string> = { held: 'time held by room tone', muted: 'muted', head: 'cut off the start', tail: 'cut off the end' }

const seconds = (by: number): string => `${by < 0 ? '−' : '+'}${Math.abs(by / RATE).toFixed(2)} s`

/** For an editor who was not there: what was said, what of it is heard, and what was done between. */
export function FairRecordView() {
  const { id = '' } = useParams()
  const document = useDocument(id, 'actuality')
  const body = document && 'body' in document ? document.body : null
  const tapes = useMemo(() => (body ? tapesOf(body.spans) : []), [body])
  const facts = useFacts(tapes)
  const playing = usePlaying(OWNER)
  useEffect(() => () => void (player.owner === OWNER && player.stop()), [])
  const record = useMemo(() => {
    if (!body || !facts) return null
    const offOf = (tape: string) => facts.tapes.find((one) => one.id === tape)?.off ?? []
    return fairRecord(body, {
      wordsOf: (tape) => masked(facts.wordsOf(tape), offOf(tape)),
      offOf,
      languageOf: (tape) => facts.tapes.find((one) => one.id === tape)?.language ?? SPOKEN,
    })
  }, [body, facts])
  if (document && 'error' in document) return <Empty title="Piece not found">It may have been deleted, or the address is wrong.</Empty>
  if (!body || !facts || !record) return null

  const bringBackNow = (nick: Nick) => document && 'live' in document && document.live.act(bringBack(body, nick), { label: 'bring back' })
  const nameOf = (tape: string) => facts.tapes.find((one) => one.id === tape)?.name ?? 'a tape'
  const hear = ({ tape, from, to }: TapeStretch) => {
    if (playing) return player.stop()
    const { frames } = facts.factsOf(tape)
    player.load(OWNER, planOf(wholeTape(tape, frames), facts.factsOf))
    void player.play(Math.max(0, from - CONTEXT), Math.min(frames, to + CONTEXT))
  }
  return (
    <main
      className="mx-auto h-full max-w-3xl overflow-y-auto bg-paper px-8 py-8 print:h-auto print:overflow-visible print:bg-white print:p-0"
      data-testid="record"
    >
      <header className="mb-6 flex items-start justify-between gap-4 border-b border-ink pb-4">
        <div>
          <h1 className="font-serif text-[24px] font-semibold">{body.slug || 'Untitled'}: fair-edit record</h1>
          <p className="text-[13px] text-soft">{[body.speaker, body.role, tapes.map(nameOf).join(', ')].filter(Boolean).join(', ')}</p>
        </div>
        <span className="flex shrink-0 gap-2 print:hidden">
          <Link className="flex h-8 items-center rounded-md border border-rule px-3 text-[13px] hover:bg-paper-low" to={`/pieces/${id}`}>
            To the Bench
          </Link>
          <Button onClick={() => print()}>Print</Button>
        </span>
      </header>
      <Summary record={record} clip={clipLength(body)} nameOf={nameOf} />
      <ol className="mt-6">
        {record.parts.map((part, i) => (
          <li key={i} className="group grid grid-cols-[64px_1fr_150px_24px] items-baseline gap-3 py-1">
            <span className="text-[13px] text-faint tabular-nums">{clock(part.place.from)}</span>
            <Told part={part} nameOf={nameOf} />
            <span className="text-right text-[12px] leading-snug text-cut-ink">
              <Noted part={part} onBringBack={(nick) => bringBackNow(nick)} />
            </span>
            <span className="h-6 self-start">
              {!(part.kind === 'out' && part.off) && (
                <button
                  type="button"
                  className={`flex size-6 shrink-0 items-center justify-center rounded-full text-faint hover:bg-paper-low
                    hover:text-ink print:hidden`}
                  aria-label={`The tape around ${clock(part.place.from)}, as it was`}
                  onClick={() => hear(part.place)}
                >
                  <Play size={13} fill="currentColor" />
                </button>
              )}
            </span>
          </li>
        ))}
      </ol>
      <Mended piece={body} tapes={facts.tapes.filter(({ id: tape }) => tapes.includes(tape))} />
      <p className="mt-8 border-t border-rule pt-3 text-[12px] text-faint">
        Made from the edits themselves. It shows what was done, not whether it is fair.
      </p>
    </main>
  )
}

function Told({ part, nameOf }: { part: RecordPart; nameOf: (tape: string) => string }) {
  if (part.kind === 'moved')
    return (
      <p className="text-[13px] text-tape">
        {part.otherTape ? `from another tape, ${nameOf(part.place.tape)}:` : 'moved: this was said earlier on the tape'}
      </p>
    )
  if (part.kind === 'added') return <p className="text-[13px] text-soft">a pause made longer, {inSeconds(part.room)} s of room tone</p>
  if (part.kind === 'said')
    return <p className="font-serif text-[16px] leading-relaxed">{part.text || <span className="text-faint">sound without words</span>}</p>
  if (part.kind === 'patched')
    return (
      <p className="font-serif text-[16px] leading-relaxed">
        <span className="underline decoration-tape decoration-dotted underline-offset-4">
          {part.text || <span className="text-[13px] text-faint">within a word</span>}
        </span>
        {part.replaced && <del className="ml-2 text-soft decoration-cut decoration-[1.5px]">{part.replaced}</del>}
      </p>
    )
  if (part.off) return <p className="text-[13px] text-soft">off the record</p>
  return (
    <p className="font-serif text-[16px] leading-relaxed text-soft">
      {part.text ? (
        <del className="decoration-cut decoration-[1.5px]">{part.text}</del>
      ) : (
        <span className="text-[13px] text-faint">a pause, {inSeconds(part.place.to - part.place.from)} s</span>
      )}
    </p>
  )
}

function notesOf(part: RecordPart): string[] {
  if (part.kind === 'patched') return [`${part.filled ? 'time filled' : 'patched'} with sound from ${clock(part.laid.from)}`]
  if (part.kind === 'out') return [...part.warnings.map(saysOf), ...(HOW[part.how] ? [HOW[part.how]] : [])]
  if (part.kind !== 'said') return []
  return [
    ...(part.level !== null ? [`level changed by ${part.level > 0 ? '+' : '−'}${Math.abs(part.level).toFixed(0)} dB`] : []),
    ...(part.lowCut !== null ? [`low cut ${part.lowCut} Hz`] : []),
    ...(part.muted ? [`muted: “${part.muted}”`] : []),
    ...part.slips.map(({ side, by }) => `${side || 'a side'} moved by ${seconds(by)}`),
  ]
}

function Noted({ part, onBringBack }: { part: RecordPart; onBringBack: (nick: Nick) => void }) {
  const nick = part.kind === 'out' && !part.off ? part.nick : null
  return (
    <span>
      {notesOf(part).map((note) => (
        <span key={note} className="block">
          {note}
        </span>
      ))}
      {nick && (
        <button type="button" className="text-tape hover:underline print:hidden" onClick={() => onBringBack(nick)}>
          bring back
        </button>
      )}
    </span>
  )
}

function Summary({ record, clip, nameOf }: { record: FairRecord; clip: number; nameOf: (tape: string) => string }) {
  const out = record.parts.filter((part) => part.kind === 'out')
  const rows: [string, string][] = [
    ['On tape', record.onTape === null ? 'more than one tape' : tradeLength(record.onTape)],
    ['In the piece', `${tradeLength(record.inPiece)} of speech, ${tradeLength(clip)} in all`],
    [
      'Taken out',
      out.length
        ? `${out.length} ${out.length === 1 ? 'place' : 'places'}, ${inSeconds(
            out.reduce((sum, { place }) => sum + place.to - place.from, 0),
          )} s`
        : 'nothing',
    ],
    [
      'Joins',
      record.joins ? (record.unheard ? `${record.joins}, ${record.unheard} not played yet` : `${record.joins}, all played`) : 'none',
    ],
    ...record.slips.map(({ tape, side, by }): [string, string] => ['Moved', `${side || 'a side'} of ${nameOf(tape)} by ${seconds(by)}`]),
    ...(record.unwarned.length
      ? [
          ['Warnings', `none for the words of ${record.unwarned.map(nameOf).join(', ')}: there is no list for that language`] as [
            string,
            string,
          ],
        ]
      : []),
    ...(record.off
      ? [['Off the record', `${record.off} ${record.off === 1 ? 'place' : 'places'} beside what is heard`] as [string, string]]
      : []),
  ]
  return (
    <dl className="grid grid-cols-[110px_1fr] gap-y-1 text-[14px]">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-faint">{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  )
}

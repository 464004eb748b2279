import { Play } from 'lucide-react'
import { useEffect, useMemo } from 'react'
import { Link, useParams } from 'react-router'
import { clipLength, type Actuality } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import { fairRecord, type FairRecord, type Place, type RecordPart, type Warning } from '../../core/edits/fairRecord'
import { planOf } from '../../core/sound/plan'
import { wholeTape } from '../../core/tape/tape'
import { masked } from '../../core/transcript/masked'
import { clock, RATE, tradeLength } from '../../core/time'
import { useFacts } from '../api/queries'
import { useDocument } from '../documents/useDocument'
import { player } from '../sound/player'
import { usePlaying } from '../sound/usePlayer'
import { Button, Empty } from '../ui/parts'

const OWNER = 'record of edits'
/** What is heard before and after a place, so that it is heard in context. */
const CONTEXT = 2 * RATE

const SAY: Record<Warning, string> = {
  negation: 'a negation went',
  condition: 'a condition went',
  number: 'a number went',
  question: 'a question went',
  attribution: 'an attribution went',
  'answers joined': 'two answers stand as one',
}

const seconds = (by: number): string => `${by < 0 ? '−' : '+'}${Math.abs(by / RATE).toFixed(2)} s`

/** For an editor who was not there: what was said, what of it is heard, and what was done between. */
export function FairRecordView() {
  const { id = '' } = useParams()
  const document = useDocument<Actuality>(id, 'actuality')
  const body = document && 'body' in document ? document.body : null
  const tapes = useMemo(() => (body ? tapesOf(body.spans) : []), [body])
  const facts = useFacts(tapes)
  const playing = usePlaying(OWNER)
  useEffect(() => () => void (player.owner === OWNER && player.stop()), [])
  const record = useMemo(() => {
    if (!body || !facts) return null
    const offOf = (tape: string) => facts.tapes.find((one) => one.id === tape)?.off ?? []
    return fairRecord(body, (tape) => masked(facts.wordsOf(tape), offOf(tape)), offOf)
  }, [body, facts])
  if (document && 'error' in document) return <Empty title="That actuality is not here.">Its address is wrong, or it was taken away.</Empty>
  if (!body || !facts || !record) return null

  const nameOf = (tape: string) => facts.tapes.find((one) => one.id === tape)?.name ?? 'a tape'
  const hear = ({ tape, from, to }: Place) => {
    if (playing) return player.stop()
    const { frames } = facts.factsOf(tape)
    player.load(OWNER, planOf(wholeTape(tape, frames), facts.factsOf))
    void player.play(Math.max(0, from - CONTEXT), Math.min(frames, to + CONTEXT))
  }
  return (
    <main className="mx-auto h-full max-w-3xl overflow-y-auto bg-paper px-8 py-8 print:h-auto print:overflow-visible print:bg-white print:p-0" data-testid="record">
      <header className="mb-6 flex items-start justify-between gap-4 border-b border-ink pb-4">
        <div>
          <h1 className="font-serif text-[24px] font-semibold">{body.slug || 'Untitled'}: what was edited</h1>
          <p className="text-[13px] text-soft">{[body.speaker, body.role, tapes.map(nameOf).join(', ')].filter(Boolean).join(', ')}</p>
        </div>
        <span className="flex shrink-0 gap-2 print:hidden">
          <Link className="flex h-8 items-center rounded-md border border-rule px-3 text-[13px] hover:bg-paper-low" to={`/pieces/${id}`}>To the Bench</Link>
          <Button onClick={() => print()}>Print</Button>
        </span>
      </header>
      <Summary record={record} clip={clipLength(body)} nameOf={nameOf} />
      <ol className="mt-6">
        {record.parts.map((part, i) => (
          <li key={i} className="group grid grid-cols-[64px_1fr_130px_24px] items-baseline gap-3 py-1">
            <span className="text-[13px] text-faint tabular-nums">{clock(part.place.from)}</span>
            <Told part={part} nameOf={nameOf} />
            <span className="text-right text-[12px] leading-snug text-cut-ink"><Noted part={part} /></span>
            <span className="h-6 self-start">
              {!(part.kind === 'out' && part.off) && (
                <button type="button" className="flex size-6 shrink-0 items-center justify-center rounded-full text-faint hover:bg-paper-low hover:text-ink print:hidden" aria-label={`The tape around ${clock(part.place.from)}, as it was`} onClick={() => hear(part.place)}>
                  <Play size={13} fill="currentColor" />
                </button>
              )}
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-8 border-t border-rule pt-3 text-[12px] text-faint">Made from the edits themselves. It shows what was done; what is fair is for people to say.</p>
    </main>
  )
}

function Told({ part, nameOf }: { part: RecordPart; nameOf: (tape: string) => string }) {
  if (part.kind === 'moved') return <p className="text-[13px] text-tape">{part.otherTape ? `from another tape, ${nameOf(part.place.tape)}:` : 'moved: this was said earlier on the tape'}</p>
  if (part.kind === 'said') return <p className="font-serif text-[16px] leading-relaxed">{part.text || <span className="text-faint">sound without words</span>}</p>
  if (part.kind === 'patched') return <p className="font-serif text-[16px] leading-relaxed underline decoration-tape decoration-dotted underline-offset-4">{part.text || <span className="text-[13px] text-faint">within a word</span>}</p>
  if (part.off) return <p className="text-[13px] text-soft">off the record</p>
  return <p className="font-serif text-[16px] leading-relaxed text-soft">{part.text ? <del className="decoration-cut decoration-[1.5px]">{part.text}</del> : <span className="text-[13px] text-faint">a pause, {((part.place.to - part.place.from) / RATE).toFixed(1)} s</span>}</p>
}

function Noted({ part }: { part: RecordPart }) {
  const notes = part.kind === 'patched' ? [`${part.filled ? 'time filled' : 'patched'} with sound from ${clock(part.laid.from)}`] : part.kind === 'out' ? [...part.warnings.map((warning) => SAY[warning]), ...(part.how === 'held' ? ['time held by room tone'] : part.how === 'muted' ? ['muted'] : [])] : part.kind === 'said' ? [
    ...(part.level !== null ? [`level changed by ${part.level > 0 ? '+' : '−'}${Math.abs(part.level).toFixed(0)} dB`] : []),
    ...(part.hushed ? [`hushed: “${part.hushed}”`] : []),
    ...part.slips.map(({ side, by }) => `${side || 'a side'} slipped by ${seconds(by)}`),
  ] : []
  return <span>{notes.map((note) => <span key={note} className="block">{note}</span>)}</span>
}

function Summary({ record, clip, nameOf }: { record: FairRecord; clip: number; nameOf: (tape: string) => string }) {
  const out = record.parts.filter((part) => part.kind === 'out')
  const rows: [string, string][] = [
    ['Said in', record.onTape === null ? 'more than one tape' : tradeLength(record.onTape)],
    ['Heard in', `${tradeLength(record.inPiece)}, of a clip of ${tradeLength(clip)}`],
    ['Taken out', out.length ? `${out.length} ${out.length === 1 ? 'place' : 'places'}, ${(out.reduce((sum, { place }) => sum + place.to - place.from, 0) / RATE).toFixed(1)} s` : 'nothing'],
    ['Joins', record.joins ? (record.unheard ? `${record.joins}, of which nobody has heard ${record.unheard} yet` : `${record.joins}, all heard`) : 'none'],
    ...record.slips.map(({ tape, side, by }): [string, string] => ['Slipped', `${side || 'a side'} of ${nameOf(tape)} by ${seconds(by)}`]),
    ...(record.off ? [['Off the record', `${record.off} ${record.off === 1 ? 'place' : 'places'} beside what is heard`] as [string, string]] : []),
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

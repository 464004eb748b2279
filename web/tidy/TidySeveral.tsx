import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { Link } from 'react-router'
import { wordsOf } from '../../core/transcript/transcript'
import { FINDER_NAMES, type FinderName } from '../../core/tidy/finder'
import { clock, type Frames } from '../../core/time'
import { useFacts, useTape } from '../api/queries'
import { useOnce } from '../api/useOnce'
import { useDocument, type OpenDocument } from '../documents/useDocument'
import { Button, Dialog } from '../ui/parts'
import { FINDER_KINDS } from './kinds'
import { useRules } from './useRules'
import { useTapeKinds, type Applied } from './useTapeKinds'

interface Found {
  /** Places that are open, and the time that they would save, by kind. */
  kinds: ReadonlyMap<FinderName, { open: number; saves: Frames }>
  apply: (names: readonly FinderName[]) => Promise<Applied>
}

type Told = (id: string, found: Found) => void

const NOTHING: Found = { kinds: new Map(), apply: async () => ({ done: 0, left: new Map(), undo: () => undefined }) }
const USUAL: readonly FinderName[] = ['pauses', 'fillers', 'stumbles']
const counted = (n: number, one: string): string => `${n} ${n === 1 ? one : `${one}s`}`
const leftInWords = (left: Applied['left']): string => [...left].map(([why, count]) => `${count} ${why}`).join(', ')

/** Tidies several tapes at once: what was found on all of them, kind by kind, applied as one and taken back as one. */
export function TidySeveral({ tapes, onClose }: { tapes: readonly { id: string; name: string }[]; onClose: () => void }) {
  const [found, setFound] = useState<ReadonlyMap<string, Found>>(new Map())
  const [chosen, setChosen] = useState<ReadonlySet<FinderName>>(new Set(USUAL))
  const [results, setResults] = useState<ReadonlyMap<string, Applied>>(new Map())
  const tell = useCallback<Told>((id, what) => setFound((now) => new Map([...now, [id, what]])), [])
  const names = FINDER_NAMES.filter((name) => chosen.has(name))
  const sum = (name: FinderName, of: 'open' | 'saves') =>
    [...found.values()].reduce((all, { kinds }) => all + (kinds.get(name)?.[of] ?? 0), 0)
  const some = FINDER_NAMES.filter((name) => sum(name, 'open') > 0)
  const all = names.reduce((total, name) => total + sum(name, 'open'), 0)
  const toggle = (name: FinderName) => {
    const next = new Set(chosen)
    if (!next.delete(name)) next.add(name)
    setChosen(next)
  }

  const done = [...results.values()].reduce((total, one) => total + one.done, 0)
  const bringBack = () => {
    for (const one of results.values()) one.undo()
    setResults(new Map())
  }
  const applying = useOnce(async () => {
    const made = new Map<string, Applied>()
    for (const { id } of tapes) {
      const one = await found.get(id)?.apply(names)
      if (one) setResults(new Map(made.set(id, one)))
    }
  })

  return (
    <Dialog title={`Tidy ${counted(tapes.length, 'tape')}`} open onClose={onClose}>
      <p className="pb-2 text-[13px] text-soft">
        By each speaker’s own pauses and the usual figures. What may be the story, and what would be heard, is left open on its tape.
      </p>
      <ul aria-label="What is found" className="pb-3">
        {some.map((name) => (
          <li key={name}>
            <label className="flex items-baseline gap-3 border-b border-rule py-1.5 text-[14px]">
              <input type="checkbox" className="accent-[var(--color-ink)]" checked={chosen.has(name)} onChange={() => toggle(name)} />
              <span className="flex-1">{FINDER_KINDS[name].title}</span>
              <span>{sum(name, 'open')}</span>
              <span className="w-14 text-right text-soft">{sum(name, 'saves') ? clock(sum(name, 'saves')) : ''}</span>
            </label>
          </li>
        ))}
      </ul>
      <ul aria-label="The tapes" className="max-h-[34vh] overflow-y-auto text-[13px]">
        {tapes.map(({ id, name }) => (
          <li key={id} className="border-b border-rule py-1.5">
            <p className="flex items-baseline gap-3">
              <span className="min-w-0 flex-1 truncate font-semibold">{name}</span>
              <Link to={`/tapes/${id}`} className="text-tape hover:underline">
                open
              </Link>
            </p>
            <p className="text-soft" data-testid="tidy-tape">
              <OfTape id={id} names={names} onFound={tell} result={results.get(id)} />
            </p>
          </li>
        ))}
      </ul>
      <div className="flex items-center gap-2 pt-4 text-[13px]">
        {results.size > 0 && !applying.busy ? (
          <>
            <span role="status" className="flex-1 font-semibold">
              {counted(done, 'place')} applied on {counted(results.size, 'tape')}.
            </span>
            <Button onClick={bringBack}>Bring all back</Button>
            <Button look="strong" onClick={onClose}>
              Done
            </Button>
          </>
        ) : (
          <>
            <span className="flex-1" />
            <Button look="strong" disabled={!all || applying.busy || found.size < tapes.length} onClick={() => applying.run()}>
              {applying.busy ? 'Applying …' : `Apply all ${all}`}
            </Button>
          </>
        )}
      </div>
    </Dialog>
  )
}

interface OfTapeProps {
  id: string
  names: readonly FinderName[]
  onFound: Told
  result: Applied | undefined
}

function OfTape(props: OfTapeProps) {
  const document = useDocument(props.id, 'tape')
  const transcript = useDocument(props.id, 'transcript')
  if ((document && 'error' in document) || (transcript && 'error' in transcript)) return <Cannot {...props} why="can’t be reached" />
  return document && transcript ? <WithWords {...props} document={document} transcript={transcript} /> : <>opening …</>
}

function WithWords({ transcript, ...props }: OfTapeProps & { document: OpenDocument<'tape'>; transcript: OpenDocument<'transcript'> }) {
  const { id } = props
  const tape = useTape(id).data
  const { body } = transcript
  const words = useMemo(() => ({ tape: id, words: wordsOf(body) }), [id, body])
  const facts = useFacts(
    useMemo(() => [id], [id]),
    words,
  )
  if (!tape || !facts) return <>opening …</>
  return tape.state === 'ready' ? (
    <Opened {...props} tape={tape} facts={facts} />
  ) : (
    <Cannot {...props} why={tape.state === 'failed' ? 'did not arrive' : 'still arriving'} />
  )
}

/** A tape that cannot be tidied, and why. */
function Cannot({ id, onFound, why }: OfTapeProps & { why: string }) {
  useEffect(() => onFound(id, NOTHING), [id, onFound])
  return <>{why}</>
}

function Opened({
  id,
  names,
  onFound,
  result,
  document,
  tape,
  facts,
}: OfTapeProps & {
  document: OpenDocument<'tape'>
  tape: NonNullable<ReturnType<typeof useTape>['data']>
  facts: NonNullable<ReturnType<typeof useFacts>>
}) {
  const { kinds, listening, lacks, apply } = useTapeKinds(tape, document, facts, useRules())
  const counts = kinds.map(({ name, open, saves }) => `${name} ${open} ${saves}`).join()
  const applyNow = useRef(apply)
  useEffect(() => {
    applyNow.current = apply
  })
  useEffect(() => {
    onFound(id, {
      kinds: new Map(kinds.map(({ name, open, saves }) => [name, { open, saves }])),
      apply: (some) => applyNow.current(some),
    })
    // kinds are told again once what they count is another
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [id, counts, onFound])
  if (result) {
    const left = leftInWords(result.left)
    return <>{`${result.done} applied${left ? `; ${left}: left open` : ''}`}</>
  }
  const open = kinds.reduce((sum, kind) => sum + (names.includes(kind.name) ? kind.open : 0), 0)
  const { now } = listening
  const measuring = now?.state === 'waiting' || now?.state === 'working'
  const said = open ? counted(open, 'place') : (lacks ?? 'nothing to tidy')
  return <>{measuring ? `${said}; measuring the sound, ${Math.round(100 * now.progress)} %` : said}</>
}

import { useEffect, useMemo, useRef } from 'react'
import { tapesOf } from '../../core/edits/editList'
import type { FinderName } from '../../core/tidy/finder'
import type { Frames } from '../../core/time'
import { wordsOf } from '../../core/transcript/transcript'
import { useFacts, useTape } from '../api/queries'
import { useDocument, type OpenDocument } from '../documents/useDocument'
import { counted } from '../ui/counted'
import type { Applied } from './applyKinds'
import { usePieceKinds } from './usePieceKinds'
import { useRules } from './useRules'
import { useTapeKinds } from './useTapeKinds'

/** What was found on one of several, and what applies it. */
export interface Found {
  /** Places that are open, and the time that they would save, by kind. */
  kinds: ReadonlyMap<FinderName, { open: number; saves: Frames }>
  apply: (names: readonly FinderName[]) => Promise<Applied>
}

interface Props {
  id: string
  /** The kinds that are asked for. */
  names: readonly FinderName[]
  onFound: (id: string, found: Found) => void
  result: Applied | undefined
}

type Facts = NonNullable<ReturnType<typeof useFacts>>

const NOTHING: Found = { kinds: new Map(), apply: async () => ({ done: 0, left: new Map(), undo: () => undefined }) }
const leftInWords = (left: Applied['left']): string => [...left].map(([why, count]) => `${count} ${why}`).join(', ')

/** What there is to tidy on a tape, in a line, and what came of it. */
export function TidyTape(props: Props) {
  const document = useDocument(props.id, 'tape')
  const transcript = useDocument(props.id, 'transcript')
  if ((document && 'error' in document) || (transcript && 'error' in transcript)) return <Cannot {...props} why="can’t be reached" />
  return document && transcript ? <TapeWithWords {...props} document={document} transcript={transcript} /> : <>opening …</>
}

function TapeWithWords({ transcript, ...props }: Props & { document: OpenDocument<'tape'>; transcript: OpenDocument<'transcript'> }) {
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
    <OpenTape {...props} tape={tape} facts={facts} />
  ) : (
    <Cannot {...props} why={tape.state === 'failed' ? 'did not arrive' : 'still arriving'} />
  )
}

/** What cannot be tidied, and why. */
function Cannot({ id, onFound, why }: Props & { why: string }) {
  useEffect(() => onFound(id, NOTHING), [id, onFound])
  return <>{why}</>
}

interface OpenTapeProps extends Props {
  document: OpenDocument<'tape'>
  tape: NonNullable<ReturnType<typeof useTape>['data']>
  facts: Facts
}

const OpenTape = ({ document, tape, facts, ...props }: OpenTapeProps) => (
  <Line {...props} on={useTapeKinds(tape, document, facts, useRules())} />
)

/** What there is to tidy in a piece. */
export function TidyPiece(props: Props) {
  const document = useDocument(props.id, 'actuality')
  if (document && 'error' in document) return <Cannot {...props} why="can’t be reached" />
  return document ? <PieceWithTapes {...props} document={document} /> : <>opening …</>
}

function PieceWithTapes(props: Props & { document: OpenDocument<'actuality'> }) {
  const { spans } = props.document.body
  const facts = useFacts(useMemo(() => tapesOf(spans), [spans]))
  return facts ? <OpenPiece {...props} facts={facts} /> : <>opening …</>
}

const OpenPiece = ({ document, facts, ...props }: Props & { document: OpenDocument<'actuality'>; facts: Facts }) => (
  <Line {...props} on={usePieceKinds(document, facts, useRules())} />
)

type On = Pick<ReturnType<typeof useTapeKinds>, 'kinds' | 'listening' | 'lacks' | 'apply'>

function Line({ id, names, onFound, result, on: { kinds, listening, lacks, apply } }: Props & { on: On }) {
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
    if (!result.done && !left) return <>nothing to tidy</>
    return <>{`${result.done} applied${left ? `; ${left}: left open` : ''}`}</>
  }
  const open = kinds.reduce((sum, kind) => sum + (names.includes(kind.name) ? kind.open : 0), 0)
  const { now } = listening
  const measuring = now?.state === 'waiting' || now?.state === 'working'
  const said = open ? counted(open, 'place') : (lacks ?? 'nothing to tidy')
  return <>{measuring ? `${said}; measuring the sound, ${Math.round(100 * now.progress)} %` : said}</>
}

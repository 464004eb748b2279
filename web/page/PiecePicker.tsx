import { useMemo, useState, type FormEvent, type ReactNode } from 'react'
import type { PieceRow } from '../../contract/desk'
import { wordsLength } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import { pieceWords } from '../../core/edits/pieceWords'
import type { Block } from '../../core/page/story'
import { cueLine } from '../../core/tape/words'
import { tradeLength } from '../../core/time'
import { useAllPieces, useFacts } from '../api/queries'
import { Dialog, Field } from '../ui/parts'

interface PiecePickerProps {
  /** The line that a voice track is chosen for; null where an actuality is to be added. */
  line: Block | null
  story: string
  /** The pieces that are known before all are loaded. */
  rows: readonly PieceRow[]
  /** The blocks of the page: what is on it already comes later. */
  spine: readonly Block[]
  onPick: (piece: string) => void
  onClose: () => void
}

/**
 * Chooses a piece, found by typing, the first one taken with ↵. For a line of copy its reader's own takes come first, with what
 * each begins with.
 */
export function PiecePicker({ line, story, rows, spine, onPick, onClose }: PiecePickerProps) {
  const all = useAllPieces().data
  const [text, setText] = useState('')
  const plain = text.trim().toLowerCase()
  const used = new Set(spine.map(({ piece }) => piece))
  const rank = ({ id, body }: PieceRow) => (body.story === story ? 0 : 2) + (used.has(id) ? 1 : 0)
  const sorted = [...(all ?? rows)]
    .filter(({ aside, body }) => !aside && `${body.slug} ${body.speaker}`.toLowerCase().includes(plain))
    .sort((a, b) => rank(a) - rank(b))
  const reader = line?.reader.trim().toLowerCase() ?? ''
  const own = reader
    ? sorted.filter(({ body }) => body.speaker.trim().toLowerCase() === reader).sort((a, b) => (a.changed < b.changed ? 1 : -1))
    : []
  const others = sorted.filter((row) => !own.includes(row))
  const first = own[0] ?? others[0]
  const take = (event: FormEvent) => {
    event.preventDefault()
    if (first) onPick(first.id)
  }
  return (
    <Dialog open title={line ? 'Choose the voice track' : 'Add an actuality'} onClose={onClose}>
      {line?.text && (
        <p className="mb-4 max-h-20 overflow-hidden border-l-2 border-rule pl-3 font-serif text-[15px] text-soft">{line.text}</p>
      )}
      <form onSubmit={take} className="mb-3">
        <Field label="Find a piece" value={text} onChange={(event) => setText(event.target.value)} autoFocus />
      </form>
      {sorted.length === 0 && (
        <p className="text-soft">{plain ? 'No pieces match.' : 'There are no pieces yet. Open a tape, select a passage, and pull it.'}</p>
      )}
      {own.length > 0 && <h3 className="text-[13px] font-semibold text-faint">Takes by {line!.reader}</h3>}
      <ul className="mb-4 flex flex-col" data-testid="own-takes">
        {own.map((row) => (
          <Choice key={row.id} row={row} first={row === first} note={row.body.story === story ? '' : 'another story'} onPick={onPick}>
            <FirstWords row={row} />
          </Choice>
        ))}
      </ul>
      {own.length > 0 && others.length > 0 && <h3 className="text-[13px] font-semibold text-faint">Other pieces</h3>}
      <ul className="flex flex-col">
        {others.map((row) => (
          <Choice
            key={row.id}
            row={row}
            first={row === first}
            note={[row.body.speaker, used.has(row.id) ? 'on the page' : '', row.body.story === story ? '' : 'another story']
              .filter(Boolean)
              .join(', ')}
            onPick={onPick}
          />
        ))}
      </ul>
    </Dialog>
  )
}

interface ChoiceProps {
  row: PieceRow
  /** It is the one that ↵ takes. */
  first: boolean
  note: string
  onPick: (piece: string) => void
  children?: ReactNode
}

function Choice({ row, first, note, onPick, children }: ChoiceProps) {
  return (
    <li>
      <button
        type="button"
        className={`w-full border-b border-rule px-2 py-2 text-left hover:bg-paper-low ${first ? 'bg-wash' : ''}`}
        onClick={() => onPick(row.id)}
      >
        <span className="flex items-baseline gap-3">
          <span className="min-w-0 flex-1 truncate font-medium">{row.body.slug || 'Untitled'}</span>
          <span className="truncate text-[13px] text-soft">{note}</span>
          <span>{tradeLength(wordsLength(row.body))}</span>
        </span>
        {children}
      </button>
    </li>
  )
}

function FirstWords({ row: { body } }: { row: PieceRow }) {
  const facts = useFacts(useMemo(() => tapesOf(body.spans), [body.spans]))
  const words = facts ? pieceWords(body.spans, facts.wordsOf, body.sides) : []
  return (
    <span className="block truncate font-serif text-[14px] text-soft italic">
      {words.length ? `“${cueLine(words)}”` : facts ? 'no transcript yet' : ' '}
    </span>
  )
}

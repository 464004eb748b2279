import { useState, type ReactNode } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import { clock } from '../../core/time'
import { useTapes } from '../api/queries'
import { Field } from '../ui/parts'

interface Props {
  /** Which tapes come first: the lowest rank. */
  rank: (tape: TapeInfo) => number
  onPick: (tape: TapeInfo) => void
  /** What is said beside a tape's name. */
  note?: (tape: TapeInfo) => ReactNode
  testId: string
}

/** Chooses a tape that is all there: found by typing, the first one taken with ↵. */
export function TapeChoices({ rank, onPick, note, testId }: Props) {
  const { data: tapes = [] } = useTapes()
  const [text, setText] = useState('')
  const plain = text.trim().toLowerCase()
  const found = tapes
    .filter((tape) => tape.state === 'ready' && tape.frames > 0 && tape.name.toLowerCase().includes(plain))
    .sort((a, b) => rank(a) - rank(b) || a.name.localeCompare(b.name))
  return (
    <>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          if (found[0]) onPick(found[0])
        }}
      >
        <Field label="Find a tape" value={text} onChange={(event) => setText(event.target.value)} autoFocus />
      </form>
      <ul className="my-4 flex max-h-[40vh] flex-col overflow-y-auto" data-testid={testId}>
        {found.map((tape, i) => (
          <li key={tape.id}>
            <button
              type="button"
              className={`flex w-full items-baseline gap-3 border-b border-rule p-2 text-left hover:bg-paper-low ${i ? '' : 'bg-wash'}`}
              onClick={() => onPick(tape)}
            >
              <span className="min-w-0 flex-1 truncate font-medium">{tape.name}</span>
              {note && <span className="text-[12px] text-soft">{note(tape)}</span>}
              <span className="text-[13px] text-soft">{clock(tape.frames)}</span>
            </button>
          </li>
        ))}
        {!found.length && <li className="py-3 text-soft">No tapes match.</li>}
      </ul>
    </>
  )
}

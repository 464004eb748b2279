import { useState, type ReactNode } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import { clock, type Frames } from '../../core/time'
import { useTapes } from '../api/queries'
import { Field } from '../ui/parts'

interface Props {
  /** Which tapes come first: the lowest rank. */
  rank: (tape: TapeInfo) => number
  onPick: (tape: TapeInfo) => void
  /** What else can be chosen, after the tapes that come first. */
  others?: readonly Other[]
  /** What is said beside a tape's name. */
  note?: (tape: TapeInfo) => ReactNode
  testId: string
}

/** Something else than a tape. */
export interface Other {
  id: string
  name: string
  note: string
  frames: Frames
  onPick: () => void
}

/** Chooses a tape that is all there: found by typing, the first one taken with ↵. */
export function TapeChoices({ rank, onPick, others = [], note, testId }: Props) {
  const { data: tapes = [] } = useTapes()
  const [text, setText] = useState('')
  const plain = text.trim().toLowerCase()
  const asked = ({ name }: { name: string }) => name.toLowerCase().includes(plain)
  const ranked = tapes
    .filter((tape) => tape.state === 'ready' && tape.frames > 0 && asked(tape))
    .sort((a, b) => rank(a) - rank(b) || a.name.localeCompare(b.name))
    .map((tape) => ({ ...tape, note: note?.(tape), onPick: () => onPick(tape) }))
  const found = [...ranked, ...others.filter(asked)]
  return (
    <>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          found[0]?.onPick()
        }}
      >
        <Field
          label={others.length ? 'Find a tape or a piece' : 'Find a tape'}
          value={text}
          onChange={(event) => setText(event.target.value)}
          autoFocus
        />
      </form>
      <ul className="my-4 flex max-h-[40vh] flex-col overflow-y-auto" data-testid={testId}>
        {found.map((one, i) => (
          <li key={one.id}>
            <button
              type="button"
              className={`flex w-full items-baseline gap-3 border-b border-rule p-2 text-left hover:bg-paper-low ${i ? '' : 'bg-wash'}`}
              onClick={one.onPick}
            >
              <span className="min-w-0 flex-1 truncate font-medium">{one.name}</span>
              {one.note && <span className="text-[12px] text-soft">{one.note}</span>}
              <span className="text-[13px] text-soft">{clock(one.frames)}</span>
            </button>
          </li>
        ))}
        {!found.length && <li className="py-3 text-soft">No tapes match.</li>}
      </ul>
    </>
  )
}

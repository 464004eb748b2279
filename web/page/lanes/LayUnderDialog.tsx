import { useState } from 'react'
import type { TapeInfo } from '../../../contract/tapes'
import { clock } from '../../../core/time'
import { useTapes } from '../../api/queries'
import { likely, type Under } from '../../story/layUnder'
import { Choice, Dialog, Field } from '../../ui/parts'

interface Props {
  /** Tapes of the story, which come first. */
  own: readonly string[]
  /** What it will lie under: `under 3 blocks`. */
  where: string
  onPick: (tape: TapeInfo, under: Under) => void
  onClose: () => void
}

/** Chooses what lies under: likely ambience and music first, found by typing, taken with ↵. */
export function LayUnderDialog({ own, where, onPick, onClose }: Props) {
  const { data: tapes = [] } = useTapes()
  const [text, setText] = useState('')
  const [as, setAs] = useState<Under | 'likely'>('likely')
  const kind = (tape: TapeInfo): Under => (as === 'likely' ? likely(tape.name) : as)
  const plain = text.trim().toLowerCase()
  const rank = (tape: TapeInfo) => (tape.hasWords ? 2 : 0) + (own.includes(tape.id) ? 0 : 1)
  const found = tapes
    .filter((tape) => tape.state === 'ready' && tape.frames > 0 && tape.name.toLowerCase().includes(plain))
    .sort((a, b) => rank(a) - rank(b) || a.name.localeCompare(b.name))
  return (
    <Dialog open title="Lay sound under" describe={where} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          if (found[0]) onPick(found[0], kind(found[0]))
        }}
      >
        <Field label="Find a tape" value={text} onChange={(event) => setText(event.target.value)} autoFocus />
      </form>
      <ul className="my-4 flex max-h-[40vh] flex-col overflow-y-auto" data-testid="under-tapes">
        {found.map((tape, i) => (
          <li key={tape.id}>
            <button
              type="button"
              className={`flex w-full items-baseline gap-3 border-b border-rule p-2 text-left hover:bg-paper-low ${i ? '' : 'bg-wash'}`}
              onClick={() => onPick(tape, kind(tape))}
            >
              <span className="min-w-0 flex-1 truncate font-medium">{tape.name}</span>
              <span className="text-[12px] text-faint">{kind(tape)}</span>
              <span className="text-[13px] text-soft">{clock(tape.frames)}</span>
            </button>
          </li>
        ))}
        {!found.length && <li className="py-3 text-soft">No tapes match.</li>}
      </ul>
      <Choice
        label="Lay it as"
        value={as}
        onChange={setAs}
        options={[
          ['likely', 'By its name'],
          ['ambience', 'Ambience: goes on as long as it is wanted'],
          ['music', 'Music: plays to its end'],
        ]}
      />
    </Dialog>
  )
}

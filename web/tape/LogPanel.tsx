import { useState } from 'react'
import type { Mark, TapeStep } from '../../core/tape/tape'
import type { Frames } from '../../core/time'
import { CommandKey } from '../commands/CommandButton'
import { MarkList } from '../marks/MarkList'
import { reaction } from '../marks/reaction'

interface Props {
  tape: string
  marks: readonly Mark[]
  /** A mark that was dropped just now: it is written in at once. */
  fresh: string | null
  onWritten: () => void
  act: (steps: TapeStep[], label: string) => void
  onGo: (frame: Frames) => void
}

/** The log of a tape: its marks, each with a word or two, a colour, keywords, a star. */
export function LogPanel({ tape, marks, fresh, onWritten, act, onGo }: Props) {
  const [late, setLate] = useState(reaction)
  return (
    <div className="text-[13px]" data-testid="log">
      {marks.length === 0 && (
        <p className="py-3 text-faint">
          No marks yet. <CommandKey id="edit.mark" /> adds one at the playhead; type its text while the tape plays.{' '}
          <CommandKey id="edit.star" /> adds a star.
        </p>
      )}
      <MarkList
        marks={marks}
        fresh={fresh}
        onWritten={onWritten}
        onSet={({ id }, key, value) => act([{ type: 'set', id, key, value }], 'mark')}
        onRemove={({ id }) => act([{ type: 'drop', id }], 'mark')}
        onGo={onGo}
      />
      {marks.length > 0 && (
        <p className="flex items-baseline justify-between gap-3 pt-2 text-[12px] text-faint">
          <label>
            Place marks{' '}
            <input
              type="number"
              min={0}
              max={3}
              step={0.1}
              value={late}
              aria-label="Seconds earlier"
              className="w-12 rounded border border-rule bg-paper-lit px-1 text-ink"
              onChange={(event) => {
                const value = Math.min(3, Math.max(0, Number(event.target.value) || 0))
                setLate(value)
                localStorage.reaction = String(value)
              }}
            />{' '}
            s earlier
          </label>
          <a className="text-tape hover:underline" href={`/tapes/${tape}/log`} target="_blank" rel="noreferrer">
            Print the log
          </a>
        </p>
      )}
    </div>
  )
}

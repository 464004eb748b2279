import { useEffect, useRef, useState } from 'react'
import { Star } from 'lucide-react'
import { keywordsOf } from '../../core/tape/marks'
import { MARK_COLOURS, type Mark, type MarkColour, type TapeStep } from '../../core/tape/tape'
import { clock, type Frames } from '../../core/time'
import { EditableText } from '../ui/EditableText'
import { CommandKey } from '../commands/CommandButton'
import { reaction } from './reaction'

interface Props {
  tape: string
  marks: readonly Mark[]
  /** A mark that was dropped just now: it is written in at once. */
  fresh: string | null
  onWritten: () => void
  act: (steps: TapeStep[], label: string) => void
  onGo: (frame: Frames) => void
}

const DOTS: Record<MarkColour, string> = { tape: 'bg-tape', voice: 'bg-voice', cut: 'bg-cut', ink: 'bg-ink' }

/** The log of a tape: its marks, each with a word or two, a colour, keywords, a star. */
export function LogPanel({ tape, marks, fresh, onWritten, act, onGo }: Props) {
  const [only, setOnly] = useState<string | null>(null)
  const [late, setLate] = useState(reaction)
  const list = useRef<HTMLUListElement>(null)
  const keywords = [...new Set(marks.flatMap(keywordsOf))].sort()
  const shown = marks.filter((mark) => only === null || (only === '★' ? mark.star : keywordsOf(mark).includes(only)))
  const set = (mark: Mark, key: 'text' | 'colour' | 'star', value: unknown) => act([{ type: 'set', id: mark.id, key, value }], 'mark')

  useEffect(() => {
    if (fresh) list.current?.querySelector<HTMLInputElement>(`[data-mark="${fresh}"] input`)?.focus({ preventScroll: false })
  }, [fresh])

  const filters = [...(marks.some((mark) => mark.star) ? ['★'] : []), ...keywords]
  return (
    <div className="text-[13px]" data-testid="log">
      {marks.length === 0 && (
        <p className="py-3 text-faint">
          No marks yet. <CommandKey id="edit.mark" /> adds one at the playhead; type its text while the tape plays.{' '}
          <CommandKey id="edit.star" /> adds a star.
        </p>
      )}
      {filters.length > 0 && (
        <p className="flex flex-wrap gap-1.5 py-1.5">
          {filters.map((name) => (
            <button
              key={name}
              type="button"
              aria-pressed={only === name}
              onClick={() => setOnly(only === name ? null : name)}
              className={`rounded-full px-2 py-0.5 text-[12px]
                ${only === name ? 'bg-ink text-paper' : 'bg-paper-low text-soft hover:text-ink'}`}
            >
              {name === '★' ? '★ starred' : `#${name}`}
            </button>
          ))}
        </p>
      )}
      <ul ref={list}>
        {shown.map((mark) => (
          <li key={mark.id} data-mark={mark.id} className="flex items-center gap-1.5 border-b border-rule py-1">
            <button
              type="button"
              aria-label={`Another colour for the mark at ${clock(mark.at)}`}
              onClick={() => set(mark, 'colour', MARK_COLOURS[(MARK_COLOURS.indexOf(mark.colour ?? 'tape') + 1) % MARK_COLOURS.length])}
              className="flex size-6 shrink-0 items-center justify-center"
            >
              <span className={`size-2.5 rounded-full ${DOTS[mark.colour ?? 'tape']}`} />
            </button>
            <EditableText
              label="What the mark says"
              value={mark.text}
              placeholder="a word or two, #keywords"
              className="min-w-0 flex-1"
              onKeep={(text) => {
                set(mark, 'text', text)
                if (mark.id === fresh) onWritten()
              }}
            />
            <button
              type="button"
              aria-label={`${mark.star ? 'No star' : 'A star'} for the mark at ${clock(mark.at)}`}
              aria-pressed={Boolean(mark.star)}
              onClick={() => set(mark, 'star', mark.star ? undefined : true)}
              className={`flex size-6 shrink-0 items-center justify-center ${mark.star ? 'text-voice' : 'text-faint hover:text-ink'}`}
            >
              <Star size={14} fill={mark.star ? 'currentColor' : 'none'} />
            </button>
            <button type="button" className="text-soft hover:text-ink hover:underline" onClick={() => onGo(mark.at)}>
              {clock(mark.at)}
            </button>
            <button
              type="button"
              aria-label={`Take the mark at ${clock(mark.at)} away`}
              className="size-6 shrink-0 text-faint hover:text-cut-ink"
              onClick={() => act([{ type: 'drop', id: mark.id }], 'mark')}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
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

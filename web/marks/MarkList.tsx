import { Star } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { keywordsOf } from '../../core/tape/marks'
import { MARK_COLOURS, type Mark, type MarkColour } from '../../core/tape/tape'
import { clock, type Frames } from '../../core/time'
import { EditableText } from '../ui/EditableText'

/** A mark of a tape or of a page: a place, a word or two with #keywords, a colour, a star. */
export type Marked = Pick<Mark, 'id' | 'at' | 'text' | 'colour' | 'star'>

interface Props {
  marks: readonly Marked[]
  /** A mark that was added just now: it is written in at once. */
  fresh: string | null
  onWritten: () => void
  onSet: (mark: Marked, key: 'text' | 'colour' | 'star', value: unknown) => void
  onRemove: (mark: Marked) => void
  onGo: (frame: Frames) => void
}

/** The fill of a mark of each colour. */
export const DOTS: Record<MarkColour, string> = { tape: 'bg-tape', voice: 'bg-voice', cut: 'bg-cut', ink: 'bg-ink' }

/** Marks in their order, found by their keywords. */
export function MarkList({ marks, fresh, onWritten, onSet, onRemove, onGo }: Props) {
  const [only, setOnly] = useState<string | null>(null)
  const list = useRef<HTMLUListElement>(null)
  const keywords = [...new Set(marks.flatMap(keywordsOf))].sort()
  const shown = marks.filter((mark) => only === null || (only === '★' ? mark.star : keywordsOf(mark).includes(only)))
  useEffect(() => {
    if (fresh) list.current?.querySelector<HTMLInputElement>(`[data-mark="${fresh}"] input`)?.focus({ preventScroll: false })
  }, [fresh])

  const filters = [...(marks.some((mark) => mark.star) ? ['★'] : []), ...keywords]
  return (
    <>
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
              onClick={() => onSet(mark, 'colour', MARK_COLOURS[(MARK_COLOURS.indexOf(mark.colour ?? 'tape') + 1) % MARK_COLOURS.length])}
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
                onSet(mark, 'text', text)
                if (mark.id === fresh) onWritten()
              }}
            />
            <button
              type="button"
              aria-label={`${mark.star ? 'No star' : 'A star'} for the mark at ${clock(mark.at)}`}
              aria-pressed={Boolean(mark.star)}
              onClick={() => onSet(mark, 'star', mark.star ? undefined : true)}
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
              onClick={() => onRemove(mark)}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
    </>
  )
}

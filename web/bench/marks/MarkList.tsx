import { useEffect, useRef } from 'react'
import type { PieceMark } from '../../../core/edits/pieceMarks'
import { clock, type Frames } from '../../../core/time'
import { Heading } from '../../shell/Shell'
import { EditableText } from '../../ui/EditableText'

interface Props {
  marks: readonly PieceMark[]
  /** The mark that was just made, to be written. */
  fresh: string | null
  onWritten: () => void
  onGo: (place: Frames) => void
  onRename: (tape: string, id: string, text: string) => void
  onRemove: (tape: string, id: string) => void
}

/** The marks that lie in a piece: where, what they say, and a star where there is one. */
export function MarkList({ marks, fresh, onWritten, onGo, onRename, onRemove }: Props) {
  const list = useRef<HTMLUListElement>(null)
  useEffect(() => {
    if (fresh) list.current?.querySelector<HTMLInputElement>(`[data-mark="${fresh}"] input`)?.focus()
  }, [fresh, marks])
  if (!marks.length) return null
  return (
    <>
      <div className="h-5" />
      <Heading>Marks</Heading>
      <ul ref={list} data-testid="marks">
        {marks.map(({ mark, tape, at }) => (
          <li key={`${mark.id}/${at}`} data-mark={mark.id} className="flex items-center gap-2 border-b border-rule py-1.5">
            <button type="button" className="shrink-0 text-[13px] text-faint hover:text-ink hover:underline" onClick={() => onGo(at)}>
              {clock(at)}
            </button>
            {mark.star && (
              <span className="text-tape" role="img" aria-label="starred">
                ★
              </span>
            )}
            <span className="min-w-0 flex-1" onBlur={() => mark.id === fresh && onWritten()}>
              <EditableText label="Mark" value={mark.text} placeholder="what is here" onKeep={(text) => onRename(tape, mark.id, text)} />
            </span>
            <button
              type="button"
              className="shrink-0 text-[12px] text-faint hover:text-ink hover:underline"
              onClick={() => onRemove(tape, mark.id)}
            >
              remove
            </button>
          </li>
        ))}
      </ul>
    </>
  )
}

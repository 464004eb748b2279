import { useEffect, useRef } from 'react'
import { clock, type Frames } from '../../../core/time'
import { Heading } from '../../shell/Shell'
import { EditableText } from '../../ui/EditableText'
import type { useTapeMarks } from './useTapeMarks'

/** The marks that lie in a piece: where, what they say, and a star where there is one. */
export function MarkList({ marking, onGo }: { marking: ReturnType<typeof useTapeMarks>; onGo: (place: Frames) => void }) {
  const { marks, fresh, onWritten, rename, remove } = marking
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
              <EditableText label="Mark" value={mark.text} placeholder="what is here" onKeep={(text) => rename(tape, mark.id, text)} />
            </span>
            <button
              type="button"
              className="shrink-0 text-[12px] text-faint hover:text-ink hover:underline"
              onClick={() => remove(tape, mark.id)}
            >
              remove
            </button>
          </li>
        ))}
      </ul>
    </>
  )
}

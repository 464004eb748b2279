import { useLayoutEffect, useRef, useState } from 'react'
import type { RefObject } from 'react'
import { run } from '../commands/commands'
import { useFrames } from '../sound/usePlayer'
import type { SheetHandle } from '../sheet/props'
import type { Correcting } from './useCorrecting'

interface Props {
  now: Correcting
  text: string
  sheet: RefObject<SheetHandle | null>
  onKeep: (text: string) => void
  onLeave: () => void
  onOnwards: (text: string, by: 1 | -1) => void
}

const WIDEST = 560

/** A line to write in, where the words stand. Enter keeps, Tab keeps and goes on, Escape lets them be. */
export function WordEditor({ now, text, sheet, onKeep, onLeave, onOnwards }: Props) {
  const field = useRef<HTMLInputElement>(null)
  const box = useRef<HTMLDivElement>(null)
  /** A key has said what becomes of it; a field that goes loses the focus too, which says nothing. */
  const decided = useRef(false)
  const [written, setWritten] = useState(text)

  useLayoutEffect(() => sheet.current?.reveal(now.place.from), [sheet, now.place.from])
  // it stays with the words while the Sheet moves under it
  useFrames(() => {
    const surface = sheet.current?.surface
    if (!surface || !box.current) return
    const { x, y } = surface.placeOf(now.place.from)
    // as far to the right as its line has room for
    const room = (box.current.parentElement?.clientWidth ?? Infinity) - box.current.offsetWidth - 8
    box.current.style.transform = `translate(${Math.max(4, Math.min(x - 9, room))}px, ${y + surface.look.waveHeight + 2}px)`
  }, true)

  useLayoutEffect(() => {
    setWritten(text)
    decided.current = false
    field.current?.focus({ preventScroll: true })
    field.current?.select()
    // once for each place; what is typed stays though others change the text
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [now.first, now.count])

  return (
    <div
      ref={box}
      className="absolute top-0 left-0 z-20"
      style={{ maxWidth: WIDEST }}
      onPointerDown={(event) => event.stopPropagation()}
      onPointerUp={(event) => event.stopPropagation()}
    >
      <input
        ref={field}
        aria-label="The words here"
        data-testid="word-editor"
        spellCheck={false}
        value={written}
        placeholder="what is said here"
        onChange={(event) => setWritten(event.target.value)}
        onBlur={() => decided.current || onKeep(written)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') onKeep(written)
          else if (event.key === 'Escape') onLeave()
          else if (event.key === 'Tab') onOnwards(written, event.shiftKey ? -1 : 1)
          else if (event.altKey && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
            run(event.key === 'ArrowDown' ? 'play.slower' : 'play.faster')
            return event.preventDefault()
          } else return
          decided.current = true
          event.preventDefault()
          event.stopPropagation()
        }}
        className={`field-sizing-content h-8 max-w-full min-w-16 rounded-md border border-tape bg-paper-lit px-2 font-serif
          text-[17px] shadow-md outline-none`}
      />
      <p className="mt-1 w-max max-w-full rounded bg-paper px-2 py-0.5 text-[12px] text-soft shadow-sm">
        Enter saves, Tab goes to the next word, Esc cancels, Alt ↓ ↑ slower and faster
      </p>
    </div>
  )
}

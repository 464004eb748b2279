import { useEffect, useRef } from 'react'
import { PLACES } from '../../core/live/board'
import type { Board } from './useBoard'

const FIELDS = 'input:not([type=checkbox], [type=radio], [type=range]), textarea, select, [contenteditable=true]'

/** The keys of clips: each plays what is on it, with Shift for the reporter alone. By their place, whatever is printed there. */
export function useClipKeys(board: Board): void {
  const latest = useRef(board)
  latest.current = board
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const { ctrlKey, metaKey, altKey, shiftKey, code, target, repeat } = event
      const { places, moving, press, listen } = latest.current
      if (ctrlKey || metaKey || altKey || !PLACES.includes(code) || (!places.has(code) && !moving)) return
      if (target instanceof HTMLElement && target.matches(FIELDS)) return
      if (document.querySelector('[role=dialog], [role=menu]')) return
      event.preventDefault()
      event.stopPropagation()
      if (repeat) return
      if (shiftKey && !moving) listen(code)
      else press(code)
    }
    // before all others: somebody is on air
    window.addEventListener('keydown', onKey, true)
    return () => window.removeEventListener('keydown', onKey, true)
  }, [])
}

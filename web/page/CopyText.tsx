import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { caretAfter, changeOver, textChange, type TextChange } from '../../core/steps/text'
import { wordCount } from '../../core/page/timing'
import { run } from '../commands/commands'
import { useFrames } from '../sound/usePlayer'

interface Props {
  value: string
  label: string
  /** Whether the page is playing in a way in which this copy runs silent. */
  rehearsing: boolean
  /** How much of this block has passed, 0 to 1; null while another one runs. */
  share: () => number | null
  /** Takes each change as it is made, whatever made it: keys, paste, drag, a spelling correction, a composition. */
  onWrite: (change: TextChange) => void
  autoFocus?: boolean
  placeholder?: string
}

/**
 * Copy, to be written in place. Every change is kept as it is made; what others write meanwhile comes in
 * around it, and the caret stays with its words. While the line is rehearsed, the words that have passed are marked.
 */
export function CopyText({ value, label, rehearsing, share, onWrite, autoFocus = false, placeholder = 'Write here …' }: Props) {
  const [passed, setPassed] = useState<number | null>(null)
  useFrames(() => {
    const now = share()
    setPassed(now === null ? null : Math.ceil(now * wordCount(value)))
  }, rehearsing)
  if (rehearsing && passed !== null) return <Passing text={value} passed={passed} />
  return <WritingField value={value} label={label} autoFocus={autoFocus} placeholder={placeholder} onWrite={onWrite} />
}

function WritingField({ value, label, autoFocus, placeholder, onWrite }: Pick<Props, 'value' | 'label' | 'onWrite'> & { autoFocus: boolean; placeholder: string }) {
  const field = useRef<HTMLTextAreaElement>(null)
  /** What the field shows. During a composition it lacks what others write meanwhile: that would break it off. */
  const [shown, setShown] = useState(value)
  const composing = useRef(false)
  const latest = useRef({ value, shown })
  latest.current.value = value

  const caret = useRef<{ start: number; end: number } | null>(null)
  const comeIn = () => {
    const { value: now, shown: before } = latest.current
    if (composing.current || now === before) return
    const area = field.current
    if (area && document.activeElement === area) {
      const change = textChange(before, now)
      caret.current = { start: caretAfter(change, area.selectionStart), end: caretAfter(change, area.selectionEnd) }
    }
    latest.current.shown = now
    setShown(now)
  }
  useEffect(comeIn, [value])
  useLayoutEffect(() => {
    const at = caret.current
    caret.current = null
    if (at) field.current?.setSelectionRange(at.start, at.end)
  }, [shown])

  const write = (now: string) => {
    const { value: kept, shown: before } = latest.current
    const mine = textChange(before, now)
    latest.current.shown = now
    setShown(now)
    if (mine.length) onWrite(kept === before ? mine : changeOver(mine, textChange(before, kept)))
  }
  return (
    <textarea
      ref={field}
      aria-label={label}
      value={shown}
      autoFocus={autoFocus}
      placeholder={placeholder}
      rows={1}
      className="block w-full resize-none rounded border border-transparent bg-transparent px-1 font-serif text-[17px] leading-[1.42] field-sizing-content placeholder:text-faint hover:border-rule focus:border-tape focus:bg-paper-lit focus:outline-none"
      onChange={(event) => write(event.target.value)}
      onCompositionStart={() => (composing.current = true)}
      onCompositionEnd={(event) => {
        composing.current = false
        write(event.currentTarget.value)
        comeIn()
      }}
      onKeyDown={(event) => {
        if (event.nativeEvent.isComposing) return
        if (event.key === 'Escape') event.currentTarget.blur()
        // what was written is undone as all else: one's own, and past a reload
        const isUndo = (event.ctrlKey || event.metaKey) && !event.altKey && event.key.toLowerCase() === 'z'
        if (!isUndo) return
        event.preventDefault()
        run(event.shiftKey ? 'edit.redo' : 'edit.undo')
      }}
    />
  )
}

/** Copy while it is rehearsed: the words that have passed are marked. */
function Passing({ text, passed }: { text: string; passed: number }) {
  let count = 0
  return (
    <p className="px-1 font-serif text-[17px] leading-[1.42] whitespace-pre-wrap">
      {text.split(/(\s+)/).map((word, i) => {
        const spoken = /[\p{L}\p{N}]/u.test(word)
        if (spoken) count++
        const done = spoken && count <= passed
        return <span key={i} className={done ? 'bg-wash' : ''} data-passed={done ? '' : undefined}>{word}</span>
      })}
    </p>
  )
}

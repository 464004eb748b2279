import { useLayoutEffect, useRef, useState } from 'react'
import { caretAfter, changeOver, textChange, type TextChange } from '../../core/steps/text'
import { withoutNotes } from '../../core/page/notes'
import { plainWords } from '../../core/page/anchors'
import { run } from '../commands/commands'
import { useFrames } from '../sound/usePlayer'

interface Props {
  value: string
  /** The copy as it is in the document at this moment, which may be ahead of what was rendered. */
  current: () => string
  label: string
  /** Whether the page is playing in a way in which this copy runs silent. */
  rehearsing: boolean
  /** How much of this block has passed, 0 to 1; null while another one runs. */
  share: () => number | null
  /** Takes each change as it is made, whatever made it: keys, paste, drag, a spelling correction, a composition. */
  onWrite: (change: TextChange) => void
  autoFocus?: boolean
  placeholder?: string
  /** What leads out of the block, where the copy is one of several: ↵, ⌫ at its start, and a paste. Each true where it did something. */
  across?: {
    breakAt: (caret: number) => void
    joinUp: () => boolean
    pasteOver: (from: number, to: number, text: string) => boolean
  }
}

/**
 * Copy, to be written in place. Every change is kept as it is made; what others write meanwhile comes in
 * around it, and the caret stays with its words. While the line is rehearsed, the words that have passed are marked.
 */
export function CopyText({
  value,
  current,
  label,
  rehearsing,
  share,
  onWrite,
  across,
  autoFocus = false,
  placeholder = 'Write here …',
}: Props) {
  const [passed, setPassed] = useState<number | null>(null)
  useFrames(() => {
    const now = share()
    setPassed(now === null ? null : Math.ceil(now * plainWords(withoutNotes(value)).length))
  }, rehearsing)
  if (rehearsing && passed !== null) return <Passing text={value} passed={passed} />
  return <WritingField {...{ value, current, label, autoFocus, placeholder, onWrite, across }} />
}

/**
 * The field is changed by hand, not by rendering: what it shows and what is known of it change in the same
 * moment, so a key that is pressed while something else comes in is never taken for a change of that.
 */
function WritingField({
  value,
  current,
  label,
  autoFocus,
  placeholder,
  onWrite,
  across,
}: Pick<Props, 'value' | 'current' | 'label' | 'onWrite' | 'across'> & { autoFocus: boolean; placeholder: string }) {
  const field = useRef<HTMLTextAreaElement>(null)
  const [first] = useState(value)
  /** What the field shows. During a composition it lacks what others write meanwhile: that would break it off. */
  const shown = useRef(first)
  const composing = useRef(false)

  const comeIn = () => {
    const area = field.current
    const now = current()
    if (!area || composing.current || now === shown.current) return
    const change = textChange(shown.current, now)
    const [start, end] = [caretAfter(change, area.selectionStart), caretAfter(change, area.selectionEnd)]
    shown.current = now
    area.value = now
    if (document.activeElement === area) area.setSelectionRange(start, end)
  }
  useLayoutEffect(comeIn)

  const write = (now: string) => {
    const [before, kept] = [shown.current, current()]
    const mine = textChange(before, now)
    shown.current = now
    if (mine.length) onWrite(kept === before ? mine : changeOver(mine, textChange(before, kept)))
    comeIn()
  }
  return (
    <textarea
      ref={field}
      aria-label={label}
      defaultValue={first}
      autoFocus={autoFocus}
      placeholder={placeholder}
      rows={1}
      className={`block w-full resize-none rounded border border-transparent bg-transparent px-1 font-serif text-[17px]
        leading-[1.42] field-sizing-content placeholder:text-faint hover:border-rule focus:border-tape focus:bg-paper-lit
        focus:outline-none`}
      onChange={(event) => write(event.target.value)}
      onCompositionStart={() => (composing.current = true)}
      onCompositionEnd={(event) => {
        composing.current = false
        write(event.currentTarget.value)
      }}
      onPaste={(event) => {
        const { selectionStart, selectionEnd } = event.currentTarget
        if (across?.pasteOver(selectionStart, selectionEnd, event.clipboardData.getData('text/plain'))) event.preventDefault()
      }}
      onKeyDown={(event) => {
        if (event.nativeEvent.isComposing) return
        if (event.key === 'Escape') event.currentTarget.blur()
        const { selectionStart, selectionEnd } = event.currentTarget
        const plain = !event.shiftKey && !event.ctrlKey && !event.metaKey && !event.altKey && selectionStart === selectionEnd
        if (across && plain && event.key === 'Enter') {
          event.preventDefault()
          across.breakAt(selectionStart)
        }
        if (across && plain && event.key === 'Backspace' && selectionStart === 0 && across.joinUp()) event.preventDefault()
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
      {text.split(/(\[[^\]]*\]|\s+)/).map((word, i) => {
        const spoken = !word.startsWith('[') && /[\p{L}\p{N}]/u.test(word)
        if (spoken) count++
        const done = spoken && count <= passed
        return (
          <span key={i} className={done ? 'bg-wash' : ''} data-passed={done ? '' : undefined}>
            {word}
          </span>
        )
      })}
    </p>
  )
}

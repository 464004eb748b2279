import { useEffect, useRef, useState } from 'react'
import { wordCount } from '../../core/page/timing'
import { useFrames } from '../sound/usePlayer'

const PAUSE_MS = 700

/**
 * Copy, to be written in place. What is typed is kept after a short pause and on leaving; Escape
 * leaves and keeps. While the line is rehearsed, the words that have passed are marked.
 */
export function CopyText({ value, label, rehearsing, share, onKeep, autoFocus }: {
  value: string
  label: string
  /** Whether the page is playing in a way in which this copy runs silent. */
  rehearsing: boolean
  /** How much of this block has passed, 0 to 1; null while another one runs. */
  share: () => number | null
  onKeep: (text: string) => void
  autoFocus: boolean
}) {
  const [text, setText] = useState(value)
  const [passed, setPassed] = useState<number | null>(null)
  useFrames(() => {
    const now = share()
    setPassed(now === null ? null : Math.ceil(now * wordCount(text)))
  }, rehearsing)
  const editing = useRef(false)
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined)
  const keep = useRef(onKeep)
  keep.current = onKeep
  useEffect(() => {
    if (!editing.current) setText(value)
  }, [value])
  const store = (now: string) => {
    clearTimeout(timer.current)
    if (now !== value) keep.current(now)
  }
  if (rehearsing && passed !== null) {
    const words = text.split(/(\s+)/)
    let count = 0
    return (
      <p className="px-1 font-serif text-[17px] leading-[1.42] whitespace-pre-wrap">
        {words.map((word, i) => {
          const spoken = /[\p{L}\p{N}]/u.test(word)
          if (spoken) count++
          return (
            <span key={i} className={spoken && count <= passed ? 'bg-wash' : ''} data-passed={spoken && count <= passed ? '' : undefined}>
              {word}
            </span>
          )
        })}
      </p>
    )
  }
  return (
    <textarea
      aria-label={label}
      value={text}
      autoFocus={autoFocus}
      placeholder="Write here …"
      rows={1}
      className="block w-full resize-none rounded border border-transparent bg-transparent px-1 font-serif text-[17px] leading-[1.42] field-sizing-content placeholder:text-faint hover:border-rule focus:border-tape focus:bg-paper-lit focus:outline-none"
      onFocus={() => (editing.current = true)}
      onChange={(event) => {
        const now = event.target.value
        setText(now)
        clearTimeout(timer.current)
        timer.current = setTimeout(() => store(now), PAUSE_MS)
      }}
      onBlur={() => {
        editing.current = false
        store(text)
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') event.currentTarget.blur()
      }}
    />
  )
}

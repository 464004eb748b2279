import { useState, type InputHTMLAttributes } from 'react'
import { toast } from 'sonner'

/** What a field says of what it cannot read: `“soon” is not a length: 3:30, 3.30 and 210 are.` */
export const unread = (text: string, noun: string): string => `“${text.trim().slice(0, 40)}” is not a ${noun}`

/**
 * A figure that stands in the text and can be typed over. `read` gives null for what is none: that is said
 * (`hint` shows how to write it) and changes nothing. Enter keeps, Escape gives up.
 */
export function FigureInput<T>({
  label,
  value,
  read,
  noun,
  hint,
  onKeep,
  onEmpty,
  className = '',
  ...rest
}: Omit<InputHTMLAttributes<HTMLInputElement>, 'value'> & {
  label: string
  value: string
  read: (text: string) => T | null
  noun: string
  hint: string
  onKeep: (value: T) => void
  /** What an empty field means; without it, an empty field changes nothing. */
  onEmpty?: () => void
}) {
  const [text, setText] = useState<string | null>(null)
  const keep = () => {
    setText(null)
    if (text === null || text === value) return
    if (!text.trim()) return onEmpty?.()
    const kept = read(text)
    if (kept === null) toast.error(`${unread(text, noun)}. Type it as ${hint}.`)
    else onKeep(kept)
  }
  return (
    <input
      aria-label={label}
      className={`rounded border text-ink focus:border-tape focus:bg-paper-lit focus:outline-none ${className}`}
      value={text ?? value}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        const field = event.currentTarget
        if (event.key === 'Escape') setText(null)
        // what was typed has to be set back before the field is left
        if (event.key === 'Enter' || event.key === 'Escape') setTimeout(() => field.blur())
      }}
      {...rest}
    />
  )
}

import { useEffect, useState } from 'react'

/** A line of text that becomes a field when it is touched. Enter keeps it, Escape lets it be as it was. */
export function EditableText({
  value,
  label,
  onKeep,
  className = '',
  placeholder,
}: {
  value: string
  label: string
  onKeep: (value: string) => void
  className?: string
  placeholder?: string
}) {
  const [text, setText] = useState(value)
  useEffect(() => setText(value), [value])
  const keep = () => {
    if (text.trim() !== value) onKeep(text.trim())
  }
  return (
    <input
      aria-label={label}
      value={text}
      placeholder={placeholder}
      size={Math.max(4, (text || placeholder || '').length)}
      className={`min-h-6 max-w-full rounded border border-transparent bg-transparent px-1 -mx-1 field-sizing-content
        text-ellipsis hover:border-rule focus:border-tape focus:bg-paper-lit focus:outline-none ${className}`}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') {
          setText(value)
          requestAnimationFrame(() => (event.target as HTMLInputElement).blur())
        }
      }}
    />
  )
}

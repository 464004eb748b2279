import type { StoryHead } from '../../core/page/story'
import type { Term } from '../../core/recognise/terms'
import { EditableText } from '../ui/EditableText'

/** Names and terms that a story's tapes are likely to say: they help whoever recognises the words. */
export function TermsPanel({ head, onSet }: { head: StoryHead; onSet: (terms: Term[]) => void }) {
  const terms = head.terms ?? []
  const set = (index: number, fields: Partial<Term>) =>
    onSet(terms.map((term, i) => (i === index ? { ...term, ...fields } : term)).filter((term) => term.text))
  return (
    <div className="py-1.5 text-[13px]" data-testid="terms">
      <ul>
        {terms.map((term, i) => (
          <li key={term.text} className="flex items-center gap-2 border-b border-rule py-1">
            <EditableText
              label="Name or term"
              value={term.text}
              className="min-w-0 flex-1 font-medium"
              onKeep={(text) => set(i, { text })}
            />
            <EditableText
              label={`How “${term.text}” is said`}
              value={term.spoken}
              placeholder="as written"
              className="min-w-0 flex-1 text-soft"
              onKeep={(said) => set(i, { spoken: said })}
            />
          </li>
        ))}
      </ul>
      <p className="pt-1">
        <EditableText
          key={terms.length}
          label="Another name or term"
          value=""
          placeholder="another name or term"
          onKeep={(text) => text && onSet([...terms, { text: text.slice(0, 80), spoken: '' }])}
        />
      </p>
      <p className="pt-1 text-[12px] text-faint">Used for new transcripts.</p>
    </div>
  )
}

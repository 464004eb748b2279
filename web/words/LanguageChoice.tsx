/** What is spoken on a tape: words are recognised where somebody here knows the language. */

const KNOWN = 'en cy ga gd fr de nl es pt it da sv nb fi is pl cs sk uk ru ro hu el tr ar fa ur hi zh ja ko'.split(' ')
const names = new Intl.DisplayNames('en', { type: 'language' })

export function LanguageChoice({ value, onKeep }: { value: string; onKeep: (value: string) => void }) {
  return (
    <select
      aria-label="Language spoken"
      value={value}
      onChange={(event) => onKeep(event.target.value)}
      className="-mx-1 min-h-6 max-w-full rounded border border-transparent bg-transparent px-0.5 hover:border-rule focus:border-tape"
    >
      {[...new Set([value, ...KNOWN])].map((tag) => (
        <option key={tag} value={tag}>
          {names.of(tag)}
        </option>
      ))}
    </select>
  )
}

import { useState } from 'react'
import { phrasesIn, saidAt, type Dismissal } from '../../core/tidy/rules'
import type { Word } from '../../core/tape/words'
import { Button, Dialog } from '../ui/parts'
import { FINDER_KINDS } from './kinds'
import { speakerOf } from './BySpeaker'
import type { Place } from './useKinds'
import type { Tidy } from './useTidy'

const LINK = 'text-tape hover:underline'

/** What is settled for a kind: what is not offered, and which words count as fillers. Each is open to change. */
export function KindRules({ tidy }: { tidy: Tidy }) {
  const { kind, rules, tapes } = tidy
  const [writing, setWriting] = useState(false)
  const language = tidy.languageOf(tapes[0])
  const dismissedHere = (by: Dismissal) => by.scope === 'tape'
  return (
    <div className="mt-3 space-y-1 text-[12px] text-faint">
      {kind.name === 'fillers' && (
        <p>
          Words that count: um, uh, er, {phrasesIn(rules.rules, language).slice(0, 3).join(', ')} …{' '}
          <button type="button" className={LINK} onClick={() => setWriting(true)}>
            Edit
          </button>
        </p>
      )}
      {kind.dismissed.map(({ by, count }) => (
        <p key={by.id} data-testid="tidy-dismissed">
          {count} not offered:{' '}
          {by.scope === 'words' ? `“${by.words}”${by.speaker ? ` said by ${by.speaker}` : ''}` : 'dismissed for this tape'}{' '}
          <button type="button" className={LINK} onClick={() => rules.offerAgain(by.id)}>
            Offer again
          </button>
        </p>
      ))}
      {kind.open > 0 && tapes.length === 1 && !kind.dismissed.some(({ by }) => dismissedHere(by)) && (
        <button
          type="button"
          className="hover:text-ink hover:underline"
          onClick={() => rules.dismissAlways({ scope: 'tape', finder: kind.name, tape: tapes[0] })}
        >
          Don’t offer {FINDER_KINDS[kind.name].title.toLowerCase()} on this tape
        </button>
      )}
      {writing && <PhrasesDialog tidy={tidy} language={language} onClose={() => setWriting(false)} />}
    </div>
  )
}

/** What a speaker says so is not offered again, on any tape. */
export function NeverAgain({ tidy, place, words }: { tidy: Tidy; place: Place; words: readonly Word[] }) {
  const said = saidAt(words, place)
  const speaker = speakerOf(place, words) ?? ''
  const { name } = tidy.kind
  if (!said || name === 'retakes') return null
  const language = tidy.languageOf(place.tape)
  return (
    <button
      type="button"
      className="mt-2 text-left text-[12px] text-faint hover:text-ink hover:underline"
      onClick={() => tidy.rules.dismissAlways({ scope: 'words', finder: name, speaker, language, words: said.slice(0, 500) })}
    >
      Don’t offer “{said}” again{speaker && ` when ${speaker} says it`}
    </button>
  )
}

function PhrasesDialog({ tidy, language, onClose }: { tidy: Tidy; language: string; onClose: () => void }) {
  const { rules } = tidy
  const [text, setText] = useState(phrasesIn(rules.rules, language).join('\n'))
  const own = Object.hasOwn(rules.rules.phrases, language)
  const save = () => {
    const phrases = text.split('\n').map((line) => line.trim().slice(0, 80).trim())
    rules.setPhrases(language, [...new Set(phrases.filter(Boolean))].slice(0, 500))
    onClose()
  }
  return (
    <Dialog
      title="Filler words and phrases"
      open
      onClose={onClose}
      describe={`One a line, for all tapes in this language (${language}). They are found only where they stand alone.`}
    >
      <textarea
        aria-label="Filler words and phrases"
        value={text}
        rows={12}
        onChange={(event) => setText(event.target.value)}
        className="w-full rounded border border-rule bg-paper-lit p-3 font-serif text-[15px]"
      />
      <div className="mt-4 flex justify-end gap-2">
        {own && (
          <Button
            onClick={() => {
              rules.setPhrases(language, null)
              onClose()
            }}
          >
            Back to the usual ones
          </Button>
        )}
        <Button look="strong" onClick={save}>
          Save
        </Button>
      </div>
    </Dialog>
  )
}

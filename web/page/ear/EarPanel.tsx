import { Play, Square } from 'lucide-react'
import { wordsLength } from '../../../core/edits/actuality'
import { pieceWords } from '../../../core/edits/pieceWords'
import { inCue, outCue } from '../../../core/tape/words'
import { tradeLength } from '../../../core/time'
import { CommandKey } from '../../commands/CommandButton'
import { Heading, Side } from '../../shell/Shell'
import { player } from '../../sound/player'
import type { ByEar } from './useByEar'

/** The actualities that are not on the page yet, to be heard and put in order one after the other. */
export function EarPanel({ ear }: { ear: ByEar }) {
  const { left, at, playing, facts } = ear
  return (
    <Side label="Order by ear">
      <div className="flex items-baseline justify-between">
        <Heading>Order by ear</Heading>
        <button type="button" className="text-[12px] text-tape hover:underline" onClick={ear.close}>
          close <CommandKey id="select.clear" />
        </button>
      </div>
      <p className="pt-2 text-[13px] leading-relaxed text-soft">
        <CommandKey id="page.previous" /> <CommandKey id="page.next" /> hear one, <CommandKey id="page.write" /> puts it next on the page,
        below what is chosen there.
      </p>
      {!left.length && <p className="py-3 text-soft">All are on the page.</p>}
      <ul data-testid="by-ear" className="pt-2">
        {left.map((row) => {
          const words = facts ? pieceWords(row.body.spans, facts.wordsOf, row.body.sides) : []
          const here = row.id === at
          const sounds = here && playing
          return (
            <li key={row.id} aria-current={here || undefined} className={`border-b border-rule px-2 py-2.5 ${here ? 'bg-wash' : ''}`}>
              <div className="flex items-center gap-2">
                <button
                  type="button"
                  aria-label={sounds ? `Stop ${row.body.slug}` : `Hear ${row.body.slug}`}
                  className="rounded-full border border-rule p-1.5 hover:border-ink"
                  onClick={() => (sounds ? player.stop() : ear.hear(row))}
                >
                  {sounds ? <Square size={11} fill="currentColor" /> : <Play size={11} fill="currentColor" />}
                </button>
                <span className="min-w-0 flex-1 truncate font-medium">{row.body.slug || 'Untitled'}</span>
                <span className="font-semibold">{tradeLength(wordsLength(row.body))}</span>
              </div>
              {row.body.speaker && <p className="pl-[34px] text-[12.5px] text-soft">{row.body.speaker}</p>}
              {words.length > 0 && (
                <p className="pl-[34px] font-serif text-[14px] leading-snug text-tape">
                  {inCue(words)} … {outCue(words, 4)}
                </p>
              )}
              {here && (
                <button type="button" className="pl-[34px] text-[12px] text-tape hover:underline" onClick={() => ear.place(row)}>
                  put it next
                </button>
              )}
            </li>
          )
        })}
      </ul>
    </Side>
  )
}

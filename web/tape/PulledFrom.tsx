import { format, parseISO } from 'date-fns'
import { Link } from 'react-router'
import type { PieceRow } from '../../contract/desk'
import type { Use } from '../../contract/tapes'
import { pieceWords, type WordsOf } from '../../core/edits/pieceWords'
import { cueLine } from '../../core/tape/words'
import { tradeLength } from '../../core/time'
import { CommandKey } from '../commands/CommandButton'

/** What was pulled from a tape, with its cues. */
export function PulledFrom({ uses, pieces, wordsOf }: { uses: readonly Use[]; pieces: readonly PieceRow[] | undefined; wordsOf: WordsOf }) {
  return (
    <>
      {uses.length === 0 && (
        <p className="py-3 text-faint">
          Nothing yet. Select a passage and press <CommandKey id="edit.pull" />
        </p>
      )}
      <ul>
        {uses.map((use) => {
          const piece = pieces?.find((row) => row.id === use.piece)
          const text = piece ? pieceWords(piece.body.spans, wordsOf, piece.body.sides) : []
          return (
            <li key={use.piece} className={`border-b border-rule ${use.aside ? 'opacity-60' : ''}`}>
              <Link to={`/pieces/${use.piece}`} className="block py-2.5 hover:bg-paper-low">
                <span className="flex justify-between gap-3 font-semibold">
                  <span className="min-w-0 truncate">{use.slug || 'Untitled'}</span>
                  <span>{tradeLength(use.words)}</span>
                </span>
                {text.length > 0 && <span className="block font-serif text-[13px] text-soft italic">“{cueLine(text)}”</span>}
                <span className="block text-[12px] text-faint">
                  pulled {format(parseISO(use.at), 'd MMM, HH:mm')}
                  {use.aside ? ', set aside' : ''}
                </span>
              </Link>
            </li>
          )
        })}
      </ul>
    </>
  )
}

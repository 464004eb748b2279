import { useMemo } from 'react'
import { Link } from 'react-router'
import type { Actuality } from '../../../core/edits/actuality'
import { pieceWords } from '../../../core/edits/pieceWords'
import { inCue, outCue, type Word } from '../../../core/tape/words'

/** What an actuality says, its cues in full; it leads to the Bench. */
export function ActualityText({
  piece,
  wordsOf,
  id,
}: {
  piece: Actuality | undefined
  wordsOf?: (tape: string) => readonly Word[]
  id: string | null
}) {
  const text = useMemo(() => (piece && wordsOf ? pieceWords(piece.spans, wordsOf, piece.sides) : []), [piece, wordsOf])
  if (!piece) return <p className="px-1 py-1 text-faint">The piece is missing.</p>
  const lead = inCue(text)
  const end = outCue(text, 3)
  const middle = text
    .slice(4, -3)
    .map((word) => word.text)
    .join(' ')
  return (
    <Link to={`/pieces/${id}`} className="block px-1 font-serif text-[17px] leading-[1.42] text-tape hover:underline">
      {text.length > 7 ? (
        <>
          <strong>{lead}</strong> {shortened(middle, 150)} <strong>{end}</strong>
        </>
      ) : text.length ? (
        <strong>{text.map((word) => word.text).join(' ')}</strong>
      ) : (
        <em>{piece.slug}</em>
      )}
    </Link>
  )
}

/** As many whole words as go into so many letters. */
const shortened = (text: string, letters: number): string =>
  text.length <= letters ? text : `${text.slice(0, text.lastIndexOf(' ', letters - 20))} …`

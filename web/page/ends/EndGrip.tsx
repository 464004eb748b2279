import { useState, type PointerEvent } from 'react'
import { clipLength, wordsLength, type Actuality } from '../../../core/edits/actuality'
import type { End } from '../../../core/edits/ends'
import { pieceWords, type WordsOf } from '../../../core/edits/pieceWords'
import { RATE, type Frames } from '../../../core/time'

interface Drawn {
  /** Where the hand took hold of it, in pixels. */
  y: number
  /** Frames of the piece that a pixel of the bar stands for. */
  perPixel: number
  /** Where the words begin, or end, and what they are. */
  edges: readonly { at: Frames; text: string }[]
  place: Frames
  /** The word that it lies at; null where it was drawn out, or nothing is said. */
  word: string | null
}

interface Props {
  end: End
  piece: Actuality
  wordsOf: WordsOf
  /** It was let go at a place of the piece: before 0, or past its length, where it was drawn out. */
  onDrop: (place: Frames) => void
}

/** An end of a bar, to be drawn further in, to the edge of a word, or out again into the tape. */
export function EndGrip({ end, piece, wordsOf, onDrop }: Props) {
  const [drawn, setDrawn] = useState<Drawn | null>(null)
  const edge = end === 'head' ? piece.head : clipLength(piece) - piece.tail
  const begin = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0) return
    event.stopPropagation()
    event.currentTarget.setPointerCapture(event.pointerId)
    const { height } = event.currentTarget.parentElement!.getBoundingClientRect()
    const edges = pieceWords(piece.spans, wordsOf, piece.sides).map(({ at, end: to, text }) => ({ at: end === 'head' ? at : to, text }))
    setDrawn({ y: event.clientY, perPixel: wordsLength(piece) / height, edges, place: edge, word: null })
  }
  /** Within the piece the nearest edge of a word; beyond its end as much tape as the hand has gone past it. */
  const draw = (from: Drawn, clientY: number) => {
    const place = Math.round(edge + (clientY - from.y) * from.perPixel)
    if (!from.edges.length || (end === 'head' ? place < edge : place > edge)) return setDrawn({ ...from, place, word: null })
    const nearest = from.edges.reduce((best, one) => (Math.abs(one.at - place) < Math.abs(best.at - place) ? one : best))
    setDrawn({ ...from, place: nearest.at, word: nearest.text })
  }
  const drop = () => {
    if (drawn && drawn.place !== edge) onDrop(beyondIts(piece, end, drawn.place, edge))
    setDrawn(null)
  }
  const by = drawn ? drawn.place - edge : 0
  return (
    <span
      data-testid={`end-grip-${end}`}
      title={end === 'head' ? 'Drag it: the start goes in, or out into the tape' : 'Drag it: the end goes in, or out into the tape'}
      className={`absolute inset-x-0 z-[5] flex h-[12px] cursor-ns-resize touch-none justify-center in-data-far:hidden
        ${end === 'head' ? 'top-[4px]' : 'bottom-[4px] items-end'}`}
      onClick={(event) => event.stopPropagation()}
      onPointerDown={begin}
      onPointerMove={({ clientY }) => drawn && draw(drawn, clientY)}
      onPointerUp={drop}
      onPointerCancel={() => setDrawn(null)}
    >
      <span
        className={`h-[5px] w-7 rounded-full bg-tape ring-2 ring-paper
          ${drawn ? '' : 'opacity-0 group-hover:opacity-100 group-aria-[current]:opacity-100'}`}
      />
      {drawn && by !== 0 && (
        <span
          className="pointer-events-none absolute inset-x-0 border-t-2 border-tape"
          style={{ [end === 'head' ? 'top' : 'bottom']: (end === 'head' ? by : -by) / drawn.perPixel - 4 }}
        >
          <span
            className={`absolute top-0.5 right-full z-20 mr-1 rounded-sm bg-tape px-1.5 text-[11px] font-semibold
              whitespace-nowrap text-paper`}
          >
            {(end === 'head') === by < 0 ? '+' : '−'}
            {(Math.abs(by) / RATE).toFixed(1)} s{drawn.word && ` ${end === 'head' ? 'from' : 'to'} “${drawn.word}”`}
          </span>
        </span>
      )}
    </span>
  )
}

/** A place past where the words begin or end, told from the piece's own end: what lies between is a handle, and is there already. */
function beyondIts(piece: Actuality, end: End, place: Frames, edge: Frames): Frames {
  if (end === 'head') return place < edge ? place - edge : place
  return place > edge ? clipLength(piece) + place - edge : place
}

import { useState } from 'react'
import type { PieceRow } from '../../../contract/desk'
import type { TapeInfo } from '../../../contract/tapes'
import { clipLength } from '../../../core/edits/actuality'
import { likely, type Under } from '../../story/layUnder'
import { TapeChoices } from '../../story/TapeChoices'
import { Choice, Dialog } from '../../ui/parts'

interface Props {
  /** Tapes of the story, which come first. */
  own: readonly string[]
  /** Tapes that hold voice tracks: nobody lays these under something, so they come last. */
  voiced: ReadonlySet<string>
  /** What it will lie under: `under 3 blocks`. */
  where: string
  onPick: (tape: TapeInfo, under: Under) => void
  pieces: readonly PieceRow[]
  onPiece: (piece: PieceRow) => void
  onClose: () => void
}

/** Chooses what lies under: likely ambience and music first, found by typing, taken with ↵. */
export function LayUnderDialog({ own, voiced, where, pieces, onPiece, onPick, onClose }: Props) {
  const [as, setAs] = useState<Under | 'likely'>('likely')
  const kind = (tape: TapeInfo): Under => (as === 'likely' ? likely(tape.name) : as)
  return (
    <Dialog open title="Lay sound under" describe={where} onClose={onClose}>
      <TapeChoices
        rank={(tape) => (voiced.has(tape.id) ? 4 : tape.hasWords ? 2 : 0) + (own.includes(tape.id) ? 0 : 1)}
        note={kind}
        others={pieces.map((row) => ({
          id: row.id,
          name: row.body.slug || 'Untitled',
          note: 'piece',
          frames: clipLength(row.body),
          onPick: () => onPiece(row),
        }))}
        testId="under-tapes"
        onPick={(tape) => onPick(tape, kind(tape))}
      />
      <Choice
        label="Lay it as"
        value={as}
        onChange={setAs}
        options={[
          ['likely', 'By its name'],
          ['ambience', 'Ambience: goes on as long as it is wanted'],
          ['music', 'Music: plays to its end'],
          ['effect', 'Effect: stays up, whoever speaks'],
        ]}
      />
    </Dialog>
  )
}

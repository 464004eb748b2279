import type { TapeInfo } from '../../../contract/tapes'
import type { Actuality } from '../../../core/edits/actuality'
import { effectsInWords } from '../../mend/effectsInWords'
import { didInWords } from '../../mend/didInWords'

/** What was done to the sound of a piece's tapes as it is heard, for whoever asks whether that is still how they sounded. */
export function Mended({ piece, tapes }: { piece: Actuality; tapes: readonly TapeInfo[] }) {
  const mended = tapes.flatMap((tape) =>
    (piece.sides?.[tape.id] ?? tape.sides).flatMap(({ name, rendition }) => {
      const made = tape.renditions.find(({ id, state }) => id === rendition && state === 'ready')
      return made ? [{ key: `${tape.id} ${name}`, whose: name || tape.name, made }] : []
    }),
  )
  if (!mended.length) return null
  return (
    <ul className="mt-8 border-t border-rule pt-3 text-[13px] text-soft" data-testid="mended">
      {mended.map(({ key, whose, made }) => (
        <li key={key}>
          The sound of {whose} was mended: {made.name}
          {made.did && ` (${didInWords(made.did).join(', ')})`}.
          {made.effects.length > 0 && (
            <strong className="block text-cut-ink">
              Effect on the words of {whose}: {effectsInWords(made.effects)}.
            </strong>
          )}
        </li>
      ))}
    </ul>
  )
}

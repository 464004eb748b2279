import type { TapeInfo } from '../../contract/tapes'
import type { Block } from '../../core/page/story'
import { TapeChoices } from '../story/TapeChoices'
import { Dialog } from '../ui/parts'

interface Props {
  lines: readonly Block[]
  /** Tapes of the story, which come first. */
  own: readonly string[]
  onPick: (tape: TapeInfo) => void
  onClose: () => void
}

/** Chooses the tape that lines were read on, wherever it was recorded. */
export function LayTapeDialog({ lines, own, onPick, onClose }: Props) {
  const what = lines.length === 1 ? 'the line' : `${lines.length} lines`
  return (
    <Dialog
      open
      title="Find the lines on a tape"
      describe={`Looks for ${what} by what is said. Each goes to its block as a voice track; the last whole one counts.`}
      onClose={onClose}
    >
      <TapeChoices rank={(tape) => (own.includes(tape.id) ? 0 : 1)} onPick={onPick} testId="voiced-tapes" />
    </Dialog>
  )
}

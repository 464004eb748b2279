import { parseFigure } from '../../../core/typed'
import { FigureInput } from '../../ui/FigureInput'

/** How loud a block is, which can be typed over; where it jumps from the voice before, that is said. */
export function BlockLevel({
  loudness,
  jump,
  onTurn,
}: {
  /** In LUFS; null where it is not known. */
  loudness: number | null
  /** How much louder it is than the voice before it, in LU; null where that is little. */
  jump: number | null
  /** In dB. */
  onTurn: (by: number) => void
}) {
  if (loudness === null) return null
  const signed = (value: number) => value.toFixed(1).replace('-', '−')
  return (
    <span className="flex flex-col items-end text-[11px] text-faint" data-testid="block-level">
      <FigureInput
        label="Loudness in LUFS"
        value={signed(loudness)}
        read={(text) => {
          const value = parseFigure(text)
          return value !== null && value >= -60 && value <= 0 ? value : null
        }}
        noun="loudness"
        hint="-23, in LUFS"
        title="Loudness of the voice in LUFS"
        onKeep={(wanted) => onTurn(wanted - loudness)}
        className="w-12 border-transparent bg-transparent px-1 text-right text-[11px] text-faint hover:border-rule"
      />
      {jump !== null && (
        <span className="text-right leading-tight text-cut-ink">
          {Math.round(Math.abs(jump))} LU {jump > 0 ? 'up' : 'down'}
        </span>
      )}
    </span>
  )
}

import type { Plan } from '../../../core/render/plan'
import { USUAL_LOUDNESS, type Output, type StoryStep } from '../../../core/page/story'
import { CommandButton } from '../../commands/CommandButton'
import { useCommands } from '../../commands/commands'
import { inLUFS, useMix } from './useMix'

const inDBTP = (peak: number): string => `${peak.toFixed(1).replace('-', '−')} dBTP`

interface Props {
  /** The file as it would be sent. */
  plan: Plan | null
  output: Output
  act: (steps: StoryStep[], label: string) => void
  /** There is little room beside it. */
  narrow: boolean
}

/** Loudness and true peak of the file, and the way to its target. It is drawn by itself: it is known a moment after each act. */
export function MixFigures({ plan, output, act, narrow }: Props) {
  const mix = useMix(plan, output.loudness ?? USUAL_LOUDNESS)
  const bringToTarget = () => {
    if (mix.away === null) return
    const gain = Math.round(((output.gain ?? 0) - mix.away) * 100) / 100
    act([{ type: 'set', id: output.id, key: 'gain', value: gain }], 'bring to target')
  }
  useCommands({ 'page.target': { run: bringToTarget, unable: mix.away === null ? 'The loudness is being measured.' : null } })
  if (mix.state === 'nothing') return null
  if (mix.state !== 'known')
    return (
      <span className="text-[13px] text-faint" data-testid="mix">
        {mix.state === 'measuring' ? 'measuring …' : 'loudness unknown'}
      </span>
    )
  return (
    <span className="flex items-baseline gap-2 text-[13px] whitespace-nowrap" data-testid="mix">
      <span
        className={mix.onTarget ? 'text-ink' : 'font-semibold text-cut-ink'}
        title={`Target ${inLUFS(mix.target)}; loudest three seconds ${inLUFS(mix.shortTerm)}; true peak ${inDBTP(mix.truePeak)}`}
      >
        {inLUFS(mix.integrated)}
      </span>
      {mix.onTarget ? (
        <span className="text-faint max-[1360px]:hidden">{inDBTP(mix.truePeak)}</span>
      ) : (
        <span className={narrow ? 'max-[1360px]:hidden' : ''}>
          <CommandButton id="page.target" look="bare">
            → {inLUFS(mix.target).replace(' LUFS', '')}
          </CommandButton>
        </span>
      )}
    </span>
  )
}

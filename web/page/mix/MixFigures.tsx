import { CommandButton } from '../../commands/CommandButton'
import { inLUFS, type useMix } from './useMix'

const inDBTP = (peak: number): string => `${peak.toFixed(1).replace('-', '−')} dBTP`

/** Loudness and true peak of the file, and the way to its target. */
export function MixFigures({ mix }: { mix: ReturnType<typeof useMix> }) {
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
        <CommandButton id="page.target" look="bare">
          → {inLUFS(mix.target).replace(' LUFS', '')}
        </CommandButton>
      )}
    </span>
  )
}

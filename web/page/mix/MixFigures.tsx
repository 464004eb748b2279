import { useEffect, useRef } from 'react'
import type { Plan } from '../../../core/render/plan'
import type { Output, StoryStep } from '../../../core/page/story'
import { CommandButton } from '../../commands/CommandButton'
import { useCommands } from '../../commands/commands'
import { useHouseLoudness } from '../../send/useHouseLoudness'
import { setTurned } from './turned'
import { inLUFS, useMix } from './useMix'

/** So near to its target a mix is left as it is, in LU; it is looked at again so many times at most. */
const NEAR = 0.05
const LOOKS = 3

const inDBTP = (peak: number): string => `${peak.toFixed(1).replace('-', '−')} dBTP`

interface Props {
  /** The file as it would be sent. */
  plan: Plan | null
  output: Output
  act: (steps: StoryStep[], options: { label: string; together?: string }) => void
  /** There is little room beside it. */
  narrow: boolean
}

/** Loudness and true peak of the file, and the way to its target. It is drawn by itself: it is known a moment after each act. */
export function MixFigures({ plan, output, act, narrow }: Props) {
  const mix = useMix(plan, useHouseLoudness(output))
  const { away, turned } = mix
  useEffect(() => void (turned && setTurned(turned)), [turned])
  useEffect(() => () => setTurned([]), [])
  /** The way to the target: what is turned down for safety is so no longer, or only then, so it may take a second look. */
  const way = useRef<{ gain: number; left: number; together: string } | null>(null)
  const turnBy = (by: number, left: number, together: string) => {
    const gain = Math.round(((output.gain ?? 0) + by) * 100) / 100
    way.current = { gain, left, together }
    act([{ type: 'set', id: output.id, key: 'gain', value: gain }], { label: 'bring to target', together })
  }
  const bringToTarget = () => away !== null && turnBy(-away, LOOKS, crypto.randomUUID())
  useEffect(() => {
    const { current } = way
    if (!current || away === null) return
    way.current = null
    if (output.gain === current.gain && current.left > 0 && Math.abs(away) > NEAR) turnBy(-away, current.left - 1, current.together)
    // it is looked at once whenever it was measured anew
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [away])
  useCommands({ 'page.target': { run: bringToTarget, unable: away === null ? 'The loudness is being measured.' : null } })
  if (mix.state === 'nothing') return null
  if (mix.state !== 'known')
    return (
      <span className="text-[13px] text-faint" data-testid="mix">
        {mix.state === 'measuring' ? 'measuring …' : 'loudness unknown'}
      </span>
    )
  const most = mix.turned.reduce((dB, one) => Math.max(dB, one.dB), 0)
  const safety = most ? `; turned down by ${most.toFixed(1)} dB at most where it is far too loud` : ''
  return (
    <span className="flex items-baseline gap-2 text-[13px] whitespace-nowrap" data-testid="mix">
      <span
        className={mix.onTarget ? 'text-ink' : 'font-semibold text-cut-ink'}
        title={`Target ${inLUFS(mix.target)}; loudest three seconds ${inLUFS(mix.shortTerm)}; true peak ${inDBTP(mix.truePeak)}${safety}`}
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

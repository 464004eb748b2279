import { toast } from 'sonner'
import { USUAL_LOUDNESS, type StoryStep } from '../../../core/page/story'
import type { Handlers } from '../../commands/commands'
import type { usePage } from '../laid/usePage'
import { inLUFS, useMix } from './useMix'
import { useVoiceLevels } from './useVoiceLevels'

/** How loud the voices of a page and the whole of it are, and what brings them to where they should be. */
export function usePageMix(
  { output, spine, known, facts, filePlan }: ReturnType<typeof usePage>,
  act: (steps: StoryStep[], label: string) => void,
) {
  const target = output.loudness ?? USUAL_LOUDNESS
  const voices = useVoiceLevels({ spine, known, factsOf: facts?.factsOf, target })
  const mix = useMix(filePlan, target)
  const level = () => {
    const steps = voices.levelling()
    if (!steps.length) return void toast('All speakers are at one level.')
    act(steps, 'level all speakers')
    toast(`${steps.length} ${steps.length === 1 ? 'block' : 'blocks'} brought to ${inLUFS(target)}.`)
  }
  const bringToTarget = () => {
    if (mix.away === null) return
    const gain = Math.round(((output.gain ?? 0) - mix.away) * 100) / 100
    act([{ type: 'set', id: output.id, key: 'gain', value: gain }], 'bring to target')
  }
  const commands: Handlers = {
    'page.level': { run: level, unable: voices.middle === null ? 'Nobody’s level is measured yet.' : null },
    'page.target': { run: bringToTarget, unable: mix.away === null ? 'The loudness is being measured.' : null },
  }
  return { voices, mix, commands }
}

import { toast } from 'sonner'
import { USUAL_LOUDNESS, type StoryStep } from '../../../core/page/story'
import type { Handlers } from '../../commands/commands'
import type { usePage } from '../laid/usePage'
import { inLUFS } from './useMix'
import { useVoiceLevels } from './useVoiceLevels'

/** How loud the voices of a page are, and what brings them to one level. */
export function useLevelling(
  { output, spine, known, facts }: ReturnType<typeof usePage>,
  act: (steps: StoryStep[], label: string) => void,
) {
  const target = output.loudness ?? USUAL_LOUDNESS
  const voices = useVoiceLevels({ spine, known, factsOf: facts?.factsOf, target })
  const level = () => {
    const steps = voices.levelling()
    if (!steps.length) return void toast('All speakers are at one level.')
    act(steps, 'level all speakers')
    toast(`${steps.length} ${steps.length === 1 ? 'block' : 'blocks'} brought to ${inLUFS(target)}.`)
  }
  const unable = voices.middle === null ? 'Nobody’s level is measured yet.' : null
  return { voices, commands: { 'page.level': { run: level, unable } } satisfies Handlers }
}

import { sameProgramme } from '../../contract/programmes'
import { USUAL_LOUDNESS, type Output } from '../../core/page/story'
import { useProgrammes } from './queries'

/** What an output is to be as loud as, in LUFS: what is set for it, else by its programme, else as usual. */
export function useHouseLoudness({ client, loudness }: Output): number {
  const { data } = useProgrammes()
  return loudness ?? data?.find(({ name }) => client && sameProgramme(name, client))?.format.loudness ?? USUAL_LOUDNESS
}

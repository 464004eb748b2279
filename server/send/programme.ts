import { sameProgramme, type Programme } from '../../contract/programmes'
import type { Output } from '../../core/page/story'
import { USUAL_LOUDNESS } from '../../core/page/story'
import type { Services } from '../services'

/** What a programme's output is to be as loud as, in LUFS: what is set for it, else by its programme, else as usual. */
export async function loudnessFor({ database }: Services, { client, loudness }: Output): Promise<number> {
  if (loudness !== null) return loudness
  const programmes = client ? await database.query<Programme[]>('select name, format from programme') : []
  return programmes.find(({ name }) => sameProgramme(name, client))?.format.loudness ?? USUAL_LOUDNESS
}

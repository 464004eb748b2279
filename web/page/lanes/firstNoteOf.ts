import type { TapeInfo } from '../../../contract/tapes'
import { firstNote } from '../../../core/page/firstNote'
import { PEAK_LEVELS } from '../../../core/sound/peaks'
import { toFrames, type Frames } from '../../../core/time'
import { getBytes } from '../../api/client'

const LEVEL = 1
/** Music that begins later than this begins late on purpose. */
const WITHIN: Frames = toFrames(30)

/** Where the music on a tape begins to be heard; 0 where that cannot be told. */
export async function firstNoteOf({ id }: Pick<TapeInfo, 'id'>): Promise<Frames> {
  const bins = Math.ceil(WITHIN / PEAK_LEVELS[LEVEL])
  const peaks = await getBytes(`/tapes/${id}/peaks/sound/0/${LEVEL}?from=0&to=${bins}`).catch(() => new ArrayBuffer(0))
  return firstNote(new Int16Array(peaks), PEAK_LEVELS[LEVEL])
}

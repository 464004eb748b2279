import type { TapeInfo } from '../../../contract/tapes'
import { afterLastNote, firstNote } from '../../../core/page/musicEnds'
import { PEAK_LEVELS } from '../../../core/sound/peaks'
import { toFrames, type Frames } from '../../../core/time'
import { getBytes } from '../../api/client'

const LEVEL = 1
const BIN: Frames = PEAK_LEVELS[LEVEL]
/** Music that begins later than this begins late on purpose, and so does music that ends sooner. */
const WITHIN: Frames = toFrames(30)

/** Where the music on a tape begins to be heard; 0 where that cannot be told. */
export const firstNoteOf = async (tape: Of): Promise<Frames> => firstNote(await peaksOf(tape, 0, WITHIN), BIN)

/** Where the music on a tape has died away; its end where that cannot be told. */
export const lastNoteOf = async (tape: Of): Promise<Frames> =>
  tape.frames - afterLastNote(await peaksOf(tape, Math.max(0, tape.frames - WITHIN), tape.frames), BIN)

type Of = Pick<TapeInfo, 'id' | 'frames'>

async function peaksOf({ id }: Of, from: Frames, to: Frames): Promise<Int16Array> {
  const [first, last] = [Math.floor(from / BIN), Math.ceil(to / BIN)]
  return new Int16Array(await getBytes(`/tapes/${id}/peaks/sound/0/${LEVEL}?from=${first}&to=${last}`).catch(() => new ArrayBuffer(0)))
}

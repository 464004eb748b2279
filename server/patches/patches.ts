import { join } from 'node:path'
import type { Twin } from '../../contract/twins'
import type { Stretch } from '../../core/time'
import { Refusal } from '../problem'
import type { Services } from '../services'
import { tapeInfo } from '../tapes'
import { runThread } from '../thread'
import { tapeWords } from '../words'
import type { SeekTwinsOrder } from './seekTwins'

const OFFERED = 9

/** What may be laid over a spot of a tape, best first. On a tape with sides it is sought on the side that speaks there. */
export async function twinsOf({ database, config }: Services, tape: string, spot: Stretch): Promise<Twin[]> {
  const [info, words] = await Promise.all([tapeInfo(database, tape), tapeWords(database, tape)])
  if (info.state !== 'ready') throw new Refusal(409, 'Not all there', 'This tape is still arriving. Patches can be found once all of it is in.')
  if (spot.to > info.frames) throw new Refusal(400, 'Not on the tape', 'That spot lies beyond the end of the tape.')
  const speaking = words.find((word) => word.to > spot.from && word.from < spot.to)?.speaker
  const side = info.sides.find(({ name }) => name === speaking) ?? info.sides[0]
  const order: SeekTwinsOrder = { media: join(config.data, 'media'), tape, channel: side.channels[0], frames: info.frames, spot, words, off: info.off, count: OFFERED }
  let found: Twin[] = []
  await runThread<Twin[]>('seekTwins', order, (twins) => void (found = twins))
  return found
}

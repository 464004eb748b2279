import { join } from 'node:path'
import { toFacts } from '../../contract/tapes'
import type { FoundBy, Twin } from '../../contract/twins'
import { soundOf } from '../../core/tape/renditions'
import type { Stretch } from '../../core/time'
import { TapeEntity } from '../entities'
import { Refusal } from '../problem'
import type { Services } from '../services'
import { tapeInfo } from '../tapes'
import { runThread } from '../thread'
import { tapeWords } from '../words'
import type { MakeLooksOrder } from './makeLooks'
import type { SeekTwinsOrder } from './seekTwins'

const OFFERED = 9

/** What may be laid over a spot of a tape, best first. On a tape with sides it is sought on the side that speaks there. */
export async function twinsOf(
  { database, config }: Services,
  tape: string,
  { by, heard, ...spot }: Stretch & { by: FoundBy; heard?: string },
): Promise<Twin[]> {
  const [info, words] = await Promise.all([tapeInfo(database, tape), tapeWords(database, tape)])
  if (info.state !== 'ready')
    throw new Refusal(409, 'Not all there', 'This tape is still arriving. Patches can be found once all of it is in.')
  if (spot.to > info.frames) throw new Refusal(400, 'Not on the tape', 'That spot lies beyond the end of the tape.')
  const speaking = words.find((word) => word.to > spot.from && word.from < spot.to)?.speaker
  const side = info.sides.find(({ name }) => name === speaking) ?? info.sides[0]
  // as the piece has it, or else the tape
  const rendition =
    heard === undefined
      ? side.rendition
      : info.renditions.find(({ id, channels }) => heard.split(',').includes(id) && channels.join() === side.channels.join())?.id
  const order: SeekTwinsOrder = {
    media: join(config.data, 'media'),
    sound: soundOf(toFacts(info), { rendition }),
    channel: side.channels[0],
    frames: info.frames,
    spot,
    words,
    off: info.off,
    count: OFFERED,
    by,
  }
  let found: Twin[] = []
  await runThread<Twin[]>('seekTwins', order, (twins) => void (found = twins))
  return found
}

/** Has what patches are sought in at hand before anybody seeks one: for an hour of sound it takes a while to make. */
export async function makeLooks({ database, config, store }: Services, { tape }: { tape: string }): Promise<void> {
  const row = await database.manager.findOneBy(TapeEntity, { id: tape, state: 'ready' })
  if (!row) return
  const order: MakeLooksOrder = { media: join(config.data, 'media'), tape, channels: row.channels, frames: row.frames }
  await runThread('makeLooks', order, () => undefined)
  await database.manager.update(TapeEntity, { id: tape }, { disk: await store.sizeOfAll(store.tape(tape)) })
}

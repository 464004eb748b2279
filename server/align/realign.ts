import { randomUUID } from 'node:crypto'
import { placed, unplaced } from '../../core/transcript/around'
import { timingOf, type Transcript, type TranscriptStep } from '../../core/transcript/transcript'
import { amend } from '../documents/submit'
import { log } from '../log'
import { RECOGNISER } from '../recognise/recognise'
import type { Services } from '../services'
import { tapeInfo } from '../tapes'
import { align } from './align'

/** Words that were written are put on the sound, at once and only around the place. */
export async function realign(services: Services, document: string, tape: string): Promise<void> {
  try {
    const [[{ body }], { sides, frames }] = await Promise.all([
      services.database.query<{ body: Transcript }[]>('select body from document where id = $1', [document]),
      tapeInfo(services.database, tape),
    ])
    for (const { words, stretch } of unplaced(body, frames)) {
      const run = words.map((at) => body.words[at])
      // with a voice of its own on a side, only that side is listened to
      const side = sides[Number(/^s(\d+)$/.exec(run[0].voice ?? '')?.[1]) - 1]
      const channels = side ? side.channels : sides.flatMap((one) => one.channels)
      const places = await align(
        services,
        tape,
        channels,
        stretch,
        run.map(({ text }) => text),
      )
      await amend<Transcript, TranscriptStep>(
        services.database,
        document,
        { id: randomUUID(), author: RECOGNISER, label: 'put on the sound', quiet: true },
        (now) => {
          // what somebody has changed meanwhile is looked at again by whoever was called for it
          const same = (at: number) => now.words[at]?.text === body.words[at].text && now.words[at].from === body.words[at].from
          const moves = words.every(same)
            ? placed(body, { words }, places).map(({ at, place }) => ({ at, was: timingOf(now.words[at]), now: place }))
            : []
          return moves.length ? [{ type: 'times', moves }] : []
        },
      )
    }
  } catch (error) {
    // the words are there, and about where they sound
    log.error({ error, document }, 'putting words on the sound')
  }
}

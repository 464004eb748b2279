import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import type { TapeFigures } from '../../core/hearing/ear'
import type { Turn } from '../../core/speakers/tellApart'
import { suggested } from '../../core/speakers/voicesOf'
import type { Transcript, TranscriptStep } from '../../core/transcript/transcript'
import { amend } from '../documents/submit'
import type { Services } from '../services'
import { tapeInfo } from '../tapes'
import { runThread } from '../thread'
import type { ListenApartOrder, ListenApartReport } from './listenApart'

/**
 * Suggests who says what on a tape with one side, where more than one voice is heard on it; gives
 * how many. Words that have a voice already keep it. An act of `author`, to be undone like any other.
 */
export async function suggestVoices({ database, config }: Services, tape: string, author: string): Promise<number> {
  const [info, [row], [document]] = await Promise.all([
    tapeInfo(database, tape),
    database.query<{ figures: TapeFigures | null }[]>('select figures from tape where id = $1', [tape]),
    database.query<{ id: string }[]>('select id from document where tape = $1', [tape]),
  ])
  if (info.sides.length > 1 || info.state !== 'ready') return 0
  let turns: Turn[] = []
  const order: ListenApartOrder = {
    media: join(config.data, 'media'),
    tape,
    channel: info.sides[0].channels[0],
    frames: info.frames,
    speech: row.figures?.speech ?? [],
  }
  await runThread<ListenApartReport>('listenApart', order, (report) => void (turns = report.turns))
  await amend<Transcript, TranscriptStep>(database, document.id, { id: randomUUID(), author, label: 'tell voices apart' }, (transcript) =>
    suggested(transcript, turns),
  )
  return new Set(turns.map(({ voice }) => voice)).size
}

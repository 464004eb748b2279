import { randomUUID } from 'node:crypto'
import type { InferType } from 'yup'
import type { Voicing, voicingOrder } from '../../contract/voicings'
import { withoutNotes } from '../../core/page/notes'
import { isRecorded, type Block, type StoryDocument } from '../../core/page/story'
import type { TranscriptStep, Transcript } from '../../core/transcript/transcript'
import { readOut } from '../../core/voicing/readOut'
import { amend } from '../documents/submit'
import { DocumentEntity, TapeEntity } from '../entities'
import { resume, underLease, type LeasedWork } from '../lease'
import { tell } from '../notices'
import { Refusal } from '../problem'
import { recognised } from '../recognise/recognised'
import type { Services } from '../services'
import { tapeInfo } from '../tapes'
import { tapeWords } from '../words'
import { findLines, type FoundVersion } from './findLines'
import { putOnLines } from './putOnLines'

/** Lines of copy that were read on a tape are put on their blocks: in one go into a microphone, or wherever it was recorded. */

interface Row extends Voicing {
  act: string
  author: string
  story: string
  blocks: string[]
}

const WORK: LeasedWork<Row> = {
  table: 'voicing',
  queue: 'layLines',
  asking: 'act',
  failed: 'The lines could not be found on the tape; the page is as it was.',
}
const ARRIVING_MS = 400

const noted = ({ database }: Services, story: string) => tell(database, { about: 'voicing', story })

/** What became of the lines of a story; takes that were recorded for one line are seen to quietly. */
export const voicingsOf = ({ database }: Services, story: string): Promise<Voicing[]> =>
  database.query<Voicing[]>(
    `select v.tape, v.state, v.progress, v.report, v.error from voicing v join tape t on t.id = v.tape
     where v.story = $1 and t.line is null order by v.at`,
    [story],
  )

/** Has lines of a story looked for on a tape; of the same tape only what was asked for last counts. */
export async function askForLines(
  services: Services,
  tape: string,
  { story, blocks, author }: InferType<typeof voicingOrder>,
): Promise<void> {
  const { database, jobs } = services
  await tapeInfo(database, tape)
  if (!(await database.manager.findOneBy(DocumentEntity, { id: story, kind: 'story' })))
    throw new Refusal(404, 'No such story', 'That story is not here.')
  await database.query(
    `insert into voicing (tape, act, author, story, blocks, state) values ($1, $2, $3, $4, $5, 'waiting')
     on conflict (tape) do update set act = $2, author = $3, story = $4, blocks = $5, state = 'waiting', progress = 0, report = null,
       error = '', beat = null, at = now()`,
    [tape, randomUUID(), author, story, JSON.stringify(blocks)],
  )
  await noted(services, story)
  await jobs.add('layLines', { tape })
}

/** Cancelled, or its report is read. */
export async function endVoicing(services: Services, tape: string): Promise<void> {
  const [rows] = (await services.database.query('delete from voicing where tape = $1 returning story', [tape])) as [
    { story: string }[],
    number,
  ]
  for (const { story } of rows) await noted(services, story)
}

export const resumeVoicings = (services: Services): Promise<void> => resume(services, WORK)

/** Finds the lines on the tape and puts them on their blocks. Can be begun again at any time; they are put there once. */
export function layLines(services: Services, { tape }: { tape: string }): Promise<void> {
  const { database } = services
  let progress = 0
  const beaten = async ({ act, story }: Row) => {
    await database.query(`update voicing set progress = $3 where tape = $1 and act = $2 and state = 'working'`, [tape, act, progress])
    await noted(services, story)
  }
  const work = async (row: Row, signal: AbortSignal) => {
    let info = await tapeInfo(database, tape)
    while (info.state === 'arriving' && !signal.aborted) {
      await new Promise((done) => setTimeout(done, ARRIVING_MS))
      info = await tapeInfo(database, tape)
    }
    if (!info.hasWords) await recognised(services, tape, signal)
    const heard = await tapeWords(database, tape)
    const take = (await database.manager.findOneByOrFail(TapeEntity, { id: tape })).line
    // a take lies on its line already: where it is not understood, that is all
    if (take && !heard.length) return void (await endVoicing(services, tape))
    if (!heard.length && !signal.aborted)
      throw new Refusal(409, 'No words', 'Nothing that is said there was understood. Is it the tape that the lines were read on?')
    const story = (await database.manager.findOneByOrFail(DocumentEntity, { id: row.story })).body as StoryDocument
    const lines = row.blocks.flatMap((id) => {
      const text = copyOf(story.records[id] as Block | undefined)
      return text ? [{ id, text }] : []
    })
    const channels = info.sides.flatMap((side) => side.channels)
    const found = await findLines(services, { tape, channels, frames: info.frames }, heard, lines, signal, (share) => (progress = share))
    if (signal.aborted) return
    await correctWords(services, tape, row.author, found)
    await putOnLines(services, { ...row, frames: info.frames, take: take?.piece ?? null }, found)
    if (take) await endVoicing(services, tape)
  }
  return underLease(services, WORK, tape, work, beaten)
}

const copyOf = (block: Block | undefined): string => (block && isRecorded(block) ? withoutNotes(block.text).trim() : '')

/** What was read stands in the transcript as it is written. */
async function correctWords({ database }: Services, tape: string, author: string, found: readonly FoundVersion[]): Promise<void> {
  const [document] = await database.query<{ id: string }[]>('select id from document where tape = $1', [tape])
  await amend<Transcript, TranscriptStep>(database, document.id, { id: randomUUID(), author, label: 'words of the copy' }, (transcript) =>
    readOut(
      transcript,
      found.flatMap(({ words }) => words),
    ),
  )
}

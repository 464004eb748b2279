import { randomUUID } from 'node:crypto'
import type { Bringing, Disagreement } from '../../contract/bringings'
import { laidOn, type LaidOn } from '../../core/transcript/laidOn'
import type { ReadWord } from '../../core/transcript/read'
import { transcriptOf, wordsOf, type Transcript, type TranscriptStep } from '../../core/transcript/transcript'
import type { Side } from '../../core/tape/tape'
import { toFrames, type Stretch } from '../../core/time'
import { align } from '../align/align'
import { lay } from '../align/lay'
import { amend } from '../documents/submit'
import { resume, underLease, type LeasedWork } from '../lease'
import { tell } from '../notices'
import { Refusal } from '../problem'
import { recognised } from '../recognise/recognised'
import type { Services } from '../services'
import { tapeInfo } from '../tapes'
import { runThread } from '../thread'
import { transcriptIn } from '../words'
import type { ReadWordsReport } from './readWords'

/** Words of a file are laid on a tape: by their own times where it has them, else by what is said. */

/** A cue's words are looked for a little beyond its times. */
const ROUND = toFrames(0.4)

interface Row extends Bringing {
  act: string
  author: string
  words: ReadWord[]
}

const WORK: LeasedWork<Row> = {
  table: 'bringing',
  queue: 'bringIn',
  asking: 'act',
  failed: 'The words could not be laid on the tape; it is as it was.',
}

const noted = ({ database }: Services, tape: string) => tell(database, { about: 'bringing', tape })

export async function bringingOf({ database }: Services, tape: string): Promise<Bringing | null> {
  const [row] = await database.query<Bringing[]>('select tape, name, state, progress, report, error from bringing where tape = $1', [tape])
  return row ?? null
}

/** A file that takes longer than this to be read is given up. */
const READING_MS = 20_000

/** The words of a file. Throws a refusal with the reason where there are none to be had. */
async function read(name: string, file: Buffer): Promise<ReadWord[]> {
  let words: ReadWord[] | null = null
  let reason = 'That file could not be read: it is too large or damaged.'
  try {
    await runThread<ReadWordsReport>(
      'readWords',
      { name, file },
      (report) => {
        if ('words' in report) words = report.words
        else reason = report.unreadable
      },
      READING_MS,
    )
  } catch {
    // its thread ran out of memory or time: the file is given up, with the reason
  }
  if (!words) throw new Refusal(422, 'No words', reason)
  return words
}

/** Takes a file of words for a tape; they are laid on it as soon as can be. */
export async function bringIn(services: Services, tape: string, name: string, author: string, file: Buffer): Promise<Bringing> {
  const { database, jobs } = services
  const info = await tapeInfo(database, tape)
  if (info.state !== 'ready')
    throw new Refusal(409, 'Not all there', 'That tape is still arriving. Its words can be brought in once all of it is in.')
  const words = await read(name, file)
  const beyond = words.filter(({ within }) => within && within.from >= info.frames).length
  if (beyond > words.length / 2)
    throw new Refusal(422, 'Not of this tape', 'Most of those words lie beyond the end of the tape. Is it the transcript of another one?')
  await database.query(
    `insert into bringing (tape, act, author, name, words, state) values ($1, $2, $3, $4, $5, 'waiting')
     on conflict (tape) do update set act = $2, author = $3, name = $4, words = $5, state = 'waiting', progress = 0, report =
       null, error = '', beat = null`,
    [tape, randomUUID(), author, name, JSON.stringify(words)],
  )
  await noted(services, tape)
  await jobs.add('bringIn', { tape })
  return (await bringingOf(services, tape))!
}

/** Called off, or its report is read: nothing of it stays but the words, if they are in. */
export async function endBringing({ database, ...services }: Services, tape: string): Promise<void> {
  await database.query('delete from bringing where tape = $1', [tape])
  await noted({ database, ...services }, tape)
}

export const resumeBringings = (services: Services): Promise<void> => resume(services, WORK)

/** Lays the words on the tape. Can be begun again at any time; the words go in once. */
export function layWords(services: Services, { tape }: { tape: string }): Promise<void> {
  const { database } = services
  let progress = 0
  const beaten = async ({ act }: Row) => {
    await database.query(`update bringing set progress = $3 where tape = $1 and act = $2 and state = 'working'`, [tape, act, progress])
    await noted(services, tape)
  }
  const work = async (row: Row, signal: AbortSignal) => {
    const info = await tapeInfo(database, tape)
    if (!info.hasWords && row.words.some((word) => !word.within)) {
      // a guide holds a long text in place; without one it is looked for in all of the tape at once
      await recognised(services, tape, signal)
    }
    const guide = wordsOf(await transcriptIn(database, tape))
    const channels = (speaker?: string) => sideOf(info.sides, speaker)?.channels ?? info.sides.flatMap((side) => side.channels)
    const places = row.words.some((word) => word.within)
      ? await byCues(services, tape, row.words, channels, signal, (share) => (progress = share))
      : await lay(
          services,
          tape,
          channels(),
          info.frames,
          row.words.map(({ text }) => text),
          guide,
          { loose: true, signal },
          (share) => (progress = share),
        )
    if (!signal.aborted) await putIn(services, row, laidOn(row.words, places, guide), info.sides)
  }
  return underLease(services, WORK, tape, work, beaten)
}

const sideOf = (sides: readonly Side[], speaker?: string): Side | undefined =>
  sides.length > 1 ? sides.find((side) => side.name && side.name === speaker) : undefined

/** Cue by cue: the words of each are looked for where the file says that they are. */
async function byCues(
  services: Services,
  tape: string,
  words: readonly ReadWord[],
  channels: (speaker?: string) => readonly number[],
  signal: AbortSignal,
  progress: (share: number) => void,
): Promise<(Stretch | null)[]> {
  const places: (Stretch | null)[] = words.map(() => null)
  const { frames } = await tapeInfo(services.database, tape)
  for (let first = 0; first < words.length && !signal.aborted;) {
    const { within, exact } = words[first]
    let last = first
    while (last + 1 < words.length && !exact && words[last + 1].within?.from === within?.from) last++
    const run = words.slice(first, last + 1)
    if (exact) places[first] = within!.to <= frames ? within! : null
    else if (within) {
      const stretch = { from: Math.max(0, within.from - ROUND), to: Math.min(frames, within.to + ROUND) }
      if (stretch.to - stretch.from > ROUND)
        (
          await align(
            services,
            tape,
            channels(run[0].speaker),
            stretch,
            run.map(({ text }) => text),
            { loose: true, signal },
          )
        ).forEach((place, i) => (places[first + i] = place))
    }
    first = last + 1
    progress(first / words.length)
  }
  return places
}

/** All words of the tape become these, as one act of whoever brought them in. */
async function putIn(services: Services, row: Row, { words, missing, extra }: LaidOn, sides: readonly Side[]): Promise<void> {
  const { database } = services
  const disagreements: Disagreement[] = [
    ...missing.map((one) => ({ ...one, what: 'missing' as const })),
    ...extra.map((one) => ({ ...one, what: 'extra' as const })),
  ].sort((a, b) => a.at - b.at)
  const [document] = await database.query<{ id: string }[]>('select id from document where tape = $1', [row.tape])
  await amend<Transcript, TranscriptStep>(
    database,
    document.id,
    { id: row.act, author: row.author, label: 'bring words in' },
    async (transcript, manager) => {
      const [still] = (await manager.query(
        `update bringing set state = 'done', progress = 1, beat = null, report = $3 where tape = $1 and act = $2 returning 1`,
        [row.tape, row.act, JSON.stringify({ placed: words.length, disagreements })],
      )) as [unknown[]]
      if (!still.length) return []
      const fresh = transcriptOf(words)
      // voices keep their keys: those of the sides, and those that are there by that name
      const keys = new Map(Object.entries(fresh.voices).map(([voice, name]) => [voice, keyFor(transcript, sides, name)]))
      const taken = new Set<string>()
      const names = Object.entries(fresh.voices).flatMap(([voice, name]): TranscriptStep[] => {
        let key = keys.get(voice)
        for (let i = 1; !key; i++) if (transcript.voices[`v${i}`] === undefined && !taken.has(`v${i}`)) key = `v${i}`
        taken.add(key)
        keys.set(voice, key)
        return transcript.voices[key] === undefined ? [{ type: 'voice', voice: key, name, was: undefined }] : []
      })
      return [
        ...names,
        {
          type: 'words',
          at: 0,
          out: transcript.words,
          in: fresh.words.map(({ voice, ...word }) => (voice ? { ...word, voice: keys.get(voice)! } : word)),
        },
      ]
    },
  )
}

function keyFor(transcript: Transcript, sides: readonly Side[], name: string): string | undefined {
  const side = sides.length > 1 ? sides.findIndex((one) => one.name === name) : -1
  return side >= 0 ? `s${side + 1}` : Object.keys(transcript.voices).find((voice) => transcript.voices[voice] === name)
}

import { createHash, randomUUID } from 'node:crypto'
import type { Recognition } from '../../contract/recognitions'
import { refined } from '../../core/align/edges'
import { lastSound } from '../../core/align/lastSound'
import type { TapeFigures } from '../../core/hearing/ear'
import { breathsBetween } from '../../core/recognise/breaths'
import { chunksOf } from '../../core/recognise/chunks'
import { withTerms } from '../../core/recognise/terms'
import type { Transcript, TranscriptStep, SaidWord } from '../../core/transcript/transcript'
import { inserted } from '../../core/transcript/inserted'
import type { StoryDocument } from '../../core/page/story'
import { storyHead } from '../../core/page/story'
import type { Side } from '../../core/tape/tape'
import { toFrames, type Stretch } from '../../core/time'
import { amend } from '../documents/submit'
import { resume, underLease, type LeasedWork } from '../lease'
import { tell } from '../notices'
import { Refusal } from '../problem'
import type { Services } from '../services'
import { suggestVoices } from '../speakers/speakers'
import { tapeInfo } from '../tapes'
import { runThread } from '../thread'
import { dictionary } from './dictionary'
import type { FindSpeechOrder, FindSpeechReport } from './findSpeech'
import type { Recogniser } from './recogniser'
import { chosenRecogniser } from './recognisers'
import { pcmOf, soundOf } from './sound'

/** Tapes get their words: chunk by chunk, the earliest first, and so that it can be begun again at any time. */

/** Found by its noise alone. */
const BREATH_SURE = 0.5
/** The hand that writes what a recogniser heard. */
export const RECOGNISER = '00000000-0000-4000-8000-000000000001'

interface Planned extends Stretch {
  side: number
}

interface Row {
  tape: string
  run: string
  state: Recognition['state']
  recogniser: string
  plan: Planned[]
  done: number[]
  /** Work that went into what is done, in seconds of the clock. */
  seconds: number
  error: string
}

const WORK: LeasedWork<Row> = {
  table: 'recognition',
  queue: 'recognise',
  asking: 'run',
  failed: 'The words could not be recognised further; what is there stays.',
}

const speechIn = (plan: readonly Planned[]): number => plan.reduce((sum, { from, to }) => sum + to - from, 0)

function toInfo({ tape, state, recogniser, plan, done, seconds, error }: Row): Recognition {
  const all = speechIn(plan)
  const ready = speechIn(done.map((i) => plan[i]))
  return {
    tape,
    state,
    progress: state === 'done' ? 1 : all ? ready / all : 0,
    left: state === 'working' && ready ? Math.round((seconds / ready) * (all - ready)) : null,
    recogniser,
    error,
  }
}

export async function recognitionOf({ database }: Services, tape: string): Promise<Recognition | null> {
  const [row] = await database.query<Row[]>('select * from recognition where tape = $1', [tape])
  return row ? toInfo(row) : null
}

const noted = ({ database }: Services, tape: string) => tell(database, { about: 'recognition', tape })

/** Has the words of a tape recognised. Asked again, it does what is not done; after its end it begins anew where there are no words. */
export async function askForWords(services: Services, tape: string): Promise<Recognition> {
  const { database, jobs, config } = services
  const info = await tapeInfo(database, tape)
  if (info.state !== 'ready')
    throw new Refusal(409, 'Not all there', 'That tape is still arriving. Its words can be recognised once all of it is in.')
  const recogniser = chosenRecogniser(config)
  if (!recogniser.languages.includes(info.language))
    throw new Refusal(
      409,
      'Not its language',
      `${recogniser.name} does not know that language, so this tape has no words until somebody brings some in.`,
    )
  await database.query(
    `insert into recognition (tape, run, state, recogniser, plan) values ($1, $2, 'waiting', $3, '[]')
     on conflict (tape) do update set run = $2, state = 'waiting', recogniser = $3, plan = '[]', done = '{}', seconds = 0,
       error = '', beat = null
     where recognition.state in ('done', 'failed')`,
    [tape, randomUUID(), recogniser.name],
  )
  await noted(services, tape)
  await jobs.add('recognise', { tape })
  return (await recognitionOf(services, tape))!
}

/** What comes to a tape without words as soon as it is in, where there is speech in a language that the recogniser knows. */
export async function askOnArrival(services: Services, tape: string): Promise<void> {
  const { config, database } = services
  if (!config.recogniseOnArrival) return
  const info = await tapeInfo(database, tape)
  const [{ speech }] = await database.query<{ speech: number }[]>(
    `select jsonb_array_length(figures -> 'speech') as speech from tape where id = $1`,
    [tape],
  )
  if (!info.hasWords && speech && chosenRecogniser(config).languages.includes(info.language)) await askForWords(services, tape)
}

/** Calls it off: what it wrote goes, but for what a person has changed or confirmed. */
export async function cancelRecognition(services: Services, tape: string): Promise<void> {
  const { database } = services
  const [gone] = (await database.query(`delete from recognition where tape = $1 and state in ('waiting', 'working') returning run`, [
    tape,
  ])) as [{ run: string }[], number]
  if (gone.length) await removeGuesses(services, tape)
  await noted(services, tape)
}

async function removeGuesses({ database }: Services, tape: string): Promise<void> {
  await amend<Transcript, TranscriptStep>(
    database,
    await transcriptId(database, tape),
    { id: randomUUID(), author: RECOGNISER, label: 'recognition called off', quiet: true },
    ({ words }) => {
      const steps: TranscriptStep[] = []
      for (let end = words.length; end > 0;) {
        if (words[end - 1].sure === undefined || words[end - 1].checked) {
          end--
          continue
        }
        let start = end
        while (start > 0 && words[start - 1].sure !== undefined && !words[start - 1].checked) start--
        steps.push({ type: 'words', at: start, out: words.slice(start, end), in: [] })
        end = start
      }
      return steps
    },
  )
}

async function transcriptId(database: Services['database'], tape: string): Promise<string> {
  const [row] = await database.query<{ id: string }[]>('select id from document where tape = $1', [tape])
  return row?.id ?? ''
}

/** Recognitions that an end of the server cut short go on. */
export const resumeRecognitions = (services: Services): Promise<void> => resume(services, WORK)

/** Does what is not done yet of one tape. A second one beside it leaves at once. */
export function recognise(services: Services, { tape }: { tape: string }): Promise<void> {
  const { database, config } = services
  const work = async (row: Row, signal: AbortSignal) => {
    await noted(services, tape)
    const recogniser = chosenRecogniser(config)
    const { sides } = await tapeInfo(database, tape)
    if (!row.plan.length) row.plan = await planned(services, row)
    const terms = await termsFor(services, tape)
    const document = await transcriptId(database, tape)
    const waiting = row.plan.map((_, i) => i).filter((i) => !row.done.includes(i))
    const ended = new AbortController()
    const either = AbortSignal.any([signal, ended.signal])
    const worker = async () => {
      for (let next = waiting.shift(); next !== undefined && !either.aborted; next = waiting.shift()) {
        const began = Date.now()
        const words = await hear(services, tape, recogniser, row.plan[next], sides[row.plan[next].side], terms, either)
        if (either.aborted) return
        await keepWords(services, document, row, next, sides, words, (Date.now() - began) / 1000 / recogniser.atOnce)
      }
    }
    // where one fails the others stop, too
    await Promise.all(Array.from({ length: recogniser.atOnce }, worker)).finally(() => ended.abort())
    if (signal.aborted) return
    await suggestVoices(services, tape, RECOGNISER)
    await database.query(`update recognition set state = 'done', beat = null where tape = $1 and run = $2`, [tape, row.run])
  }
  return underLease(services, WORK, tape, work, () => noted(services, tape))
}

/** What is to be recognised: where somebody speaks, side by side. Kept, so that whoever goes on with it does the same. */
async function planned({ database, store }: Services, { tape, run }: Row): Promise<Planned[]> {
  const { sides, frames } = await tapeInfo(database, tape)
  const [{ figures }] = await database.query<{ figures: TapeFigures | null }[]>('select figures from tape where id = $1', [tape])
  const order: FindSpeechOrder = { sides: sides.map(({ channels }) => channels.map((channel) => store.channel(tape, channel))) }
  let found: FindSpeechReport['speech'] = null
  await runThread<FindSpeechReport>('findSpeech', order, ({ speech }) => void (found = speech))
  const plan = sides
    .flatMap(({ channels }, side): Planned[] => {
      const speech = found?.[side] ?? figures?.channels[channels[0]]?.speech ?? figures?.speech ?? []
      return chunksOf(speech, frames).map((chunk) => ({ ...chunk, side }))
    })
    .sort((a, b) => a.from - b.from)
  await database.query('update recognition set plan = $3 where tape = $1 and run = $2', [tape, run, JSON.stringify(plan)])
  return plan
}

/** The words of one chunk, on the tape's clock, with the story's names in them and edges where the sound has them. */
async function hear(
  services: Services,
  tape: string,
  recogniser: Recogniser,
  chunk: Planned,
  side: Side,
  terms: Awaited<ReturnType<typeof termsFor>>,
  signal: AbortSignal,
): Promise<SaidWord[]> {
  const { path, done } = await pcmOf(services, tape, side.channels, chunk)
  try {
    const heard = withTerms(await recogniser.hear({ path, seconds: (chunk.to - chunk.from) / 48_000 }, signal), terms, dictionary)
    const placed = heard
      .map((word) => ({ ...word, from: Math.max(0, toFrames(word.from)), to: Math.min(chunk.to - chunk.from, toFrames(word.to)) }))
      .filter((word) => word.to > word.from)
    const sound = await soundOf(services, tape, side.channels, chunk)
    const edges = refined(
      sound,
      placed,
      placed.map(({ text }) => lastSound(text, dictionary)),
    )
    const words = placed.map((word, i): SaidWord => ({ ...word, ...edges[i] })).sort((a, b) => a.from - b.from)
    const breaths = breathsBetween(sound, words).map((stretch): SaidWord => ({
      text: '(breath)',
      ...stretch,
      what: 'noise',
      sure: BREATH_SURE,
    }))
    return [...words, ...breaths]
      .sort((a, b) => a.from - b.from)
      .map((word) => ({ ...word, from: word.from + chunk.from, to: word.to + chunk.from }))
  } finally {
    await done()
  }
}

/** An id that is the same each time the same is done, so that it goes in once. */
function idFor(run: string, chunk: number): string {
  const hex = createHash('sha256').update(`${run}/${chunk}`).digest('hex')
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`
}

async function keepWords(
  services: Services,
  document: string,
  { tape, run }: Row,
  chunk: number,
  sides: readonly Side[],
  words: readonly SaidWord[],
  seconds: number,
): Promise<void> {
  const { database } = services
  await amend<Transcript, TranscriptStep>(
    database,
    document,
    { id: idFor(run, chunk), author: RECOGNISER, label: 'recognise', quiet: true },
    async (transcript, manager) => {
      // together with the words, or not at all: it may have been called off in this moment
      const [still] = (await manager.query(
        'update recognition set done = array_append(done, $3), seconds = seconds + $4 where tape = $1 and run = $2 returning plan',
        [tape, run, chunk, seconds],
      )) as [{ plan: Planned[] }[]]
      if (!still.length || !words.length) return []
      if (sides.length < 2) return inserted(transcript, words)
      const { side } = still[0].plan[chunk]
      const voice = `s${side + 1}`
      const name: TranscriptStep[] =
        transcript.voices[voice] === undefined
          ? [{ type: 'voice', voice, name: sides[side]?.name || `Side ${side + 1}`, was: undefined }]
          : []
      return [
        ...name,
        ...inserted(
          transcript,
          words.map((word) => ({ ...word, voice })),
        ),
      ]
    },
  )
  await noted(services, tape)
}

/** The names and terms of the stories that a tape belongs to. */
async function termsFor({ database }: Services, tape: string) {
  const stories = await database.query<{ body: StoryDocument }[]>(
    `select story.body from document tape join document story on story.kind = 'story'
      and tape.body #> '{records,tape,stories}' ? story.id::text where tape.id = $1`,
    [tape],
  )
  return stories.flatMap(({ body }) => storyHead(body).terms ?? [])
}

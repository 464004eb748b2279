import type { SendOrder, SendTarget } from '../../contract/sends'
import { fileNameFrom } from '../../core/page/fileName'
import { onlyLane, soundingLanes } from '../../core/page/onlyLane'
import { outputPlan, piecePlan } from '../../core/page/plan'
import { firstOutput, storyHead, type StoryDocument } from '../../core/page/story'
import { part, planOf, SHORT_END, type FactsOf, type Plan } from '../../core/render/plan'
import { levelInForce } from '../../core/tape/inForce'
import { strikesOf, tapeHead, type TapeDocument } from '../../core/tape/tape'
import { unstruck } from '../../core/edits/ofTape'
import { normal, type EditList } from '../../core/edits/editList'
import { isMadeTone, renditionIn, tapeOf } from '../../core/tape/renditions'
import { toFacts, type TapeInfo } from '../../contract/tapes'
import { clock, minuteSecond, type Stretch } from '../../core/time'
import type { MadeOf } from '../../core/send/changedSince'
import { readPiece } from '../documents/pieces'
import { DocumentEntity } from '../entities'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { tapeInfos } from '../tapes'
import { lastWords, outCueOf, wordsEnd, type About } from './label'
import { laidStory } from './laid'
import { madeOf, type LaidParts } from './madeOf'
import { loudnessFor } from './programme'

/** What an order comes to: a plan, and the name of the file it becomes; and what is known of its tapes. */
export interface Prepared {
  plan: Plan
  tapes: readonly TapeInfo[]
  factsOf: FactsOf
  title: string
  fileName: string
  /** What it is to be as loud as, in LUFS; null where it is not a whole story. */
  target: number | null
  /** What the file says of itself. */
  about: About
  madeOf: MadeOf
}

/** What is sent, before it has a name: what it sounds like, and what is said of it. */
interface Content extends Pick<Prepared, 'plan' | 'title' | 'target'> {
  client: string
  date: string
  about: Omit<About, 'title' | 'cut' | 'client'>
  /** Of a story: its blocks. */
  laid?: LaidParts
}

const UNKNOWN = { artist: '', outCue: '', airsDate: '', airsTime: '', timeReference: 0 }

export async function prepare(services: Services, order: SendOrder): Promise<Prepared> {
  const { database } = services
  const { what } = order
  const row = await database.manager.findOneBy(DocumentEntity, { id: what.id, kind: what.kind })
  if (!row) throw notFound('What was to be sent')
  const tapes = (await tapeInfos(database)).filter((tape) => tape.state === 'ready')
  const factsOf = allFacts(tapes)
  const content =
    row.body.kind === 'story'
      ? await ofStory(services, row.body, order, factsOf)
      : row.body.kind === 'actuality'
        ? await ofPiece(services, row.id, factsOf)
        : ofTape(row.id, row.body as TapeDocument, what, factsOf)
  const { client, date, target } = content
  const isPart = what.from !== undefined || what.to !== undefined
  const within = (frame: number) => Math.min(frame, content.plan.length)
  const plan =
    isPart && what.kind !== 'tape' ? part(content.plan, within(what.from ?? 0), within(what.to ?? content.plan.length)) : content.plan
  // what is a part is called one, so that it is not taken for the whole
  const title = isPart ? `${content.title} selection ${minuteSecond(what.from ?? 0)}` : content.title
  refuseOffRecord(plan, tapes)
  refuseUnmade(plan, tapes)
  if (plan.length <= 0)
    throw new Refusal(422, 'Nothing to send', 'There is nothing in it that could be sent: no actuality and no voice track.')
  const fileName = fileNameFrom(order.pattern, { slug: title, client, date, length: plan.length }, order.format)
  const cut = fileName.slice(0, fileName.lastIndexOf('.'))
  const about = { ...content.about, title, cut, client, ...(isPart ? { outCue: '', segue: plan.length } : {}) }
  const made = await madeOf(services, plan, factsOf, { id: what.id, name: title }, content.laid)
  return { plan, tapes, factsOf, target, title, fileName, about, madeOf: made }
}

const today = (): string => new Date().toISOString().slice(0, 10)

async function ofStory(services: Services, story: StoryDocument, { what, unrecorded }: SendOrder, factsOf: FactsOf): Promise<Content> {
  const { pieces, layout } = await laidStory(services, story, { output: what.output, unrecorded })
  const { output, file } = layout
  const alone = what.lane && soundingLanes(file).find(({ lane }) => lane === what.lane)
  if (what.lane && !alone) throw new Refusal(422, 'Nothing to send', 'Nothing sounds in that lane.')
  const pieceOf = (id: string) => pieces.get(id)
  return {
    plan: outputPlan(alone ? onlyLane(file, alone.lane) : file, output, pieceOf, factsOf),
    title: [storyHead(story).slug, output.name, alone ? alone.name : ''].filter(Boolean).join(' '),
    // as the foot of the page has it
    target: alone ? null : await loudnessFor(services, output),
    laid: { layout: file, pieceOf },
    client: output.client,
    date: output.airs.slice(0, 10) || today(),
    about: {
      ...UNKNOWN,
      category: 'STORY',
      artist: file.placed.find(({ block }) => block.reader)?.block.reader ?? '',
      outCue: await lastWords(services, file, pieceOf),
      airsDate: output.airs.slice(0, 10),
      airsTime: output.airs ? `${output.airs.slice(11, 16)}:00` : '',
      segue: wordsEnd(file),
    },
  }
}

async function ofPiece(services: Services, id: string, factsOf: FactsOf): Promise<Content> {
  const { piece } = (await readPiece(services.database.manager, id))!
  const plan = piecePlan(piece, factsOf)
  return {
    plan,
    title: piece.slug,
    target: null,
    client: piece.story ? await programmeOf(services.database, piece.story) : '',
    date: today(),
    about: {
      ...UNKNOWN,
      category: 'ACTUALITY',
      artist: piece.speaker,
      outCue: await outCueOf(services, piece),
      segue: plan.length - piece.tail,
    },
  }
}

/** What is sent of a stretch of a tape: all that is not struck. */
export const spansOfTape = (id: string, tape: TapeDocument, stretch: Stretch): EditList =>
  normal(unstruck(id, stretch, strikesOf(tape), levelInForce(tape)))

function ofTape(id: string, tape: TapeDocument, { from = 0, to = Infinity }: SendTarget, factsOf: FactsOf): Content {
  const plan = planOf(spansOfTape(id, tape, { from, to: Math.min(factsOf(id).frames, to) }), factsOf, SHORT_END, SHORT_END)
  const { name, speaker } = tapeHead(tape)
  return {
    plan,
    title: name,
    target: null,
    client: '',
    date: today(),
    about: { ...UNKNOWN, category: 'TAPE', artist: speaker, segue: plan.length, timeReference: from },
  }
}

/** For whom the story of a piece is made. */
async function programmeOf(database: Services['database'], story: string): Promise<string> {
  const row = await database.manager.findOneBy(DocumentEntity, { id: story, kind: 'story' })
  return row ? firstOutput(row.body as StoryDocument).client : ''
}

/** Refuses what was said off the record, in handles and crossfades too. */
function refuseOffRecord(plan: Plan, tapes: readonly TapeInfo[]): void {
  const off = new Map(tapes.filter((tape) => tape.off.length).map((tape) => [tape.id, tape]))
  for (const { sound, from, length } of plan.strips) {
    const tape = isMadeTone(sound) ? undefined : off.get(tapeOf(sound))
    const found = tape?.off.find((stretch) => stretch.from < from + length && stretch.to > from)
    if (found)
      throw new Refusal(
        409,
        'Off the record',
        `It holds something of “${tape!.name}” that is off the record, at ${clock(Math.max(found.from, from))} on the tape. ` +
          'It can be sent once that is out of it.',
      )
  }
}

/** Refuses what is chosen to be heard treated while that is not made: nothing goes out otherwise than it was chosen. */
function refuseUnmade(plan: Plan, tapes: readonly TapeInfo[]): void {
  const all = new Map(tapes.flatMap(({ name, renditions }) => renditions.map((one) => [one.id, { ...one, tape: name }])))
  for (const { sound } of plan.strips) {
    const rendition = renditionIn(sound)
    const made = rendition === null ? undefined : all.get(rendition)
    if (made?.state === 'failed')
      throw new Refusal(
        409,
        'Not made',
        `“${made.name}” of “${made.tape}” could not be made. ` + 'Choose the sound as recorded to send it.',
      )
    if (made && made.state !== 'ready')
      throw new Refusal(409, 'Being made', `“${made.name}” of “${made.tape}” is still being made. Try again shortly.`)
  }
}

function allFacts(tapes: readonly TapeInfo[]): FactsOf {
  // those that are not made too: see `refuseUnmade`
  const known = new Map(tapes.map((tape) => [tape.id, { ...toFacts(tape), renditions: tape.renditions.map(({ id }) => id) }]))
  return (id) => {
    const facts = known.get(id)
    if (!facts) throw new Refusal(422, 'Tape not ready', 'A tape that it uses is still arriving. Try again once it is in.')
    return facts
  }
}

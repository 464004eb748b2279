import type { SendOrder } from '../../contract/sends'
import { fileNameFrom } from '../../core/page/fileName'
import { onlyLane, soundingLanes } from '../../core/page/onlyLane'
import { outputPlan, piecePlan } from '../../core/page/plan'
import { lay, type Known } from '../../core/page/lay'
import { saidIn } from '../../core/page/said'
import { firstOutput, hangersOf, piecesIn, storyHead, type StoryDocument } from '../../core/page/story'
import { part, planOf, SHORT_END, type FactsOf, type Plan } from '../../core/render/plan'
import { levelInForce } from '../../core/tape/inForce'
import { strikesOf, type TapeDocument } from '../../core/tape/tape'
import { unstruck } from '../../core/edits/ofTape'
import type { Actuality } from '../../core/edits/actuality'
import { normal, tapesOf } from '../../core/edits/editList'
import { isMadeTone, renditionIn, tapeOf } from '../../core/tape/renditions'
import type { Word } from '../../core/tape/words'
import { toFacts, type TapeInfo } from '../../contract/tapes'
import { clock, minuteSecond } from '../../core/time'
import { piecesById, readPiece } from '../documents/pieces'
import { DocumentEntity } from '../entities'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { lengthIn } from '../stories'
import { tapeWords } from '../words'
import { tapeInfos } from '../tapes'

/** What an order comes to: a plan, and the name of the file it becomes; and what is known of its tapes. */
export interface Prepared {
  plan: Plan
  tapes: readonly TapeInfo[]
  factsOf: FactsOf
  title: string
  fileName: string
  /** What it is to be as loud as, in LUFS; null where it goes as it is. */
  target: number | null
}

export async function prepare({ database }: Services, order: SendOrder): Promise<Prepared> {
  const { what } = order
  const row = await database.manager.findOneBy(DocumentEntity, { id: what.id, kind: what.kind })
  if (!row) throw notFound('What was to be sent')
  const tapes = (await tapeInfos(database)).filter((tape) => tape.state === 'ready')
  const factsOf = allFacts(tapes)
  let plan: Plan
  let title: string
  let client = ''
  let target: number | null = null
  let date = new Date().toISOString().slice(0, 10)
  if (row.body.kind === 'story') {
    const story = row.body
    const pieces = await piecesById(database.manager, piecesIn(story))
    const saidIn = await saidInPieces(database, story, pieces)
    const outputs = lay(story, { lengthOf: lengthIn(pieces), saidIn }, order.unrecorded)
    const { output, file } = outputs.find((one) => one.output.id === what.output) ?? outputs[0]
    const alone = what.lane && soundingLanes(file).find(({ lane }) => lane === what.lane)
    if (what.lane && !alone) throw new Refusal(422, 'Nothing to send', 'Nothing sounds in that lane.')
    plan = outputPlan(alone ? onlyLane(file, alone.lane) : file, output, (id) => pieces.get(id), factsOf)
    title = [storyHead(story).slug, output.name, alone ? alone.name : ''].filter(Boolean).join(' ')
    client = output.client
    target = alone ? null : output.loudness
    date = output.airs.slice(0, 10) || date
  } else if (row.body.kind === 'actuality') {
    const { piece } = (await readPiece(database.manager, row.id))!
    plan = piecePlan(piece, factsOf)
    title = piece.slug
    if (piece.story) client = await programmeOf(database, piece.story)
  } else {
    const tape = row.body as TapeDocument
    const facts = factsOf(row.id)
    const stretch = { from: what.from ?? 0, to: Math.min(facts.frames, what.to ?? facts.frames) }
    plan = planOf(normal(unstruck(row.id, stretch, strikesOf(tape), levelInForce(tape))), factsOf, SHORT_END, SHORT_END)
    title = (tape.records.tape as { name: string }).name
  }
  if (what.kind !== 'tape' && (what.from !== undefined || what.to !== undefined))
    plan = part(plan, Math.min(what.from ?? 0, plan.length), Math.min(what.to ?? plan.length, plan.length))
  // what is a part is called one, so that it is not taken for the whole
  if (what.from !== undefined || what.to !== undefined) title = `${title} selection ${minuteSecond(what.from ?? 0)}`
  refuseOffRecord(plan, tapes)
  refuseUnmade(plan, tapes)
  if (plan.length <= 0)
    throw new Refusal(422, 'Nothing to send', 'There is nothing in it that could be sent: no actuality and no voice track.')
  return {
    plan,
    tapes,
    factsOf,
    target,
    title,
    fileName: fileNameFrom(order.pattern, { slug: title, client, date, length: plan.length }, order.format),
  }
}

/** For whom the story of a piece is made. */
async function programmeOf(database: Services['database'], story: string): Promise<string> {
  const row = await database.manager.findOneBy(DocumentEntity, { id: story, kind: 'story' })
  return row ? firstOutput(row.body as StoryDocument).client : ''
}

/** What is said in the pieces of a page, for what holds on to their words. */
async function saidInPieces(
  database: Services['database'],
  story: StoryDocument,
  pieces: ReadonlyMap<string, Actuality>,
): Promise<Known['saidIn']> {
  if (!hangersOf(story).length) return undefined
  const tapes = new Set([...pieces.values()].flatMap(({ spans }) => tapesOf(spans)))
  const words = new Map<string, Word[]>()
  for (const tape of tapes) words.set(tape, await tapeWords(database, tape))
  return (id) => {
    const piece = pieces.get(id)
    return piece && saidIn(piece, (tape) => words.get(tape) ?? [])
  }
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

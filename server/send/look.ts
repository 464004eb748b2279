import type { SendOrder } from '../../contract/sends'
import type { TapeInfo } from '../../contract/tapes'
import { tapesOf } from '../../core/edits/editList'
import { pieceWords } from '../../core/edits/pieceWords'
import { loudnessOf } from '../../core/hearing/loudness'
import { CHANGED_MUCH, CHIRPS } from '../../core/mend/whatItDid'
import { piecePlan } from '../../core/page/plan'
import { BLOCK_KINDS, type StoryDocument } from '../../core/page/story'
import type { FactsOf, Plan } from '../../core/render/plan'
import { isMadeTone, renditionIn, tapeOf } from '../../core/tape/renditions'
import type { Suggestion } from '../../core/tape/suggestion'
import { RATE } from '../../core/time'
import type { Actuality } from '../../core/edits/actuality'
import { askedOfLevels, askedOfPage, askedOfPiece, askedOfSilence, silencesIn, type Asked } from '../../core/send/lastLook'
import { piecesById } from '../documents/pieces'
import { DocumentEntity, SendEntity } from '../entities'
import type { Services } from '../services'
import { wordsOfTapes } from '../words'
import { laidStory } from './laid'
import type { Prepared } from './order'

/** What coded formats do to the length. */
const LONGER: Partial<Record<SendOrder['format'], string>> = {
  mp2: 'MP2 can’t declare its length: decoded, it begins and ends with some milliseconds of silence.',
  m4a: 'AAC declares its length, but not all players heed it: some add up to 21 ms of silence at its end.',
}

/** The last look at what is to be sent: see `core/send/lastLook.ts`. */
export async function lastLook(services: Services, { what, unrecorded, format }: SendOrder, prepared: Prepared): Promise<Asked[]> {
  const { database } = services
  const { plan, tapes, factsOf } = prepared
  const asked: Asked[] = []
  const longer = LONGER[format]
  if (longer) asked.push({ text: longer, at: null })
  if (what.kind === 'actuality') {
    const pieces = await piecesById(database.manager, [what.id])
    asked.push(...(await ofPieces(services, [...pieces])))
  }
  if (what.kind === 'story') {
    const row = await database.manager.findOneBy(DocumentEntity, { id: what.id, kind: 'story' })
    const story = row?.body as StoryDocument
    const { pieces, layout } = await laidStory(services, story, { output: what.output, unrecorded })
    const whole = what.from === undefined && what.lane === undefined
    if (whole) asked.push(...askedOfPage(story, layout, await sentLast(services, what.id, layout.output.id), plan.length))
    const rows = layout.order.flatMap((block) => {
      const piece = block.piece ? pieces.get(block.piece) : undefined
      return piece ? [{ block, id: block.piece!, piece }] : []
    })
    asked.push(
      ...(await ofPieces(
        services,
        rows.map(({ id, piece }) => [id, piece]),
      )),
    )
    const voices = rows.filter(({ block }) => block.kind !== 'full' && !BLOCK_KINDS[block.kind].live)
    const loud = await Promise.all(
      voices.map(async ({ block, piece }) => ({
        block: block.id,
        name: piece.slug || 'Untitled',
        loudness: (await loudnessOfPiece(services, piece, factsOf)) + (block.gain ?? 0),
      })),
    )
    asked.push(...askedOfLevels(loud.filter(({ loudness }) => Number.isFinite(loudness))))
  }
  return [...asked, ...ofTapes(plan, tapes), ...askedOfSilence(silencesIn(plan))]
}

async function ofPieces({ database }: Services, pieces: readonly (readonly [string, Actuality])[]): Promise<Asked[]> {
  const wordsOf = await wordsOfTapes(
    database,
    pieces.flatMap(([, { spans }]) => tapesOf(spans)),
  )
  const kept = await database.query<{ piece: string; record: Suggestion }[]>(
    `select piece, record from kept where piece = any($1) and record ->> 'kind' = 'suggestion' and record -> 'story' = 'true'`,
    [pieces.map(([id]) => id)],
  )
  const beside = (id: string) => kept.filter((one) => one.piece === id).map(({ record }) => record)
  return pieces.flatMap(([id, piece]) => askedOfPiece(id, piece, pieceWords(piece.spans, wordsOf, piece.sides), beside(id)))
}

/** What is known of the tapes that sound: clipping, a dead channel, treatments that change a voice much. */
function ofTapes(plan: Plan, tapes: readonly TapeInfo[]): Asked[] {
  const sounds = new Set(plan.strips.map(({ sound }) => sound).filter((sound) => !isMadeTone(sound)))
  return tapes.flatMap(({ id, name, findings, renditions, sides }) => {
    const own = [...sounds].filter((sound) => tapeOf(sound) === id)
    if (!own.length) return []
    const at = { tape: id }
    const clipped = own.includes(id) && findings.find(({ what }) => what === 'clipped')
    const dead = findings.some((one) => one.what === 'empty' && sides.some(({ channels }) => channels.includes(one.channel)))
    return [
      ...(clipped && clipped.what === 'clipped'
        ? [{ text: `“${name}” clips at ${clipped.count} ${clipped.count === 1 ? 'place' : 'places'}.`, at }]
        : []),
      ...(dead ? [{ text: `One channel of “${name}” is dead.`, at }] : []),
      ...renditions
        .filter((one) => own.some((sound) => renditionIn(sound) === one.id) && one.did && one.did.voice > CHANGED_MUCH)
        .map((one) => ({ text: `“${one.name}” changes the voice on “${name}” a lot.`, at })),
      ...renditions
        .filter((one) => own.some((sound) => renditionIn(sound) === one.id) && (one.did?.chirp ?? 1) > CHIRPS)
        .map((one) => ({ text: `What “${one.name}” leaves of the noise on “${name}” may chirp.`, at })),
      ...renditions
        .filter((one) => own.some((sound) => renditionIn(sound) === one.id) && one.effects.length)
        .map((one) => ({ text: `An effect lies on the sound of “${name}”: ${one.name}.`, at })),
    ]
  })
}

/** How long an output was when it was sent last, in frames at 48 kHz; null where it was not. */
async function sentLast({ database }: Services, story: string, output: string): Promise<number | null> {
  const row = await database.manager
    .createQueryBuilder(SendEntity, 'send')
    .where(`send.request -> 'what' ->> 'id' = :story and send.state = 'done'`, { story })
    .andWhere(`coalesce(send.request -> 'what' ->> 'output', :output) = :output and not send.request -> 'what' ?| array['from', 'lane']`, {
      output,
    })
    .orderBy('send.at', 'DESC')
    .getOne()
  return row ? Math.round((row.frames * RATE) / (row.request as SendOrder).rate) : null
}

/** Loudness is kept a tenth of a second at a time. */
const STEP = RATE / 10

/** How loud a piece is, in LUFS, from the loudness that is kept of what sounds in it; NaN where none is, as of older treatments. */
async function loudnessOfPiece({ store }: Services, piece: Actuality, factsOf: FactsOf): Promise<number> {
  const { strips, length } = piecePlan(piece, factsOf)
  const powers = new Float64Array(Math.ceil(length / STEP))
  for (const { sound, channel, at, from, length: long, gain } of strips) {
    if (isMadeTone(sound)) continue
    const first = Math.floor(from / STEP)
    const bytes = await store.stretch(store.loudness(sound, channel), 4 * first, 4 * Math.ceil((from + long) / STEP)).catch(() => null)
    if (!bytes) return NaN
    const kept = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + 4 * Math.floor(bytes.length / 4)))
    const shift = Math.floor(at / STEP)
    kept.forEach((power, i) => {
      if (shift + i < powers.length) powers[shift + i] += power * gain * gain
    })
  }
  return loudnessOf(powers).integrated
}

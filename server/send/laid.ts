import type { Actuality } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import { lay, type Known, type OutputLayout } from '../../core/page/lay'
import { saidIn } from '../../core/page/said'
import { hangersOf, piecesIn, type StoryDocument, type Unrecorded } from '../../core/page/story'
import { piecesById } from '../documents/pieces'
import type { Services } from '../services'
import { lengthIn } from '../stories'
import { wordsOfTapes } from '../words'

/** Which form of a story: its first output where none is named. */
interface Form {
  output?: string
  unrecorded?: Unrecorded
}

/** A story as it is sent: its pieces, and where all of it lies. */
export async function laidStory(
  { database }: Services,
  story: StoryDocument,
  { output, unrecorded }: Form,
): Promise<{ pieces: ReadonlyMap<string, Actuality>; layout: OutputLayout }> {
  const pieces = await piecesById(database.manager, piecesIn(story))
  const known: Known = { lengthOf: lengthIn(pieces), saidIn: await saidInPieces(database, story, pieces) }
  const outputs = lay(story, known, unrecorded)
  return { pieces, layout: outputs.find((one) => one.output.id === output) ?? outputs[0] }
}

/** What is said in the pieces of a page, for what holds on to their words. */
async function saidInPieces(
  database: Services['database'],
  story: StoryDocument,
  pieces: ReadonlyMap<string, Actuality>,
): Promise<Known['saidIn']> {
  if (!hangersOf(story).length) return undefined
  const wordsOf = await wordsOfTapes(
    database,
    [...pieces.values()].flatMap(({ spans }) => tapesOf(spans)),
  )
  return (id) => {
    const piece = pieces.get(id)
    return piece && saidIn(piece, wordsOf)
  }
}

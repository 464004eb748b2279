import type { SendTarget } from '../../contract/sends'
import { timelineOfPage, timelineOfPiece, type MediaOf } from '../../core/send/timeline'
import type { Unrecorded } from '../../core/page/story'
import { readPiece } from '../documents/pieces'
import { DocumentEntity } from '../entities'
import { notFound } from '../problem'
import type { Services } from '../services'
import { laidStory } from './laid'
import type { Prepared } from './order'

/** Tapes by the names of the files that were brought in. */
function asBrought(tapes: Prepared['tapes']): MediaOf {
  const known = new Map(tapes.map((tape) => [tape.id, tape]))
  return (tape) => {
    const { name = tape, fileName = tape, frames = 0 } = known.get(tape) ?? {}
    return { name, url: `media/${encodeURIComponent(fileName)}`, start: 0, frames }
  }
}

/** A story or a piece as an OpenTimelineIO timeline, with its tapes at the names of their files. */
export async function editListOf(
  services: Services,
  { kind, id, output }: SendTarget,
  { tapes, title }: Prepared,
  unrecorded?: Unrecorded,
  mediaOf: MediaOf = asBrought(tapes),
): Promise<object> {
  const { manager } = services.database
  if (kind === 'actuality') return timelineOfPiece((await readPiece(manager, id))!.piece, mediaOf)
  const row = await manager.findOneBy(DocumentEntity, { id, kind })
  if (row?.body.kind !== 'story') throw notFound('What was to be sent')
  const { pieces, layout } = await laidStory(services, row.body, { output, unrecorded })
  return timelineOfPage(title, layout, (piece) => pieces.get(piece), mediaOf)
}

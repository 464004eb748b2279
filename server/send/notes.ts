import type { SendOrder } from '../../contract/sends'
import type { Actuality } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import { pieceWords } from '../../core/edits/pieceWords'
import { BLOCK_KINDS, spineOf, type StoryDocument } from '../../core/page/story'
import type { Word } from '../../core/tape/words'
import { piecesById } from '../documents/pieces'
import { DocumentEntity } from '../entities'
import type { Services } from '../services'
import { tapeWords } from '../words'

/** So many words are a cue. */
const CUE = 4

/** What stands beside an order before it is sent: cues of actualities that nobody has heard and confirmed. */
export async function notesOn({ database }: Services, { what }: Pick<SendOrder, 'what'>): Promise<string[]> {
  const pieces =
    what.kind === 'actuality'
      ? [...(await piecesById(database.manager, [what.id])).values()]
      : what.kind === 'story'
        ? await actualitiesOn(what.id, database.manager)
        : []
  const known = new Map<string, readonly Word[]>()
  for (const { spans } of pieces) for (const tape of tapesOf(spans)) if (!known.has(tape)) known.set(tape, await tapeWords(database, tape))
  return pieces.flatMap(({ slug, spans, sides }) => {
    const words = pieceWords(spans, (tape) => known.get(tape) ?? [], sides).filter((word) => word.what !== 'noise')
    const guessed = [words.slice(0, CUE), words.slice(-CUE)].map((cue) => cue.some((word) => !word.checked))
    if (!guessed.includes(true)) return []
    const both = guessed[0] && guessed[1]
    const which = both ? 'In cue and out cue' : guessed[0] ? 'The in cue' : 'The out cue'
    return [`${which} of “${slug || 'Untitled'}” ${both ? 'are' : 'is'} a guess: nobody has checked ${both ? 'them' : 'it'} by ear.`]
  })
}

async function actualitiesOn(story: string, manager: Services['database']['manager']): Promise<Actuality[]> {
  const row = await manager.findOneBy(DocumentEntity, { id: story, kind: 'story' })
  if (!row) return []
  const ids = spineOf(row.body as StoryDocument).flatMap((block) => (!BLOCK_KINDS[block.kind].written && block.piece ? [block.piece] : []))
  const found = await piecesById(manager, ids)
  return ids.flatMap((id) => found.get(id) ?? [])
}

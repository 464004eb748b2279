import type { TapeFigures } from '../../core/hearing/ear'
import type { Actuality } from '../../core/edits/actuality'
import { pull } from '../../core/edits/pull'
import { isRecorded, type Block, type StoryDocument, type StoryStep } from '../../core/page/story'
import { tapeHead, type TapeDocument } from '../../core/tape/tape'
import { insertPiece } from '../documents/pieces'
import { amend } from '../documents/submit'
import { DocumentEntity, TapeEntity } from '../entities'
import { tell } from '../notices'
import type { Services } from '../services'
import { houseLevel } from '../voicing/houseLevel'
import { slugOf } from '../../core/voicing/slug'

/**
 * Puts a take on the line of copy that it was recorded for, as a voice track trimmed to its first and last word, which
 * are where speech begins and ends, at the level of all speakers. An act of whoever recorded it. Does nothing for any other
 * tape, or where it was done.
 */
export async function layTake({ database }: Services, id: string): Promise<void> {
  const row = await database.manager.findOne(TapeEntity, {
    where: { id },
    select: { id: true, frames: true, line: true, added: true, figures: true },
  })
  if (!row?.line || !row.frames) return
  const { story, block, author, act } = row.line
  const there = await database.manager.findOneBy(DocumentEntity, { id: story, kind: 'story' })
  if (!there) return
  const copy = (there.body as StoryDocument).records[block] as Block | undefined
  const { body } = await database.manager.findOneByOrFail(DocumentEntity, { id })
  const piece = voiceTrack(id, row.frames, row.figures, tapeHead(body as TapeDocument), {
    story,
    line: block,
    text: copy?.text ?? '',
    reader: copy?.reader ?? '',
  })
  await database.transaction(async (manager) => {
    if (await insertPiece(manager, row.line!.piece, piece))
      await tell(manager, { about: 'document', id: row.line!.piece, kind: 'actuality', revision: 0 })
  })
  await amend<StoryDocument, StoryStep>(database, story, { id: act, author, label: 'record a voice track' }, async (page, manager) => {
    const now = page.records[block] as Block | undefined
    if (!now || !isRecorded(now)) return []
    // takes may finish in another order than they were recorded: the newest counts
    const newer = await manager.query<unknown[]>("select 1 from tape where line ->> 'piece' = $1 and added > $2", [now.piece, row.added])
    if (newer.length) return []
    const gain = houseLevel(row.figures, page)
    return [
      { type: 'set', id: block, key: 'piece', value: row.line!.piece },
      ...(gain === null ? [] : [{ type: 'set' as const, id: block, key: 'gain', value: gain }]),
    ]
  })
}

function voiceTrack(
  tape: string,
  frames: number,
  figures: TapeFigures | null,
  head: ReturnType<typeof tapeHead>,
  { story, line, text, reader }: { story: string; line: string; text: string; reader: string },
): Actuality {
  const speech = figures?.speech ?? []
  const stretch = speech.length ? { from: speech[0].from, to: Math.min(frames, speech[speech.length - 1].to) } : { from: 0, to: frames }
  const words = speech.map(({ from, to }) => ({ text: '', from, to: Math.min(frames, to) }))
  const piece = pull({
    tape,
    tapeLength: frames,
    stretch,
    struck: [],
    words,
    story,
    speaker: head.speaker || reader,
    role: head.role,
    sides: head.sides,
  })!
  return { ...piece, line, slug: slugOf(text) || head.name }
}

import { randomUUID } from 'node:crypto'
import type { EntityManager } from 'typeorm'
import type { Voicing } from '../../contract/voicings'
import type { Actuality, Offcut } from '../../core/edits/piece'
import { pull } from '../../core/edits/pull'
import { isRecorded, type Block, type StoryDocument, type StoryStep } from '../../core/page/story'
import { without } from '../../core/stretches'
import { offRecord, tapeHead, type TapeDocument } from '../../core/tape/tape'
import type { Word } from '../../core/tape/words'
import { toFrames, type Frames } from '../../core/time'
import { chosenOf, COMPLETE } from '../../core/voicing/versions'
import { insertPiece, readPiece } from '../documents/pieces'
import { amend } from '../documents/submit'
import { DocumentEntity, TapeEntity } from '../entities'
import { tell } from '../notices'
import type { Services } from '../services'
import { tapeWords } from '../words'
import type { FoundVersion } from './findLines'
import { houseLevel } from './houseLevel'
import { slugOf } from '../../core/voicing/slug'

/** Of a line that was never read whole, so much must be said to go on the page. */
const ENOUGH = 0.5
/** Edges nearer than this are the same. */
const SAME_EDGE: Frames = toFrames(0.25)

/** Whether a piece is a version as it was read, from its first word to its last. */
function lies(piece: Actuality | null, { parts }: FoundVersion): boolean {
  if (!piece || parts.length > 1 || piece.spans.length > 1) return false
  const [span] = piece.spans
  const near = (a: Frames, b: Frames) => Math.abs(a - b) < SAME_EDGE
  return near(span.from + piece.head, parts[0].from) && near(span.to - piece.tail, parts[0].to)
}

interface Order {
  tape: string
  frames: Frames
  story: string
  /** The blocks that were looked for. */
  blocks: readonly string[]
  act: string
  author: string
  /** The piece that the tape is already, where it was recorded for one line. */
  take: string | null
}

/**
 * Each time that a line was read whole becomes a take of it, and the last one counts; what else there is of it is that one's
 * offcuts. A take that was recorded for its line is made anew only where it holds more than the line.
 */
export async function putOnLines({ database }: Services, order: Order, found: readonly FoundVersion[]): Promise<void> {
  const { tape, frames, story, act, author } = order
  const { body, words } = await whole(database.manager, tape)
  const chosen = chosenOf(found)
  await amend<StoryDocument, StoryStep>(database, story, { id: act, author, label: 'put lines on the page' }, async (page, manager) => {
    const { records } = page
    const steps: StoryStep[] = []
    const { figures } = await manager.findOneOrFail(TapeEntity, { where: { id: tape }, select: { id: true, figures: true } })
    const gain = houseLevel(figures, page)
    const laid = order.take ? ((await readPiece(manager, order.take))?.piece ?? null) : null
    for (const [line, counts] of chosen) {
      const block = records[line] as Block | undefined
      if (!block || !isRecorded(block)) continue
      const own = found.filter((version) => version.line === line)
      for (const version of own) {
        const takes = version.said >= (version === counts ? ENOUGH : COMPLETE)
        const piece = takes && !lies(laid, version) && pieceOf(version, block, { tape, frames, story, body, words })
        if (!piece) continue
        const id = randomUUID()
        await insertPiece(manager, id, version === counts ? { ...piece, ...offcuts(own, version, tape) } : piece)
        await tell(manager, { about: 'document', id, kind: 'actuality', revision: 0 })
        if (version !== counts) continue
        steps.push({ type: 'set', id: line, key: 'piece', value: id })
        if (gain !== null) steps.push({ type: 'set', id: line, key: 'gain', value: gain })
      }
    }
    const report: Voicing['report'] = {
      placed: steps.filter((step) => step.type === 'set' && step.key === 'piece').length,
      lines: order.blocks.length,
      versions: found.length,
    }
    const [still] = (await manager.query(
      `update voicing set state = 'done', progress = 1, beat = null, report = $3 where tape = $1 and act = $2 returning 1`,
      [tape, act, JSON.stringify(report)],
    )) as [unknown[]]
    return still.length ? steps : []
  })
}

async function whole(manager: EntityManager, tape: string): Promise<{ body: TapeDocument; words: Word[] }> {
  const { body } = await manager.findOneByOrFail(DocumentEntity, { id: tape })
  return { body: body as TapeDocument, words: await tapeWords(manager, tape) }
}

interface On {
  tape: string
  frames: Frames
  story: string
  body: TapeDocument
  words: readonly Word[]
}

/** A voice track of one version, without what was said twice in it; null where some of it was said off the record. */
function pieceOf({ parts }: FoundVersion, block: Block, { tape, frames, story, body, words }: On): Actuality | null {
  const head = tapeHead(body)
  const stretch = { from: parts[0].from, to: parts[parts.length - 1].to }
  const piece = pull({
    tape,
    tapeLength: frames,
    stretch,
    struck: without(stretch, parts),
    off: offRecord(body),
    words,
    story,
    speaker: head.speaker || block.reader,
    role: head.role,
    sides: head.sides,
  })
  return piece && { ...piece, slug: slugOf(block.text) || head.name, line: block.id }
}

function offcuts(own: readonly FoundVersion[], counts: FoundVersion, tape: string): Pick<Actuality, 'kept'> {
  const rest = own.filter((version) => version !== counts && version.said < COMPLETE).flatMap(({ parts }) => parts)
  const kept = [...rest, ...without({ from: counts.parts[0].from, to: counts.parts[counts.parts.length - 1].to }, counts.parts)].map(
    ({ from, to }): Offcut => ({
      id: randomUUID(),
      kind: 'offcut',
      at: new Date().toISOString(),
      spans: [{ tape, from, to, sound: 'tape' }],
    }),
  )
  return kept.length ? { kept: Object.fromEntries(kept.map((one) => [one.id, one])) } : {}
}

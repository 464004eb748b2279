import { randomUUID } from 'node:crypto'
import { generateNKeysBetween } from 'fractional-indexing'
import type { Actuality } from '../core/edits/piece'
import { USUAL_DIP } from '../core/page/dips'
import { newStory, type Block, type Hanger, type Lane, type StoryDocument } from '../core/page/story'
import { RATE, toFrames, type Frames } from '../core/time'
import { insertPiece } from '../server/documents/pieces'
import { DocumentEntity } from '../server/entities'
import type { Services } from '../server/services'
import { words } from './speechlike'

const pieceAt = (tape: string, at: Frames, length: Frames): Actuality => ({
  kind: 'actuality',
  slug: `From ${Math.round(at / RATE)} s`,
  speaker: 'Piet Aldous',
  role: 'deckhand',
  story: null,
  spans: [{ tape, from: at, to: at + length, sound: 'tape' }],
  head: toFrames(0.3),
  tail: toFrames(0.3),
})

/** A story of so many blocks of tape and copy in turn, as long as told, with lanes on which something lies every fifth of it. */
export async function makeStory(services: Services, tape: string, count: number, length: Frames, laneCount: number): Promise<string> {
  const { manager } = services.database
  const id = randomUUID()
  const each = Math.floor(length / count)
  const orders = generateNKeysBetween(null, null, count)
  const blocks: Block[] = []
  for (let i = 0; i < count; i++) {
    const piece = randomUUID()
    await insertPiece(manager, piece, { ...pieceAt(tape, i * each, each), story: id })
    const copy = i % 2 === 0
    const text = copy
      ? words(each, 40)
          .map((word) => word.text)
          .join(' ')
      : ''
    const kind = copy ? 'copy' : 'actuality'
    blocks.push({ id: randomUUID(), kind, order: orders[i], aside: false, text, reader: copy ? 'Tamsin Roe' : '', piece })
  }
  const laneOrders = generateNKeysBetween(null, null, laneCount)
  const lanes = laneOrders.map((order, i): Lane => ({
    id: randomUUID(),
    kind: 'lane',
    name: `Lane ${i + 1}`,
    colour: i % 2 ? 'tape' : 'ink',
    order,
    locked: false,
    muted: false,
    gain: 0,
  }))
  const hangers = lanes.flatMap((lane, l) =>
    Array.from({ length: 5 }, (_, k): Hanger => {
      const first = Math.floor((k * count) / 5) + (l % 3)
      return {
        id: randomUUID(),
        kind: 'hanger',
        lane: lane.id,
        aside: false,
        plays: { tape, from: l * 60 * RATE, to: l * 60 * RATE + 5 * each },
        start: { block: blocks[first].id, at: 'start', offset: 0 },
        end: { block: blocks[Math.min(count - 1, first + 3)].id, at: 'end', offset: 0 },
        gain: -18,
        dip: USUAL_DIP,
        fadeOut: toFrames(3),
      }
    }),
  )
  const body: StoryDocument = newStory({ slug: 'A long one' }, { id: randomUUID(), loudness: -23 }, [...blocks, ...lanes, ...hangers])
  await manager.insert(DocumentEntity, { id, kind: 'story', revision: 0, aside: false, body: body as object })
  return id
}

import { randomUUID } from 'node:crypto'
import type { EntityManager } from 'typeorm'
import { newBoard, type LiveClip } from '../core/live/board'
import { DocumentEntity } from './entities'

/** The demo's board: its pieces on the keys on which a hand finds them. */
export async function insertDemoBoard(manager: EntityManager, pieces: readonly string[]): Promise<void> {
  const keys = ['Digit1', 'Digit2', 'Digit3', 'KeyQ', 'KeyW', 'KeyA']
  const board = newBoard('Brackle Sound, early')
  const clips = pieces.slice(0, keys.length).map((piece, i): LiveClip => ({ id: randomUUID(), kind: 'clip', piece, key: keys[i] }))
  const body = { ...board, records: { ...board.records, ...Object.fromEntries(clips.map((clip) => [clip.id, clip])) } }
  await manager.insert(DocumentEntity, { id: randomUUID(), kind: 'board', revision: 0, aside: false, body: body as object })
}

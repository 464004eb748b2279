import { clipsOf, freePlace, newBoard, placesOf } from '../../core/live/board'
import type { BoardRow } from '../../contract/boards'
import { get, put } from '../api/client'
import { liveDocument } from '../documents/useDocument'

/** The board that was open last here, else the first; null where there is none. */
export function usualBoard(boards: readonly BoardRow[]): BoardRow | null {
  const there = boards.filter(({ aside }) => !aside)
  return there.find(({ id }) => id === localStorage.board) ?? there[0] ?? null
}

export async function makeBoard(name: string): Promise<string> {
  const id = crypto.randomUUID()
  await put(`/documents/${id}`, newBoard(name))
  return id
}

/** Puts a piece on a key of the board that is in use, or begins one. Gives the key; null where all are taken. */
export async function putOnBoard(piece: string): Promise<{ board: string; name: string; key: string | null; already: boolean }> {
  const known = usualBoard(await get<BoardRow[]>('/boards'))
  const board = known?.id ?? (await makeBoard('Live clips'))
  const live = await liveDocument(board, 'board')
  const name = known?.name ?? 'Live clips'
  const places = placesOf(live.body)
  const there = [...places].find(([, clip]) => clip.piece === piece)
  if (there || clipsOf(live.body).some((clip) => clip.piece === piece)) return { board, name, key: there?.[0] ?? null, already: true }
  const key = freePlace(places)
  if (key === null) return { board, name, key, already: false }
  live.act([{ type: 'put', record: { id: crypto.randomUUID(), kind: 'clip', piece, key } }], { label: 'put on the board' })
  return { board, name, key, already: false }
}

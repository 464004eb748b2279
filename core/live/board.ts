import type { DocumentType } from '../steps/document'
import { recordsType, type Bag, type RecordStep } from '../steps/records'
import type { Frames } from '../time'

/** A board: the pieces that a programme may play live, each on a key. */

/** The places of a board, in rows of ten, as the keys lie on a keyboard; by `KeyboardEvent.code`. */
export const ROWS: readonly (readonly string[])[] = [
  ['Digit1', 'Digit2', 'Digit3', 'Digit4', 'Digit5', 'Digit6', 'Digit7', 'Digit8', 'Digit9', 'Digit0'],
  ['KeyQ', 'KeyW', 'KeyE', 'KeyR', 'KeyT', 'KeyY', 'KeyU', 'KeyI', 'KeyO', 'KeyP'],
  ['KeyA', 'KeyS', 'KeyD', 'KeyF', 'KeyG', 'KeyH', 'KeyJ', 'KeyK', 'KeyL', 'Semicolon'],
  ['KeyZ', 'KeyX', 'KeyC', 'KeyV', 'KeyB', 'KeyN', 'KeyM', 'Comma', 'Period', 'Slash'],
]
export const PLACES: readonly string[] = ROWS.flat()

export interface BoardHead {
  id: 'board'
  kind: 'board'
  /** The programme. */
  name: string
  /** All clips are brought to this, in LUFS; each is as loud as its piece where none is set. */
  level?: number
}

/** A live clip: a piece on a key. */
export interface LiveClip {
  id: string
  kind: 'clip'
  piece: string
  /** The key that it asks for: see `placesOf`. */
  key: string
  /** It begins again at its end until it is stopped. */
  loop?: true
  /** It plays beside what plays, and goes on beside what comes. */
  over?: true
  /** How long it fades when it is stopped; it stops at once where none is set. */
  fade?: Frames
}

export type BoardRecord = BoardHead | LiveClip
export type BoardStep = RecordStep<BoardRecord>
export interface BoardDocument {
  kind: 'board'
  records: Bag<BoardRecord>
}

export const boardType: DocumentType<BoardDocument, BoardStep> = recordsType<BoardRecord, BoardDocument>()

export const newBoard = (name: string): BoardDocument => ({ kind: 'board', records: { board: { id: 'board', kind: 'board', name } } })

export const boardHead = ({ records }: BoardDocument): BoardHead => records.board as BoardHead

export const clipsOf = ({ records }: BoardDocument): LiveClip[] =>
  Object.values(records).filter((record): record is LiveClip => record.kind === 'clip')

/**
 * Which clip is on which key. Of two that ask for one, as where two people put something there at once, the one with the
 * smaller id has it, and the other the next key that is free; what finds none is on no key.
 */
export function placesOf(board: BoardDocument): Map<string, LiveClip> {
  const places = new Map<string, LiveClip>()
  const homeless: LiveClip[] = []
  for (const clip of clipsOf(board).sort((a, b) => (a.id < b.id ? -1 : 1))) {
    if (!places.has(clip.key) && PLACES.includes(clip.key)) places.set(clip.key, clip)
    else homeless.push(clip)
  }
  for (const clip of homeless) {
    const free = freePlace(places, clip.key)
    if (free) places.set(free, clip)
  }
  return places
}

/** The first key that is free, from one on and then from the beginning; null where all are taken. */
export function freePlace(places: ReadonlyMap<string, unknown>, from: string = PLACES[0]): string | null {
  const at = Math.max(0, PLACES.indexOf(from))
  return [...PLACES.slice(at), ...PLACES.slice(0, at)].find((key) => !places.has(key)) ?? null
}

/** Steps by which a clip goes to a key, and what was there to the clip's own. */
export function movedTo(board: BoardDocument, id: string, key: string): BoardStep[] {
  const places = placesOf(board)
  const from = [...places].find(([, clip]) => clip.id === id)?.[0]
  if (!from || from === key) return []
  const there = places.get(key)
  const set = (clip: string, value: string): BoardStep => ({ type: 'set', id: clip, key: 'key', value })
  return there ? [set(id, key), set(there.id, from)] : [set(id, key)]
}

/** The key next to one with something on it, in a direction; the key itself where there is none. */
export function neighbour(places: ReadonlyMap<string, unknown>, from: string, by: 'left' | 'right' | 'up' | 'down'): string {
  const taken = PLACES.filter((key) => places.has(key))
  if (!taken.includes(from)) return taken[0] ?? from
  const at = PLACES.indexOf(from)
  if (by === 'left' || by === 'right') {
    const next = taken.indexOf(from) + (by === 'left' ? -1 : 1)
    return taken[(next + taken.length) % taken.length]
  }
  const row = Math.floor(at / 10)
  const rows = ROWS.map((_keys, i) => (by === 'down' ? (row + 1 + i) % ROWS.length : (row - 1 - i + 2 * ROWS.length) % ROWS.length))
  const column = at % 10
  for (const one of rows) {
    const inRow = ROWS[one].filter((key) => places.has(key))
    const distance = (key: string) => Math.abs((PLACES.indexOf(key) % 10) - column)
    if (one !== row && inRow.length) return inRow.reduce((best, key) => (distance(key) < distance(best) ? key : best))
  }
  return from
}

import { expect, test } from 'vitest'
import { applyAll } from '../steps/document'
import { boardType, freePlace, movedTo, neighbour, newBoard, placesOf, PLACES, type BoardDocument, type LiveClip } from './board'

const clip = (id: string, key: string): LiveClip => ({ id, kind: 'clip', piece: `${id}'s`, key })
const boardWith = (...clips: LiveClip[]): BoardDocument =>
  applyAll(
    boardType,
    newBoard('Harbour Desk'),
    clips.map((record) => ({ type: 'put' as const, record })),
  )
const keysIn = (board: BoardDocument) => Object.fromEntries([...placesOf(board)].map(([key, { id }]) => [id, key]))

test('each clip is on the key that it asks for', () => {
  expect(keysIn(boardWith(clip('a', 'KeyQ'), clip('b', 'Digit1')))).toEqual({ a: 'KeyQ', b: 'Digit1' })
})

test('of two that ask for one key both have one, whoever came first', () => {
  const [a, b, c] = [clip('a', 'Digit1'), clip('b', 'Digit1'), clip('c', 'Digit2')]
  const places = { a: 'Digit1', c: 'Digit2', b: 'Digit3' }
  expect(keysIn(boardWith(a, b, c))).toEqual(places)
  expect(keysIn(boardWith(c, b, a))).toEqual(places)
})

test('forty have a key each; a forty-first has none, and nothing is lost', () => {
  const clips = Array.from({ length: 41 }, (_, i) => clip(String(100 + i), 'KeyM'))
  const board = boardWith(...clips)
  expect(placesOf(board).size).toBe(40)
  expect(new Set(placesOf(board).keys())).toEqual(new Set(PLACES))
  expect(freePlace(placesOf(board))).toBeNull()
})

test('moved to a key that is taken, the two change places', () => {
  const board = boardWith(clip('a', 'Digit1'), clip('b', 'Digit2'))
  const after = applyAll(boardType, board, movedTo(board, 'a', 'Digit2'))
  expect(keysIn(after)).toEqual({ a: 'Digit2', b: 'Digit1' })
  expect(movedTo(board, 'a', 'Digit1')).toEqual([])
  expect(keysIn(applyAll(boardType, board, movedTo(board, 'a', 'KeyZ')))).toEqual({ a: 'KeyZ', b: 'Digit2' })
})

test('arrows go from one to the next that is there, and around', () => {
  const places = placesOf(boardWith(clip('a', 'Digit1'), clip('b', 'Digit4'), clip('c', 'KeyE'), clip('d', 'KeyZ')))
  expect(neighbour(places, 'Digit1', 'right')).toBe('Digit4')
  expect(neighbour(places, 'Digit4', 'right')).toBe('KeyE')
  expect(neighbour(places, 'KeyZ', 'right')).toBe('Digit1')
  expect(neighbour(places, 'Digit1', 'left')).toBe('KeyZ')
  expect(neighbour(places, 'Digit4', 'down')).toBe('KeyE')
  expect(neighbour(places, 'KeyE', 'up')).toBe('Digit4')
  expect(neighbour(places, 'KeyE', 'down')).toBe('KeyZ')
  expect(neighbour(places, 'Digit9', 'down')).toBe('Digit1')
})

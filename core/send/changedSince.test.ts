import { expect, test } from 'vitest'
import { RATE } from '../time'
import { changedSince, type MadeOf, type Part } from './changedSince'

const part = (name: string, seconds: number, more: Partial<Part> = {}): Part => ({
  id: name,
  name,
  words: seconds * RATE,
  piece: `${name}'s`,
  revision: 1,
  sound: 'as it was',
  ...more,
})
const made = (sound: string, ...parts: Part[]): MadeOf => ({ sound, parts, length: parts.reduce((sum, { words }) => sum + words, 0) })

const [opening, master, council] = [part('Opening', 10), part('Ferry master', 15), part('Council', 12)]
const then = made('a', opening, master, council)

test('the same sound is no change, whatever was written meanwhile', () => {
  expect(changedSince(then, { ...then, parts: [{ ...opening, revision: 9, sound: 'x' }, master, council] })).toEqual([])
})

test('what was edited says by how much it is longer or shorter, and so does the whole', () => {
  const now = made('b', opening, { ...master, words: 13 * RATE, sound: 'shorter' }, council)
  expect(changedSince(then, now)).toEqual(['“Ferry master” was edited, 0:02.0 shorter.', 'The whole is 0:02.0 shorter.'])
})

test('what is out, new, exchanged, voiced or edited at the same length is told in the order of the page', () => {
  const old = made('a', part('Lead-in', 5, { piece: null }), opening, master, council)
  const now = made('b', part('Lead-in', 5), { ...opening, sound: 'otherwise' }, { ...council, piece: 'another' }, part('Tag', 4))
  expect(changedSince(old, now)).toEqual([
    '“Ferry master” is out.',
    '“Lead-in” got its voice track.',
    '“Opening” was edited, at the same length.',
    '“Council” has another piece.',
    '“Tag” is new.',
    'The whole is 0:11.0 shorter.',
  ])
})

test('one that was moved is told, and not all those that it passed', () => {
  expect(changedSince(then, made('b', council, opening, master))).toEqual(['“Council” comes elsewhere.'])
})

test('a piece in which joins were only played is not told', () => {
  expect(changedSince(then, made('b', opening, { ...master, revision: 5 }, part('Council', 14, { sound: 'longer' })))).toEqual([
    '“Council” was edited, 0:02.0 longer.',
    'The whole is 0:02.0 longer.',
  ])
})

test('where only levels or lanes changed, that is said', () => {
  expect(changedSince(then, { ...then, sound: 'b' })).toEqual([
    'Levels, fades or what lies under it: it has the same parts, and sounds otherwise.',
  ])
})

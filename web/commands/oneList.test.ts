import { expect, it } from 'vitest'
import { oneList } from './oneList'

const nothing = () => undefined

it('makes one list of several, and one that stands in two of them does not compile', () => {
  expect(Object.keys(oneList({ 'edit.copy': nothing }, { 'edit.paste': nothing }, { 'edit.undo': nothing }))).toEqual([
    'edit.copy',
    'edit.paste',
    'edit.undo',
  ])
  // @ts-expect-error copying stands in the first and in the last
  oneList({ 'edit.copy': nothing }, { 'edit.paste': nothing }, { 'edit.copy': nothing })
})

import { expect, it } from 'vitest'
import { toFrames } from '../time'
import { pausesAround } from './pauses'

const at = (from: number, to: number) => ({ from: toFrames(from), to: toFrames(to) })

it('finds where nobody speaks, and leaves the shoulders of speech alone', () => {
  expect(pausesAround([at(2, 3), at(3.4, 5), at(4, 6), at(8, 9)], toFrames(12))).toEqual([at(0, 1.85), at(6.15, 7.85), at(9.15, 12)])
})

it('finds all of a silent tape, and nothing in talk without a pause', () => {
  expect(pausesAround([], toFrames(3))).toEqual([at(0, 3)])
  expect(pausesAround([at(0, 1.5), at(1.9, 3)], toFrames(3))).toEqual([])
})

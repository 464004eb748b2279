import { expect, it } from 'vitest'
import { moveBlocks } from './moveBlocks'
import { byOrder, placeAt } from './order'

const spine = 'abcdef'
  .split('')
  .reduce<{ id: string; order: string }[]>((list, id) => [...list, { id, order: placeAt(list, list.length).order }], [])
const after = (from: typeof spine, steps: ReturnType<typeof moveBlocks>): string => {
  const now = new Map(from.map(({ id, order }) => [id, order]))
  for (const step of steps) if (step.type === 'set') now.set(step.id, step.value as string)
  return [...now]
    .map(([id, order]) => ({ id, order }))
    .sort(byOrder)
    .map(({ id }) => id)
    .join('')
}

it.each([
  ['bc', 0, 'bcadef'],
  ['bc', 4, 'adefbc'],
  ['ace', 1, 'bacedf'],
  ['af', 2, 'bcafde'],
])('blocks %s go together to place %i: %s', (moving, index, wanted) => {
  expect(after(spine, moveBlocks(spine, new Set(moving), index))).toBe(wanted)
})

it('where they stand already nothing is done, and twins of one place are parted', () => {
  expect(moveBlocks(spine, new Set('bc'), 1)).toEqual([])
  const twins = spine.map((one) => (one.id === 'd' ? { ...one, order: spine[2].order } : one))
  expect(after(twins, moveBlocks(twins, new Set('ab'), 1))).toBe('cabdef')
})

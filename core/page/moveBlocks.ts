import { placeAt, type Ordered } from './order'
import type { StoryStep } from './story'

/**
 * The steps that move blocks, in the order in which they stand, to stand together before what is at `index` of those that
 * stay. None where they stand there already.
 */
export function moveBlocks(spine: readonly Ordered[], moving: ReadonlySet<string>, index: number): StoryStep[] {
  const going = spine.filter(({ id }) => moving.has(id))
  const list = spine.filter(({ id }) => !moving.has(id)).map(({ id, order }) => ({ id, order }))
  const wanted = [...list.slice(0, index), ...going, ...list.slice(index)]
  if (wanted.every(({ id }, i) => id === spine[i].id)) return []
  const steps: StoryStep[] = []
  const set = (id: string, order: string) => steps.push({ type: 'set', id, key: 'order', value: order })
  going.forEach(({ id }, i) => {
    const { order, others } = placeAt(list, index + i)
    for (const other of others) {
      set(other.id, other.order)
      list.find((one) => one.id === other.id)!.order = other.order
    }
    set(id, order)
    list.splice(index + i, 0, { id, order })
  })
  return steps
}

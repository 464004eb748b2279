import fc from 'fast-check'
import { expect, it } from 'vitest'
import { byOrder, placeAt, type Ordered } from './order'

/** Puts something new at a place, and gives the list as everybody then sees it. */
function put(list: readonly Ordered[], index: number, id: string): Ordered[] {
  const { order, others } = placeAt(list, index)
  const moved = new Map(others.map((other) => [other.id, other.order]))
  return [...list.map((one) => ({ ...one, order: moved.get(one.id) ?? one.order })), { id, order }].sort(byOrder)
}

it('gives a place between any two, also between twins that two people made at once', () => {
  const twins: Ordered[] = [
    { id: 'a', order: 'a0' },
    { id: 'b', order: 'a1' },
    { id: 'c', order: 'a1' },
    { id: 'd', order: 'a1' },
    { id: 'e', order: 'a2' },
  ]
  for (let index = 0; index <= twins.length; index++) {
    const after = put(twins, index, 'new')
    const wanted = twins.map(({ id }) => id)
    wanted.splice(index, 0, 'new')
    expect(after.map(({ id }) => id)).toEqual(wanted)
  }
})

it('never gives a place that is taken, however often and wherever things are put', () =>
  fc.assert(
    fc.property(
      fc.array(fc.noBias(fc.nat(1000)), { minLength: 1, maxLength: 40 }),
      fc.array(fc.nat(3), { maxLength: 6 }),
      (places, doubled) => {
        let list: Ordered[] = doubled.map((key, i) => ({ id: `twin${i}`, order: `a${key}` })).sort(byOrder)
        places.forEach((at, i) => {
          const index = at % (list.length + 1)
          const after = put(list, index, `new${i}`)
          expect(after[index].id).toBe(`new${i}`)
          expect(after.filter(({ order }) => order === after[index].order)).toHaveLength(1)
          list = after
        })
      },
    ),
  ))

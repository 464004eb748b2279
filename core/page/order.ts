import { generateNKeysBetween } from 'fractional-indexing'

/** Places in an order that several people change at once: each thing has a key, and keys sort as text. */

export interface Ordered {
  id: string
  order: string
}

/** In order; two that were put at one place by two people at once go by their ids. */
export const byOrder = (a: Ordered, b: Ordered): number => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1)

/** A place of its own, and those of its neighbours that must make way for it. */
export interface OrderedPlace {
  order: string
  /** Other things that share a place there, each with one of its own from now on. */
  others: Ordered[]
}

/** The place before what stands at `index` of a list in order; at its end where `index` is its length. */
export function placeAt(list: readonly Ordered[], index: number): OrderedPlace {
  const left = list[index - 1]?.order ?? null
  let end = index
  while (left !== null && end < list.length && list[end].order <= left) end++
  const twins = list.slice(index, end)
  const [order, ...rest] = generateNKeysBetween(left, list[end]?.order ?? null, twins.length + 1)
  return { order, others: twins.map(({ id }, i) => ({ id, order: rest[i] })) }
}

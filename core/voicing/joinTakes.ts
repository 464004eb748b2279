import type { Actuality } from '../edits/actuality'
import { appended } from '../edits/order'
import type { Frames } from '../time'

/**
 * Two voice tracks as one, with as much of the room between them as there was on the page (`gap`, in frames, as far as their handles have
 * it). `louder`: by how many dB the second was turned more than the first.
 */
export function joinTakes(first: Actuality, second: Actuality, gap: Frames, louder: number): Actuality {
  const room = Math.max(0, gap)
  const head = Math.min(room, second.head)
  const tail = Math.min(room - head, first.tail)
  const { piece } = appended([
    { ...first, tail: first.tail - tail },
    { ...second, head: second.head - head, ...(louder ? { gain: (second.gain ?? 0) + louder } : {}) },
  ])
  return piece
}

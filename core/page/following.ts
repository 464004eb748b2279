import type { Frames } from '../time'
import type { Layout } from './timing'

/** Where a page plays: what has passed of a block, and where it goes on when the page changes. */

/** How much of a block's words has passed, 0 to 1; null while another block runs. */
export function shareOf(layout: Layout, block: string, place: Frames): number | null {
  const row = layout.placed.find((one) => one.block.id === block)
  if (!row || place < row.at || place >= row.at + row.words) return null
  return (place - row.at) / row.words
}

/** Where each block of one layout lies in another: runs of time, in order. A block that is gone leads to what took its place. */
export function moved(before: Layout, after: Layout): { from: Frames; length: Frames; to: Frames }[] {
  return before.placed.map((row) => {
    const now = after.placed.find((one) => one.block.id === row.block.id) ?? after.placed.find((one) => one.at >= row.at)
    return { from: Math.max(0, row.from), length: row.to - row.from, to: Math.max(0, now?.from ?? 0) }
  })
}

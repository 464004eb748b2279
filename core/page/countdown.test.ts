import { describe, expect, it } from 'vitest'
import { toFrames } from '../time'
import { backtimeOf, countdown } from './countdown'
import type { Block, BlockKind } from './story'
import { layBlocks } from './timing'

const block = (id: string, kind: BlockKind, piece: string | null, gap?: number): Block => ({
  id,
  kind,
  order: id,
  aside: false,
  text: '',
  reader: '',
  piece,
  gap: gap === undefined ? undefined : toFrames(gap),
})
/** Pieces are as long as their names say, in seconds, without handles. */
const lengthOf = (piece: string) => ({ length: toFrames(Number(piece)), head: 0, tail: 0 })
const page = layBlocks(
  [block('a', 'copy', '5'), block('b', 'actuality', '10'), block('c', 'copy', '4', 2), block('d', 'actuality', '6', -1)],
  lengthOf,
)

describe('a countdown', () => {
  const at = (seconds: number) => {
    const { now, line, tape, end } = countdown(page, toFrames(seconds))
    const told = (one: { row: { block: Block } } | null) => one && one.row.block.id
    return [told(now), now && now.left / 48_000, told(line), line && line.in / 48_000, told(tape), tape && tape.in / 48_000, end / 48_000]
  }
  it('tells what runs, the next line, the next tape and the end', () => {
    expect(at(1)).toEqual(['a', 4, 'c', 16, 'b', 4, 25])
    expect(at(5)).toEqual(['b', 10, 'c', 12, 'd', 15, 21])
  })
  it('tells of a gap that nothing runs', () => expect(at(16)).toEqual([null, null, 'c', 1, 'd', 4, 10]))
  it('takes what began last where two overlap', () => expect(at(20.5)).toEqual(['d', 5.5, null, null, null, null, 5.5]))
  it('is at nothing when all is over', () => expect(at(30)).toEqual([null, null, null, null, null, null, 0]))
})

describe('a backtime', () => {
  it('brings the page to the end of its slot, and lies before it where the page is too long', () => {
    const [first, second] = page.placed
    expect(page.length / 48_000).toBe(26)
    expect(backtimeOf(second, page, toFrames(30)) / 48_000).toBe(9)
    expect(backtimeOf(first, page, toFrames(20)) / 48_000).toBe(-6)
  })
})

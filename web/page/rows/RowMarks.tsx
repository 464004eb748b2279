import { createContext, use } from 'react'
import type { PlacedMark } from '../../../core/page/lay'
import type { PlanLoudness } from '../../../core/render/meter'
import type { Layout } from '../../../core/page/timing'
import type { MarkColour } from '../../../core/tape/tape'
import { DOTS } from '../../marks/MarkList'

/** What is marked beside a block: how far into its words, as a share, and why. */
export type RowMark = { id: string; share: number } & ({ turned: number } | { says: string; colour: MarkColour })

/** By block. Marks change without anything else of a row. */
export const MarksContext = createContext<ReadonlyMap<string, readonly RowMark[]>>(new Map())

/** What is marked beside the blocks of a page: somebody's marks, and where the file is turned down because it is far too loud. */
export function rowMarks(
  layout: Layout,
  marks: readonly PlacedMark[],
  file: Layout,
  turned: PlanLoudness['turned'],
): ReadonlyMap<string, readonly RowMark[]> {
  const all = new Map<string, RowMark[]>()
  const put = ({ placed }: Layout, at: number, mark: (share: number) => RowMark) => {
    const row = placed.findLast((one) => one.at <= at) ?? placed[0]
    if (!row) return
    const share = Math.max(0, Math.min(1, (at - row.at) / Math.max(1, row.words)))
    all.set(row.block.id, [...(all.get(row.block.id) ?? []), mark(share)])
  }
  for (const { mark, at } of marks)
    put(layout, at, (share) => ({ id: mark.id, share, says: mark.text || 'Mark', colour: mark.colour ?? 'tape' }))
  for (const { from, to, dB } of turned) put(file, (from + to) / 2, (share) => ({ id: `turned ${from}`, share, turned: dB }))
  return all
}

/** The marks beside one block, at the left edge of its bars. A click plays from there. */
export function RowMarks({ block, onPlay }: { block: string; onPlay: (share: number) => void }) {
  const marks = use(MarksContext).get(block) ?? []
  return marks.map((mark) => {
    const title = 'turned' in mark ? `So loud that it is turned down by ${mark.turned.toFixed(1)} dB here` : mark.says
    return (
      <button
        key={mark.id}
        type="button"
        data-testid={'turned' in mark ? 'turned' : 'page-mark'}
        title={title}
        aria-label={`${title}; play from there`}
        className={`absolute left-0 z-10 h-[14px] w-[9px] -translate-y-1/2
          ${'turned' in mark ? 'bg-cut [clip-path:polygon(0_0,100%_50%,0_100%)]' : `rounded-r-full ${DOTS[mark.colour]}`}`}
        style={{ top: `${mark.share * 100}%` }}
        onClick={(event) => {
          event.stopPropagation()
          onPlay(mark.share)
        }}
      />
    )
  })
}

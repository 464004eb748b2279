import { useLayoutEffect, useState } from 'react'
import type { Layout } from '../../../core/page/timing'
import { useTurned } from './turned'

interface Mark {
  y: number
  dB: number
  /** The block that it lies beside, and how far into its words, as a share. */
  block: string
  share: number
}

/** Marks beside the blocks where the file is so loud that it is turned down. A click plays from there. */
export function TurnedMarks({ file, onPlay }: { file: Layout; onPlay: (block: string, share: number) => void }) {
  const turned = useTurned((state) => state.turned)
  const [marks, setMarks] = useState<readonly Mark[]>([])
  useLayoutEffect(() => {
    setMarks(
      turned.flatMap(({ from, to, dB }): Mark[] => {
        const middle = (from + to) / 2
        const row = file.placed.findLast(({ at }) => at <= middle) ?? file.placed[0]
        const element = row && document.getElementById(`block-${row.block.id}`)
        if (!element) return []
        const share = Math.max(0, Math.min(1, (middle - row.at) / Math.max(1, row.words)))
        return [{ y: element.offsetTop + share * element.offsetHeight, dB, block: row.block.id, share }]
      }),
    )
  }, [turned, file])
  return marks.map(({ y, dB, block, share }) => (
    <button
      key={y}
      type="button"
      data-testid="turned"
      title={`So loud that it is turned down by ${dB.toFixed(1)} dB here`}
      aria-label={`Turned down by ${dB.toFixed(1)} dB here; play from there`}
      className={`absolute right-[calc(var(--bars)-9px)] z-10 h-[14px] w-[9px] -translate-y-1/2 bg-cut
        [clip-path:polygon(0_0,100%_50%,0_100%)]`}
      style={{ top: y }}
      onClick={() => onPlay(block, share)}
    />
  ))
}

import { useVirtualizer } from '@tanstack/react-virtual'
import { useRef, type ReactNode } from 'react'

const FEW = 60

/** A list that may be very long: of many rows, only those in view are made. */
export function LongList<T>({
  items,
  rowHeight,
  row,
  testId,
}: {
  items: readonly T[]
  rowHeight: number
  row: (item: T) => ReactNode
  testId?: string
}) {
  if (items.length <= FEW)
    return (
      <ul data-testid={testId}>
        {items.map((item, i) => (
          <li key={i} className="border-b border-rule">
            {row(item)}
          </li>
        ))}
      </ul>
    )
  return <Windowed items={items} rowHeight={rowHeight} row={row} testId={testId} />
}

function Windowed<T>({
  items,
  rowHeight,
  row,
  testId,
}: {
  items: readonly T[]
  rowHeight: number
  row: (item: T) => ReactNode
  testId?: string
}) {
  const scroller = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({ count: items.length, getScrollElement: () => scroller.current, estimateSize: () => rowHeight, overscan: 6 })
  return (
    <div ref={scroller} className="max-h-[38vh] overflow-y-auto" tabIndex={0} role="group" aria-label={`${items.length} rows`}>
      <ul data-testid={testId} className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, start }) => (
          <li key={index} className="absolute right-0 left-0 border-b border-rule" style={{ transform: `translateY(${start}px)` }}>
            {row(items[index])}
          </li>
        ))}
      </ul>
    </div>
  )
}

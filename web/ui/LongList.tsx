import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useRef, type ReactNode } from 'react'

const FEW = 60

interface LongRows<T> {
  items: readonly T[]
  rowHeight: number
  row: (item: T) => ReactNode
  testId?: string
  at?: number
}

/** A list that may be very long: of many rows, only those in view are made. The row `at` is kept in view. */
export function LongList<T>({ items, rowHeight, row, testId, at }: LongRows<T>) {
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
  return <Windowed items={items} rowHeight={rowHeight} row={row} testId={testId} at={at} />
}

function Windowed<T>({ items, rowHeight, row, testId, at }: LongRows<T>) {
  const scroller = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({ count: items.length, getScrollElement: () => scroller.current, estimateSize: () => rowHeight, overscan: 6 })
  useEffect(() => {
    if (at !== undefined && at >= 0) rows.scrollToIndex(at)
  }, [at, rows])
  return (
    <div
      ref={scroller}
      className="max-h-[38vh] contain-layout overflow-y-auto"
      tabIndex={0}
      role="group"
      aria-label={`${items.length} rows`}
    >
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

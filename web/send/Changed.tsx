import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Receipt } from '../../contract/sends'
import { get } from '../api/client'

/** What would be otherwise if it were sent again now; asked for when somebody wants to know. */
export function Changed({ receipt }: { receipt: Receipt }) {
  const [open, setOpen] = useState(false)
  const { data, error } = useQuery({
    queryKey: ['sends', 'changed', receipt.id],
    queryFn: () => get<{ lines: string[] | null }>(`/sends/${receipt.id}/changed`),
    enabled: open,
    // what it was made of changes by any hand
    staleTime: 0,
    retry: false,
  })
  return (
    <details className="text-faint" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="inline cursor-pointer hover:underline">What changed since</summary>
      {error && <p className="text-cut-ink">{error.message}</p>}
      {data?.lines === null && <p>It was sent before that was kept.</p>}
      {data?.lines?.length === 0 && <p>Nothing: it would be the same sound.</p>}
      <ul className="list-inside list-disc text-ink" data-testid="changed">
        {data?.lines?.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </details>
  )
}

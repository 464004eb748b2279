import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useMemo, useState } from 'react'
import type { Filter, KeptSearch, LibraryRow, Said } from '../../contract/library'
import { get } from '../api/client'
import { ANYTHING, matches } from './filing'

export const useLibraryRows = () => useQuery({ queryKey: ['tapes', 'library'], queryFn: () => get<LibraryRow[]>('/library') })
export const useSearches = () => useQuery({ queryKey: ['searches'], queryFn: () => get<KeptSearch[]>('/library/searches') })

/** The filter stays while one looks into a tape and comes back. */
let last = ANYTHING

/** The library, narrowed down: what is filed by is known here, what was said is asked of the server. */
export function useLibrary() {
  const { data, error } = useLibraryRows()
  const [filter, setFilterState] = useState<Filter>(last)
  const setFilter = (next: Filter) => setFilterState((last = next))
  const text = useDeferredValue(filter.text.trim())
  const { data: said } = useQuery({
    queryKey: ['said', text],
    enabled: text.length > 2,
    placeholderData: (before) => before,
    queryFn: () => get<Said[]>(`/library/said?text=${encodeURIComponent(text)}`),
  })
  const places = useMemo(() => new Map((text.length > 2 ? (said ?? []) : []).map((one) => [one.id, one])), [said, text])
  const rows = useMemo(() => data?.filter((row) => !row.aside && !row.deleted && matches(row, filter, new Set(places.keys()))) ?? [], [data, filter, places])
  return { all: data, rows, places, filter, setFilter, error }
}

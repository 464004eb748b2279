import { keepPreviousData, useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import type { Filter, KeptSearch, LibraryFacts, LibraryPage, LibraryRow, PageOrder, Said, TapeOrder } from '../../contract/library'
import { get, post } from '../api/client'
import { ANYTHING } from './filing'
import { noteShown } from './tapeBeside'

/** So many rows are asked for at once. */
const PAGE = 100

export const useLibraryFacts = () => useQuery({ queryKey: ['tapes', 'facts'], queryFn: () => get<LibraryFacts>('/library/facts') })
export const useSearches = () => useQuery({ queryKey: ['searches'], queryFn: () => get<KeptSearch[]>('/library/searches') })

const pageQuery = (order: PageOrder) => ({
  queryKey: ['tapes', 'page', order],
  queryFn: () => post<LibraryPage>('/library/page', order),
  placeholderData: keepPreviousData,
})

/** The tapes of a story. */
export const useStoryTapes = (story: string): readonly LibraryRow[] =>
  useQuery(pageQuery({ filter: { ...ANYTHING, story }, order: 'name', descending: false, from: 0, count: 200 })).data?.rows ?? []

/** The filter stays while one looks into a tape and comes back. */
let last = ANYTHING

export interface Sorting {
  order: TapeOrder
  descending: boolean
}

/** The library as a filter narrows it down, in order. */
export function useLibrary({ order, descending }: Sorting) {
  const facts = useLibraryFacts()
  const [filter, setFilterState] = useState<Filter>(last)
  const setFilter = (next: Filter) => setFilterState((last = next))
  const asked = useDeferredValue(filter)
  const pageOrder = (page: number): PageOrder => ({
    filter: { ...asked, text: asked.text.trim() },
    order,
    descending,
    from: page * PAGE,
    count: PAGE,
  })
  const first = useQuery(pageQuery(pageOrder(0)))
  noteShown({ filter: asked, order, descending })
  const queries = useQueryClient()
  /** The rows from one place in the list to another, fetched where they are not here yet. */
  const rowsBetween = async (from: number, to: number): Promise<LibraryRow[]> => {
    const pages = Array.from({ length: Math.floor(to / PAGE) - Math.floor(from / PAGE) + 1 }, (_, i) => Math.floor(from / PAGE) + i)
    const all = await Promise.all(
      pages.map((page) => {
        const { queryKey, queryFn } = pageQuery(pageOrder(page))
        return queries.fetchQuery({ queryKey, queryFn, staleTime: 60_000 })
      }),
    )
    const start = pages[0] * PAGE
    return all.flatMap(({ rows }) => rows).slice(from - start, to + 1 - start)
  }
  return {
    rowsBetween,
    facts: facts.data,
    filter,
    setFilter,
    pageOrder,
    first: first.data,
    total: first.data?.total ?? 0,
    error: facts.error ?? first.error,
  }
}

/** Rows by their place in the list; of a page that is still on its way, none. */
export function useRows({ pageOrder, first }: ReturnType<typeof useLibrary>, places: readonly number[]) {
  const wanted = [...new Set(places.map((place) => Math.floor(place / PAGE)))].filter((page) => page > 0)
  const others = useQueries({ queries: wanted.map((page) => pageQuery(pageOrder(page))) })
  const pages = new Map<number, LibraryPage | undefined>([[0, first], ...wanted.map((page, i) => [page, others[i].data] as const)])
  const said = new Map<string, Said>([...pages.values()].flatMap((page) => page?.said ?? []).map((one) => [one.id, one]))
  return { rowAt: (place: number): LibraryRow | undefined => pages.get(Math.floor(place / PAGE))?.rows[place % PAGE], said }
}

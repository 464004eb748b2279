import { useState } from 'react'
import type { LibraryRow } from '../../contract/library'

/**
 * Which tapes of the library are chosen. Rows are known by their place in the list, since not all of them are loaded;
 * with Shift all as far as there are, those too that have to be fetched first.
 */
export function useChosenTapes(rowsBetween: (first: number, last: number) => Promise<LibraryRow[]>) {
  const [chosen, setChosen] = useState<ReadonlyMap<string, LibraryRow>>(new Map())
  const [from, setFrom] = useState<number | null>(null)

  const toggle = (row: LibraryRow, place: number): void => {
    const next = new Map(chosen)
    if (!next.delete(row.id)) next.set(row.id, row)
    setChosen(next)
    setFrom(place)
  }
  const asFarAs = async (place: number): Promise<void> => {
    const start = from ?? place
    const rows = await rowsBetween(Math.min(start, place), Math.max(start, place))
    setChosen((now) => new Map([...now, ...rows.map((row) => [row.id, row] as const)]))
  }
  /** All of a list of so many. */
  const all = async (count: number): Promise<void> => {
    const rows = await rowsBetween(0, count - 1)
    setChosen(new Map(rows.map((row) => [row.id, row])))
  }
  return { all, rows: [...chosen.values()], is: (id: string) => chosen.has(id), toggle, asFarAs, clear: () => setChosen(new Map()) }
}

import type { LibraryPage, PageOrder } from '../../contract/library'
import { post } from '../api/client'
import { ANYTHING } from './filing'

/** The library as it was shown last: what comes before and after a tape goes by it. */
type Shown = Pick<PageOrder, 'filter' | 'order' | 'descending'>
const NEWEST: Shown = { filter: ANYTHING, order: 'added', descending: true }
let shown = NEWEST

export const noteShown = (now: Shown): void => void (shown = now)

const COUNT = 100

/**
 * The recording before or after one: of its story where it was opened from there, else as the library was shown. Null where
 * there is none.
 */
export async function tapeBeside(id: string, by: 1 | -1, story: string | null): Promise<string | null> {
  const lists = story ? [{ filter: { ...ANYTHING, story }, order: 'name', descending: false } as const, shown, NEWEST] : [shown, NEWEST]
  for (const list of lists) {
    const found = await inList(id, by, list)
    if (found !== undefined) return found
  }
  return null
}

/** Undefined where the list does not hold it. */
async function inList(id: string, by: 1 | -1, list: Shown): Promise<string | null | undefined> {
  let before: string | null = null
  let isNext = false
  for (let from = 0; ; from += COUNT) {
    const { rows } = await post<LibraryPage>('/library/page', { ...list, from, count: COUNT })
    for (const row of rows) {
      if (isNext) return row.id
      if (row.id === id && by < 0) return before
      isNext = row.id === id
      before = row.id
    }
    if (rows.length < COUNT) return isNext ? null : undefined
  }
}

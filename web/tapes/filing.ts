import type { Filter, LibraryRow, TapeState } from '../../contract/library'

/** How tapes are narrowed down and put in order. */

export const ANYTHING: Filter = { text: '', state: '', tag: '', speaker: '', story: null, from: '', to: '', shortest: null, longest: null }

export const stateOf = (row: LibraryRow): TapeState => (row.uses ? 'used' : row.marks ? 'logged' : row.heard ? 'heard' : 'new')

export const STATE_NAMES: Record<TapeState, string> = { new: 'not listened to', heard: 'listened to', logged: 'logged', used: 'used' }

/** All who speak on a tape, as far as anybody named them. */
export const speakersOf = (row: LibraryRow): string[] => [...new Set([row.speaker, ...row.sides.map((side) => side.name)].filter(Boolean))]

/** When it was recorded, or else when it came, as 2026-11-25. */
export const dayOf = (row: LibraryRow): string => row.day || row.added.slice(0, 10)

/** Whether a tape is among what is looked for; `said` are the tapes on which the text was said. */
export function matches(row: LibraryRow, filter: Filter, said: ReadonlySet<string>): boolean {
  const text = filter.text.trim().toLowerCase()
  const fields = [row.name, row.role, row.fileName, ...speakersOf(row), ...row.tags].join('\n').toLowerCase()
  if (text && !said.has(row.id) && !text.split(/\s+/).every((word) => fields.includes(word))) return false
  if (filter.state && stateOf(row) !== filter.state) return false
  if (filter.tag && !row.tags.includes(filter.tag)) return false
  if (filter.speaker && !speakersOf(row).includes(filter.speaker)) return false
  if (filter.story && !row.stories.includes(filter.story) && !row.usedIn.includes(filter.story)) return false
  if (filter.from && dayOf(row) < filter.from) return false
  if (filter.to && dayOf(row) > filter.to) return false
  if (filter.shortest !== null && row.frames < filter.shortest) return false
  if (filter.longest !== null && row.frames > filter.longest) return false
  return true
}

export const narrowed = (filter: Filter): boolean => JSON.stringify(filter) !== JSON.stringify(ANYTHING)

/** What occurs in a list of tapes, for choosing from. */
export function occurring(rows: readonly LibraryRow[], pick: (row: LibraryRow) => readonly string[]): string[] {
  return [...new Set(rows.flatMap(pick))].sort((a, b) => a.localeCompare(b))
}

import type { Filter, LibraryRow, TapeState } from '../../contract/library'

/** How tapes are filed, and what a list of them is narrowed down by. */

export const ANYTHING: Filter = { text: '', state: '', tag: '', speaker: '', story: null, from: '', to: '', shortest: null, longest: null }

export const stateOf = (row: LibraryRow): TapeState => (row.uses ? 'used' : row.marks ? 'logged' : row.heard ? 'heard' : 'new')

export const STATE_NAMES: Record<TapeState, string> = { new: 'not listened to', heard: 'listened to', logged: 'logged', used: 'used' }

/** All who speak on a tape, as far as anybody named them. */
export const speakersOf = (row: LibraryRow): string[] => [...new Set([row.speaker, ...row.sides.map((side) => side.name)].filter(Boolean))]

/** When it was recorded, or else when it came, as 2026-11-25. */
export const dayOf = (row: LibraryRow): string => row.day || row.added.slice(0, 10)

export const narrowed = (filter: Filter): boolean => JSON.stringify(filter) !== JSON.stringify(ANYTHING)

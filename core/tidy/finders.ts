import { fillers } from './fillers'
import type { Finder, FinderName } from './finder'
import { pauses } from './pauses'
import { stumbles } from './stumbles'

/** All finders, in the order in which they are shown. */
export const FINDERS: Readonly<Record<FinderName, Finder>> = { pauses, fillers, stumbles }
export const FINDER_NAMES = Object.keys(FINDERS) as FinderName[]

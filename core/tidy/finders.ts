import { breaths } from './breaths'
import { deadAir } from './deadAir'
import { fillers } from './fillers'
import type { Finder, FinderName } from './finder'
import { loud, soft } from './levels'
import { offMic } from './offMic'
import { pauses } from './pauses'
import { clicks, holes, pops } from './repairs'
import { retakes } from './retakes'
import { stumbles } from './stumbles'

/** All finders, in the order in which they are shown. */
export const FINDERS: Readonly<Record<FinderName, Finder>> = {
  pauses,
  fillers,
  stumbles,
  retakes,
  deadAir,
  breaths,
  clicks,
  pops,
  loud,
  soft,
  offMic,
  holes,
}

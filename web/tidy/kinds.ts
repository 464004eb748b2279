import type { FinderName } from '../../core/tidy/finder'

/** What finders are called, and why what they find may go. */
export const FINDER_KINDS: Record<FinderName, { title: string; one: string; reason: string }> = {
  pauses: {
    title: 'Pauses',
    one: 'pause',
    reason: 'Longer than this speaker’s own. Each goes to one of the lengths that they leave themselves.',
  },
  fillers: {
    title: 'Fillers',
    one: 'filler',
    reason: 'Um, uh, er, and phrases such as “you know” where they stand alone. The longer pause beside it stays.',
  },
  stumbles: { title: 'Stumbles', one: 'stumble', reason: 'Words said twice over, and beginnings given up. The last complete one stays.' },
}

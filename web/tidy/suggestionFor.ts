import type { Proposal, Suggestion } from '../../core/tape/suggestion'
import type { FinderName } from '../../core/tidy/finder'
import type { Outlook } from '../../core/tidy/outlook'
import type { Place } from './useKinds'

/** What is proposed at a place, with its join where it is heard least. */
export function placed({ proposes }: Place, outlook: Outlook | null | undefined): Proposal {
  if (!outlook || !('goes' in proposes)) return proposes
  const { goes, room } = outlook
  return proposes.do === 'hold' ? { ...proposes, goes } : { ...proposes, goes, room }
}

/** A place as a suggestion that nobody has decided on yet. */
export const suggestionFor = (
  finder: FinderName,
  { tape, from, to, side = null, sure, care }: Place,
  proposes: Proposal,
  settings: Suggestion['settings'],
): Suggestion => ({
  id: crypto.randomUUID(),
  kind: 'suggestion',
  at: new Date().toISOString(),
  tape,
  from,
  to,
  side,
  finder,
  settings,
  sure,
  proposes,
  ...(care === 'may be the story' ? { story: true as const } : {}),
  decision: null,
})

import type { BlockKind } from '../../../core/page/story'

/** What blocks are called, by their kind. */
export const KINDS: Record<BlockKind, string> = {
  intro: 'Host intro',
  copy: 'Copy',
  actuality: 'Actuality',
  full: 'Sound up full',
  tag: 'Tag',
  soc: 'Standard out cue',
}

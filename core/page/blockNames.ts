import type { BlockKind } from './story'

/** What blocks are called, by their kind. */
export const BLOCK_NAMES: Record<BlockKind, string> = {
  intro: 'Host intro',
  copy: 'Copy',
  actuality: 'Actuality',
  full: 'Sound up full',
  tag: 'Tag',
  soc: 'Standard out cue',
}

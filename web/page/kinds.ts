import type { Block } from '../../core/page/story'

/** What blocks are called, by their kind. */
export const KINDS: Record<Block['kind'], string> = { intro: 'Host intro', copy: 'Copy', actuality: 'Actuality' }

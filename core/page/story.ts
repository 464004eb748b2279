import type { Term } from '../recognise/terms'
import { recordsType, type Bag, type RecordStep } from '../steps/records'
import type { Frames } from '../time'
import { byOrder } from './order'

/** A story and its page: a spine of blocks, down which time runs. It changes by steps. */
export interface StoryDocument {
  kind: 'story'
  records: Bag<StoryRecord>
}

export interface StoryHead {
  id: 'story'
  kind: 'story'
  slug: string
  /** Air time, ISO 8601 with date and zone: "2026-11-25T17:52+00:00". Empty where not set; older ones have no zone. */
  airs: string
  slot: Frames
  /** For file names: who the piece is for. */
  client: string
  /** The standard out cue, which ends the script. */
  soc: string
  /** Names and terms that its tapes are likely to say. */
  terms?: Term[]
}

export interface Block {
  id: string
  kind: 'intro' | 'copy' | 'actuality'
  /** Fractional index: place in the spine. */
  order: string
  /** In the offcuts: set aside, still usable. */
  aside: boolean
  text: string
  reader: string
  /** Reading speed, words a minute. */
  pace: number
  /** The actuality it plays; for copy, the voice track that was pulled for it. Null where there is none. */
  piece: string | null
}

export type StoryRecord = StoryHead | Block
export type StoryStep = RecordStep<StoryRecord>

export const DEFAULT_PACE = 170

export const storyType = recordsType<StoryRecord, StoryDocument>()

export const storyHead = (document: StoryDocument): StoryHead => document.records.story as StoryHead

export const blocksOf = (document: StoryDocument): Block[] =>
  Object.values(document.records)
    .filter((record): record is Block => record.id !== 'story')
    .sort(byOrder)

export const spineOf = (document: StoryDocument): Block[] => blocksOf(document).filter((block) => !block.aside)

export const offcutsOf = (document: StoryDocument): Block[] => blocksOf(document).filter((block) => block.aside)

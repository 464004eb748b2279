import type { Actuality } from '../core/edits/actuality'
import type { Presence } from './presence'

/** A story as a row on the Desk. */
export interface StoryRow {
  id: string
  slug: string
  blocks: number
  /** In their order; there is always one. */
  outputs: OutputRow[]
  aside: boolean
  changed: string
}

/** An output of a story, with how it stands against its slot. */
export interface OutputRow {
  id: string
  name: string
  airs: string
  slot: number
  trt: number
  lacks: string[]
}

/** What was worked on last. */
export interface Recent {
  id: string
  kind: 'tape' | 'actuality' | 'story'
  name: string
  changed: string
}

export interface Desk {
  stories: StoryRow[]
  /** Stories that are damaged and cannot be shown, by id. */
  broken: string[]
  recent: Recent[]
}

/** A piece, with what a list of pieces shows. */
export interface PieceRow {
  id: string
  revision: number
  aside: boolean
  changed: string
  body: Actuality
}

/** What the server tells its listeners. */
export type Notice =
  | { about: 'document'; id: string; kind: 'tape' | 'actuality' | 'story' | 'board'; revision: number }
  /** What the words of a tape are. */
  | { about: 'document'; id: string; kind: 'transcript'; revision: number; tape: string }
  /** `grown`: it is still arriving, and so much of it is there to be heard. */
  | { about: 'tape'; id: string; grown?: { frames: number; progress: number } }
  | { about: 'send'; id: string }
  | { about: 'destinations' }
  | { about: 'treatments' }
  | { about: 'keepings' }
  /** What was played on a board. */
  | { about: 'plays'; id: string }
  | { about: 'lineUp'; id: string }
  | { about: 'call'; id: string }
  | { about: 'cards' }
  | { about: 'recognition'; tape: string }
  | { about: 'listening'; tape: string }
  | { about: 'tidyRules' }
  | { about: 'bringing'; tape: string }
  | { about: 'voicing'; story: string }
  | ({ about: 'presence' } & Presence)

/** An error as it crosses the wire (RFC 9457). */
export interface Problem {
  type: string
  title: string
  status: number
  detail: string
}

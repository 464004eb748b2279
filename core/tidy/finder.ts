import type { Proposal } from '../tape/suggestion'
import type { Word } from '../tape/words'
import type { Frames, Stretch } from '../time'
import type { HeardSide } from './listen/side'

/** What is looked at: a tape, with what is known of it. */
export interface Looked {
  tape: string
  frames: Frames
  /** In order; none where nobody knows them. */
  words: readonly Word[]
  /** Where somebody speaks, on any side. */
  speech: readonly Stretch[]
  language: string
  /** Filler words and phrases that count in it, beside the sounds of hesitation. */
  phrases: readonly string[]
  /** The names of its sides: who speaks on each, where that is known. */
  sides: readonly string[]
  /** What was heard on each side, in the order of the sides; null until somebody has listened. */
  heard: readonly HeardSide[] | null
}

/** A place that a finder found. */
export interface Found extends Stretch {
  /** Who says it, where that is known. */
  speaker?: string
  /** The side that it is on, by its place among them; what is on all of them has none. */
  side?: number | null
  proposes: Proposal
  /** 0 to 1. */
  sure: number
  /** All takes of a sentence that was said again, this one among them, in their order. */
  takes?: readonly Take[]
  /** Why it is left open unless it is chosen: it may be what the story is about. */
  care?: 'may be the story' | 'somebody else speaks there'
}

/** One of several takes of a sentence. */
export interface Take extends Stretch {
  /** It is the one that stays, as far as the finder can tell. */
  stays: boolean
  /** What is done where another one is to stay. */
  proposes: Proposal
  side?: number | null
}

/** One figure that a person turns, and what is found is found by it. */
export interface Setting {
  unit: 's' | 'dB'
  least: number
  most: number
  step: number
  /** What it is where nobody turned it: learnt from the tape. */
  usual: number
}

/** A finder that has measured a tape: what is found by a figure that is turned takes no second look. */
export interface Ready {
  /** Null where there is nothing to turn. */
  setting: Setting | null
  find(setting: number): Found[]
}

/** Finds one kind of thing. What it looks for by sound it does not find while nobody has listened. */
export type Finder = (looked: Looked) => Ready

export const FINDER_NAMES = [
  'pauses',
  'fillers',
  'stumbles',
  'retakes',
  'deadAir',
  'breaths',
  'clicks',
  'pops',
  'loud',
  'soft',
  'offMic',
  'holes',
] as const
export type FinderName = (typeof FINDER_NAMES)[number]

/** Time that a place would save. */
export const saves = ({ proposes }: Pick<Found, 'proposes'>): Frames =>
  proposes.do === 'takeOut' ? proposes.goes.to - proposes.goes.from - proposes.room : 0

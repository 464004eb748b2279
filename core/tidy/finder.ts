import type { Proposal, Suggestion } from '../tape/suggestion'
import type { Word } from '../tape/words'
import type { Frames, Stretch } from '../time'

/** What is looked at: a tape, with what is known of it. */
export interface Looked {
  tape: string
  frames: Frames
  /** In order; none where nobody knows them. */
  words: readonly Word[]
  /** Where somebody speaks, on any side. */
  speech: readonly Stretch[]
  language: string
}

/** A place that a finder found. */
export interface Found extends Stretch {
  /** Who says it, where that is known. */
  speaker?: string
  proposes: Proposal
  /** 0 to 1. */
  sure: number
  /** Why it is left open unless it is chosen: it may be what the story is about. */
  care?: 'may be the story'
}

/** One figure that a person turns, and what is found is found by it. */
export interface Setting {
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

/** Finds one kind of thing. */
export type Finder = (looked: Looked) => Ready

export type FinderName = 'pauses' | 'fillers' | 'stumbles'

/** Time that a place would save. */
export const saves = ({ proposes }: Pick<Found, 'proposes'>): Frames =>
  proposes.do === 'takeOut' ? proposes.goes.to - proposes.goes.from - proposes.room : 0

/** Whether something was decided on already: the same kind at the same place. */
export const isDecided = (found: Stretch, finder: FinderName, decided: readonly Suggestion[]): boolean =>
  decided.some((one) => one.finder === finder && one.decision && one.from < found.to && found.from < one.to)

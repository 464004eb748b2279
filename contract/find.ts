import * as yup from 'yup'
import type { MarkColour } from '../core/tape/tape'
import { id } from './ids'

/** What is looked for among all that was said, and where. */
export const findQuery = yup.object({
  text: yup.string().trim().min(1).max(200).required(),
  /** On one tape, or on the tapes of a story; everywhere where both are left out. */
  tape: id().optional(),
  story: id().optional(),
})

export type FindQuery = yup.InferType<typeof findQuery>

/** A place where it was said, or something near to it. */
export interface Found {
  tape: string
  /** The tape's name. */
  name: string
  day: string
  speaker: string
  /** The phrase around it. */
  from: number
  to: number
  /** What was looked for, in it. */
  at: number
  end: number
  /** The phrase in three parts: before, what was looked for, after. */
  text: [string, string, string]
  /** Said as it was asked for; else it is spelled close match, or similar sound. */
  exact: boolean
  checked: boolean
}

/** A mark of a tape, or of a page. */
export interface FoundMark {
  id: string
  /** The tape or the story that it is made on. */
  on: string
  kind: 'tape' | 'story'
  /** The tape's name, or the story's slug. */
  name: string
  day: string
  text: string
  colour: MarkColour
  /** Its frame on a tape; the block that it stands at on a page. */
  at: number | null
  block: string | null
}

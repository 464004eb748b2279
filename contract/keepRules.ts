import * as yup from 'yup'
import { id } from './ids'
import type { FieldsOf } from './shapes'

/** How long things are kept, in days; null where they are kept for ever, which is so until somebody sets a rule. */
export interface KeepRules {
  /** Recordings that nothing uses, since they came or were last worked on. */
  unusedTapes: number | null
  /** Story files that were made here. */
  storyFiles: number | null
}

const days = () => yup.number().integer().min(7, 'a week at least').max(36_500).nullable().defined()

export const keepRulesSchema = yup.object({ unusedTapes: days(), storyFiles: days() } satisfies FieldsOf<KeepRules>).noUnknown()

/** A recording that will go by the rule, and when. */
export interface Going {
  id: string
  name: string
  frames: number
  goes: string
}

/** What is spared from the rule, for good. */
export const spareOrder = yup.object({ tapes: yup.array(id().required()).min(1).max(1000).required() }).noUnknown()

/** Between the warning and the going lie so many days; and what went can be restored for thirty more. */
export const WARNED_DAYS = 14

import * as yup from 'yup'
import type { BoardDocument, BoardStep } from '../core/live/board'
import type { Actuality, ActualityStep } from '../core/edits/actuality'
import { brokenIn, type StoryDocument, type StoryStep } from '../core/page/story'
import type { TapeDocument, TapeStep } from '../core/tape/tape'
import type { Transcript, TranscriptStep } from '../core/transcript/transcript'
import { boardRecords } from './boards'
import { id, revision } from './ids'
import { SENT_AT_ONCE } from './limits'
import { actualitySchema, actualityStep, keptRecords } from './pieces'
import { name, own, recordStep, STRICT } from './shapes'
import { STORY_TEXTS, storyRecords } from './storyRecords'
import { tapeRecords } from './tapeRecords'
import { transcriptStep } from './transcriptSteps'

/** Documents and the steps that change them, as they cross the wire. */

/** What each kind of document is, and what changes it. */
interface Kinds {
  actuality: { body: Actuality; step: ActualityStep }
  story: { body: StoryDocument; step: StoryStep }
  tape: { body: TapeDocument; step: TapeStep }
  transcript: { body: Transcript; step: TranscriptStep }
  board: { body: BoardDocument; step: BoardStep }
}
export type Kind = keyof Kinds
export type BodyOf<K extends Kind> = Kinds[K]['body']
export type StepOf<K extends Kind> = Kinds[K]['step']
export type Body = BodyOf<Kind>
export type AnyStep = StepOf<Kind>

const stepSchemas: Record<Kind, Pick<yup.Schema, 'validateSync'>> = {
  actuality: actualityStep,
  tape: recordStep(tapeRecords),
  story: recordStep(storyRecords, STORY_TEXTS),
  transcript: transcriptStep,
  board: recordStep(boardRecords),
}

const someSteps = yup.array().required().max(5000)

/** The steps, checked; throws yup's ValidationError. */
export function checkedSteps(kind: Kind, steps: unknown): AnyStep[] {
  const list = someSteps.validateSync(steps, STRICT)
  // at once rather than by promises, which would take several times as long
  for (const step of list) stepSchemas[kind].validateSync(step, STRICT)
  return list as AnyStep[]
}

/** What is wrong with what is kept beside a piece, as far as steps have touched it. */
function keptFaults({ kept = {} }: Actuality, steps: readonly ActualityStep[]): string[] {
  const touched = steps.flatMap((step) => (step.type !== 'keep' ? [] : step.step.type === 'put' ? step.step.record.id : step.step.id))
  return [...new Set(touched)].flatMap((key) => {
    const one = own(kept, key)
    return one ? (recordFault('actuality', key, one) ?? []) : []
  })
}

const recordSchemas: Partial<Record<Kind, Record<string, yup.ObjectSchema<object>>>> = {
  actuality: keptRecords,
  tape: tapeRecords,
  story: storyRecords,
  board: boardRecords,
}

/** What is wrong with a record as it stands, by the schema of its kind; null where nothing is. */
function recordFault(kind: Kind, id: string, record: unknown): string | null {
  const schema = own(recordSchemas[kind] ?? {}, (record as { kind?: string } | null)?.kind)
  if (!schema) return `${id}: no such kind of record`
  try {
    schema.required().validateSync(record, STRICT)
    return (record as { id: string }).id === id ? null : `${id}: filed under another id`
  } catch (error) {
    return `${id}: ${(error as Error).message}`
  }
}

/**
 * What is wrong with the records of a document that steps have touched, or with all of them; empty where nothing is.
 * Of a piece, steps touch what is kept beside it; without steps it is checked as a whole.
 */
export function faultsIn(kind: Kind, body: Body, steps?: readonly AnyStep[]): string[] {
  if (kind === 'actuality' && steps) return keptFaults(body as Actuality, steps as ActualityStep[])
  if (kind === 'actuality') {
    try {
      actualitySchema.validateSync(body, STRICT)
      return []
    } catch (error) {
      return [(error as Error).message]
    }
  }
  const records = (body as StoryDocument | TapeDocument | BoardDocument).records
  if (!records) return []
  const touched =
    steps &&
    new Set(steps.map((step) => ('record' in step ? (step as { record: { id: string } }).record.id : ((step as { id?: string }).id ?? ''))))
  const missing = Object.hasOwn(records, kind) ? [] : [`${kind}: is missing`]
  return [
    ...missing,
    ...(kind === 'story' && !steps ? brokenIn(body as StoryDocument) : []),
    ...Object.keys(records).flatMap((id) =>
      touched && !touched.has(id) ? [] : (recordFault(kind, id, records[id as keyof typeof records]) ?? []),
    ),
  ]
}

/** The body of a new document, checked. Tapes are not made this way: they begin with sound. */
export async function checkedBody(body: unknown): Promise<Actuality | StoryDocument | BoardDocument> {
  const kind = (body as { kind?: unknown } | null)?.kind
  await (kind === 'actuality' ? actualitySchema : newRecords).validate(body, STRICT)
  if (kind === 'actuality') return body as Actuality
  const records = body as StoryDocument | BoardDocument
  const [fault] = faultsIn(records.kind, records)
  if (fault) throw new yup.ValidationError(fault)
  return records
}

const newRecords = yup
  .object({
    kind: yup.string().oneOf(['story', 'board']).required(),
    records: yup
      .object()
      .test('few', 'a new document has 1,000 records at most', (records) => Object.keys(records).length <= 1000)
      .required(),
  })
  .noUnknown()
  .required()

/** One act on its way to the server. */
export const entrySchema = yup
  .object({
    id: id().required(),
    author: id().required(),
    label: name().defined(),
    steps: yup.array().required(),
    undoes: id().optional(),
    quiet: yup.boolean().optional(),
    together: yup.string().max(60).optional(),
  })
  .noUnknown()

/** Acts in their order, each made on top of the one before it, the first one against revision `base`. */
export const submissionSchema = yup
  .object({ base: revision().required(), entries: yup.array(entrySchema.required()).min(1).max(SENT_AT_ONCE).required() })
  .noUnknown()

/** An act as it stands in the log. */
export interface LoggedEntry<K extends Kind = Kind> {
  revision: number
  id: string
  author: string
  label: string
  steps: StepOf<K>[]
  inverse: StepOf<K>[]
  undoes?: string
  quiet?: boolean
  together?: string
  at?: string
}

export interface StoredDocument<K extends Kind = Kind> {
  id: string
  kind: K
  revision: number
  aside: boolean
  body: BodyOf<K>
}

/** Such an act as others are told of it: what takes it back they work out themselves. */
export type ToldEntry<K extends Kind = Kind> = Omit<LoggedEntry<K>, 'inverse'>

/**
 * What becomes of a submission: the revisions of the acts that were taken, which are the first of those sent, and why the
 * next one was refused; null where it was not. What comes after a refused one is to be sent again, made without it.
 */
export interface Verdict<K extends Kind = Kind> {
  taken: number[]
  refused: string | null
  /** What was in the log since the revision that the acts were made against. */
  since: ToldEntry<K>[]
}

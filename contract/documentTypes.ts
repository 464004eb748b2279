import type { AnyStep, Body, BodyOf, Kind, StepOf } from './documents'
import { boardType } from '../core/live/board'
import { actualityType } from '../core/edits/actuality'
import { storyType } from '../core/page/story'
import type { DocumentType } from '../core/steps/document'
import { tapeType } from '../core/tape/tape'
import { transcriptType } from '../core/transcript/transcript'

/** What applies, inverts and rebases the steps of each kind of document. */
export const documentTypes: { [K in Kind]: DocumentType<BodyOf<K>, StepOf<K>> } = {
  actuality: actualityType,
  story: storyType,
  tape: tapeType,
  transcript: transcriptType,
  board: boardType,
}

/** The same, where it is not known before which kind it is: a body and the steps that go with it are of one. */
export const typeOf = (kind: Kind): DocumentType<Body, AnyStep> => documentTypes[kind] as unknown as DocumentType<Body, AnyStep>

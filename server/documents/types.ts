import type { AnyStep, Body, Kind } from '../../contract/documents'
import { actualityType } from '../../core/edits/actuality'
import { storyType } from '../../core/page/story'
import type { DocumentType } from '../../core/steps/document'
import { tapeType } from '../../core/tape/tape'
import { transcriptType } from '../../core/transcript/transcript'

/** What applies, inverts and rebases the steps of each kind of document. */
export const documentTypes = {
  actuality: actualityType,
  story: storyType,
  tape: tapeType,
  transcript: transcriptType,
} as unknown as Record<Kind, DocumentType<Body, AnyStep>>

import { EntitySchema } from 'typeorm'
import type { AnyStep, Body, Kind } from '../contract/documents'
import type { CallInfo } from '../contract/calls'
import type { LineUpInfo } from '../contract/lineups'
import type { Receipt, ScriptFile, SendOrder } from '../contract/sends'
import type { TapeInfo } from '../contract/tapes'
import type { Actuality, Kept } from '../core/edits/actuality'
import type { Span } from '../core/edits/editList'
import type { TapeFigures } from '../core/hearing/ear'
import type { MadeOf } from '../core/send/changedSince'
import type { Asked } from '../core/send/lastLook'

/** The rows that the database keeps. Sound itself lies in the media store. */

const whole = { to: (value: number) => value, from: (value: string | null) => (value === null ? null : Number(value)) }

/** A piece without its edit list, and without what is kept beside it: those lie in tables of their own, see `documents/pieces.ts`. */
export type PieceHead = Omit<Actuality, 'spans' | 'kept'>

export type StoredBody = Exclude<Body, Actuality> | PieceHead

export interface DocumentRow {
  id: string
  kind: Kind
  revision: number
  aside: boolean
  deleted: Date | null
  body: StoredBody
  /** Of a transcript: the tape whose words it holds. */
  tape: string | null
  /** Of a piece: its length. */
  frames: number | null
  created: Date
  changed: Date
}

export const DocumentEntity = new EntitySchema<DocumentRow>({
  name: 'document',
  columns: {
    id: { type: 'uuid', primary: true },
    kind: { type: 'text' },
    revision: { type: 'int' },
    aside: { type: 'boolean' },
    deleted: { type: 'timestamptz', nullable: true },
    body: { type: 'jsonb' },
    tape: { type: 'uuid', nullable: true },
    frames: { type: 'bigint', nullable: true, transformer: whole },
    created: { type: 'timestamptz', default: () => 'now()' },
    changed: { type: 'timestamptz', default: () => 'now()' },
  },
})

export interface EditListRow {
  piece: string
  /** The piece's revision when the list was last written; what came since is in the log. */
  revision: number
  spans: Span[]
}

export const EditListEntity = new EntitySchema<EditListRow>({
  name: 'edit_list',
  columns: {
    piece: { type: 'uuid', primary: true },
    revision: { type: 'int' },
    spans: { type: 'jsonb' },
  },
})

/** An offcut or a version of a piece. */
export interface KeptRow {
  piece: string
  id: string
  record: Kept
}

export const KeptEntity = new EntitySchema<KeptRow>({
  name: 'kept',
  columns: {
    piece: { type: 'uuid', primary: true },
    id: { type: 'uuid', primary: true },
    record: { type: 'jsonb' },
  },
})

export interface EntryRow {
  id: string
  document: string
  revision: number
  author: string
  label: string
  steps: AnyStep[]
  inverse: AnyStep[]
  undoes: string | null
  quiet: boolean
  /** What acts share that are undone together. */
  together: string | null
  at: Date
}

export const EntryEntity = new EntitySchema<EntryRow>({
  name: 'entry',
  columns: {
    id: { type: 'uuid', primary: true },
    document: { type: 'uuid' },
    revision: { type: 'int' },
    author: { type: 'uuid' },
    label: { type: 'text' },
    steps: { type: 'jsonb' },
    inverse: { type: 'jsonb' },
    undoes: { type: 'uuid', nullable: true },
    quiet: { type: 'boolean' },
    together: { type: 'text', nullable: true },
    at: { type: 'timestamptz', default: () => 'now()' },
  },
})

/** What is known of a tape's sound; its name and sides are in its document. */
export type TapeRow = Omit<
  TapeInfo,
  'name' | 'speaker' | 'role' | 'sides' | 'off' | 'language' | 'aside' | 'day' | 'tags' | 'hasWords' | 'transcript' | 'added'
> & {
  added: Date
  figures: TapeFigures | null
  /** All that it takes up in the store, in bytes. */
  disk: number
  /** When somebody last said to be seeing it through its arrival. */
  tended: Date | null
  /** When whoever uploads it was last heard of; null where it came in another way. */
  sender: Date | null
  /** The line of copy that it was recorded for. */
  line: LineOfCopy | null
}

/** A line of copy that a take is for, who recorded it, and the ids of the piece that it becomes and of the act that puts it there. */
export interface LineOfCopy {
  story: string
  block: string
  author: string
  piece: string
  act: string
}

export const TapeEntity = new EntitySchema<TapeRow>({
  name: 'tape',
  columns: {
    id: { type: 'uuid', primary: true },
    state: { type: 'text' },
    progress: { type: 'real' },
    error: { type: 'text' },
    channels: { type: 'int' },
    frames: { type: 'bigint', transformer: whole },
    fileName: { type: 'text', name: 'file_name' },
    bytes: { type: 'bigint', transformer: whole },
    sha256: { type: 'text' },
    format: { type: 'text' },
    tone: { type: 'jsonb' },
    size: { type: 'bigint', transformer: whole },
    complete: { type: 'boolean' },
    tended: { type: 'timestamptz', nullable: true },
    sender: { type: 'timestamptz', nullable: true },
    line: { type: 'jsonb', nullable: true },
    findings: { type: 'jsonb' },
    origin: { type: 'jsonb' },
    twin: { type: 'uuid', nullable: true },
    disk: { type: 'bigint', transformer: whole },
    figures: { type: 'jsonb', nullable: true, select: false },
    added: { type: 'timestamptz', default: () => 'now()' },
  },
})

export interface SendRow {
  script: ScriptFile | null
  id: string
  request: SendOrder
  state: Receipt['state']
  progress: number
  fileName: string
  frames: number
  bytes: number
  sha256: string
  loudness: number | null
  truePeak: number | null
  error: string
  look: Asked[]
  /** Null where it was sent before that was kept. */
  madeOf: MadeOf | null
  /** When somebody last said to be writing it. */
  beat: Date | null
  at: Date
}

export const SendEntity = new EntitySchema<SendRow>({
  name: 'send',
  columns: {
    id: { type: 'uuid', primary: true },
    request: { type: 'jsonb' },
    state: { type: 'text' },
    progress: { type: 'real' },
    fileName: { type: 'text', name: 'file_name' },
    frames: { type: 'bigint', transformer: whole },
    bytes: { type: 'bigint', transformer: whole },
    sha256: { type: 'text' },
    loudness: { type: 'real', nullable: true },
    truePeak: { type: 'real', nullable: true, name: 'true_peak' },
    error: { type: 'text' },
    beat: { type: 'timestamptz', nullable: true },
    at: { type: 'timestamptz', default: () => 'now()' },
    look: { type: 'jsonb' },
    madeOf: { type: 'jsonb', nullable: true, name: 'made_of' },
    script: { type: 'jsonb', nullable: true },
  },
})

export type LineUpRow = LineUpInfo & { at: Date }

export const LineUpEntity = new EntitySchema<LineUpRow>({
  name: 'line_up',
  columns: {
    id: { type: 'uuid', primary: true },
    tapes: { type: 'jsonb' },
    state: { type: 'text' },
    progress: { type: 'real' },
    error: { type: 'text' },
    fits: { type: 'jsonb' },
    joining: { type: 'jsonb', nullable: true },
    tape: { type: 'uuid', nullable: true },
    at: { type: 'timestamptz', default: () => 'now()' },
  },
})

export type CallRow = CallInfo

export const CallEntity = new EntitySchema<CallRow>({
  name: 'phone_call',
  columns: {
    id: { type: 'uuid', primary: true },
    caller: { type: 'text' },
    state: { type: 'text' },
    tape: { type: 'uuid', nullable: true },
    at: { type: 'timestamptz', default: () => 'now()' },
  },
})

export interface CardFileRow {
  /** The tape that it becomes. */
  id: string
  card: string
  path: string
  size: number
  /** As the card has it, in milliseconds. */
  modified: number
  /** All of it was copied. */
  copied: boolean
}

export const CardFileEntity = new EntitySchema<CardFileRow>({
  name: 'card_file',
  columns: {
    id: { type: 'uuid', primary: true },
    card: { type: 'text' },
    path: { type: 'text' },
    size: { type: 'bigint', transformer: whole },
    modified: { type: 'bigint', transformer: whole },
    copied: { type: 'boolean' },
  },
})

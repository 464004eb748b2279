import { EntitySchema } from 'typeorm'
import type { AnyStep, Body, Kind } from '../contract/documents'
import type { SendOrder, Receipt } from '../contract/sends'
import type { TapeInfo, Words } from '../contract/tapes'

/** The rows that the database keeps. Sound itself lies in the media store. */

const whole = { to: (value: number) => value, from: (value: string | null) => (value === null ? null : Number(value)) }

export interface DocumentRow {
  id: string
  kind: Kind
  revision: number
  aside: boolean
  body: Body
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
    body: { type: 'jsonb' },
    created: { type: 'timestamptz', default: () => 'now()' },
    changed: { type: 'timestamptz', default: () => 'now()' },
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
    at: { type: 'timestamptz', default: () => 'now()' },
  },
})

/** What is known of a tape's sound; its name and sides are in its document. */
export type TapeRow = Omit<TapeInfo, 'name' | 'speaker' | 'role' | 'sides' | 'aside' | 'hasWords' | 'added'> & { words: Words | null; added: Date }

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
    words: { type: 'jsonb', nullable: true, select: false },
    added: { type: 'timestamptz', default: () => 'now()' },
  },
})

export interface SendRow {
  id: string
  request: SendOrder
  state: Receipt['state']
  progress: number
  fileName: string
  frames: number
  bytes: number
  sha256: string
  error: string
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
    error: { type: 'text' },
    at: { type: 'timestamptz', default: () => 'now()' },
  },
})

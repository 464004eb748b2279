import * as yup from 'yup'
import type { AnyStep, BodyOf } from './documents'
import { entrySchema } from './documents'
import { frames, id, revision } from './ids'
import { name, type FieldsOf } from './shapes'
import type { Actuality } from '../core/edits/actuality'

/** A whole story in one file: a zip with a manifest, of which everything else in it is a part. */

export const MANIFEST = 'manifest.json'
export const README = 'README.txt'
/** Of what it is, so that it is told from another zip; and of its layout: what is newer than a program knows it does not read. */
export const FORMAT = 'plain-cut-story'
export const VERSION = 1

/** A file in it. */
export interface PackedFile {
  path: string
  bytes: number
  sha256: string
}

/** A document with all that was ever done to it. */
export interface PackedDocument<Body> {
  id: string
  revision: number
  aside: boolean
  created: string
  body: Body
  log: PackedEntry[]
}

export interface PackedEntry {
  revision: number
  id: string
  author: string
  label: string
  steps: AnyStep[]
  inverse: AnyStep[]
  undoes?: string
  quiet?: boolean
  together?: string
  at: string
}

export interface PackedTape {
  document: PackedDocument<BodyOf<'tape'>>
  transcript: PackedDocument<BodyOf<'transcript'>>
  /** What is known of its sound. */
  known: {
    channels: number
    frames: number
    fileName: string
    bytes: number
    sha256: string
    format: string
    tone: object
    findings: object[]
    origin: object
    figures: object | null
    added: string
  }
  renditions: { id: string; did: object | null }[]
  /** The name of the file as it came, within the zip. */
  original: string
}

export interface Packed {
  story: PackedDocument<BodyOf<'story'>>
  pieces: PackedDocument<Actuality>[]
  tapes: PackedTape[]
}

export interface Manifest {
  format: typeof FORMAT
  version: number
  made: string
  story: string
  slug: string
  files: PackedFile[]
}

/** Names in a story file are of letters, digits and a few signs; nothing that leads out of it. */
const PATH = /^[A-Za-z0-9][A-Za-z0-9._ -]*(\/[A-Za-z0-9][A-Za-z0-9._ -]*)*$/
const hash = () => yup.string().matches(/^[0-9a-f]{64}$/, 'that is no hash')

export const manifestSchema = yup.object({
  format: yup.string().oneOf([FORMAT]).required(),
  version: yup.number().integer().min(1).required(),
  made: yup.string().max(40).required(),
  story: id().required(),
  slug: name().defined(),
  files: yup
    .array(
      yup
        .object({
          path: yup.string().max(300).matches(PATH, 'that is no path within it').required(),
          bytes: yup.number().integer().min(0).required(),
          sha256: hash().required(),
        } satisfies FieldsOf<PackedFile>)
        .required(),
    )
    .max(20_000)
    .required(),
})

const packedDocument = () =>
  yup.object({
    id: id().required(),
    revision: revision().required(),
    aside: yup.boolean().required(),
    created: yup.string().max(40).required(),
    body: yup.object().required(),
    log: yup
      .array(
        entrySchema
          .concat(yup.object({ revision: revision().required(), inverse: yup.array().required(), at: yup.string().max(40).required() }))
          .required(),
      )
      .required(),
  })

/** The documents of a story file, as far as they are not checked by the schemas of their kinds. */
export const packedSchema = yup.object({
  story: packedDocument().required(),
  pieces: yup.array(packedDocument().required()).max(5000).required(),
  tapes: yup
    .array(
      yup
        .object({
          document: packedDocument().required(),
          transcript: packedDocument().required(),
          known: yup
            .object({
              channels: yup.number().integer().min(1).max(8).required(),
              frames: frames().required(),
              fileName: yup.string().max(255).required(),
              bytes: yup.number().integer().min(0).required(),
              sha256: hash().required(),
              format: yup.string().max(200).defined(),
              tone: yup.object().required(),
              findings: yup.array(yup.object().required()).required(),
              origin: yup.object().required(),
              figures: yup.object().nullable().defined(),
              added: yup.string().max(40).required(),
            } satisfies FieldsOf<PackedTape['known']>)
            .required(),
          renditions: yup.array(yup.object({ id: id().required(), did: yup.object().nullable().defined() }).required()).required(),
          original: yup.string().max(300).required(),
        })
        .required(),
    )
    .max(500)
    .required(),
})

/** A story on its way out into a file, or back from one. */
export interface KeepingInfo {
  id: string
  kind: 'out' | 'back'
  state: 'waiting' | 'working' | 'done' | 'failed' | 'cancelled'
  progress: number
  error: string
  /** The story's slug, or the name of the file that came. */
  name: string
  /** Null until a story is back. */
  story: string | null
  bytes: number
  at: string
}

/** Words that are looked for in a folder of story files, as it is called on the server's machine. */
export const searchQuery = yup.object({
  folder: yup.string().trim().matches(/^\//, 'a folder begins with /').max(1000).required(),
  words: yup.string().trim().min(2, 'two letters at least').max(200).required(),
})

export const fromFolderOrder = yup
  .object({
    path: yup
      .string()
      .matches(/^\/.*\.zip$/, 'that is no story file')
      .max(1200)
      .required(),
  })
  .noUnknown()

export interface StoryFileHit {
  path: string
  slug: string
  made: string
  /** Where it is said; empty where only the story is called so. */
  tape: string
  text: string
}

export interface StoryFileSearch {
  files: number
  /** Zip files that are no story files, or are damaged. */
  unread: number
  hits: StoryFileHit[]
}

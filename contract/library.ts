import * as yup from 'yup'
import type { TapeHead } from '../core/tape/tape'
import { frames, id } from './ids'

/** A tape as the library lists it. */
export interface LibraryRow extends Pick<TapeHead, 'name' | 'speaker' | 'role' | 'day' | 'tags' | 'stories' | 'sides'> {
  id: string
  state: 'arriving' | 'ready'
  progress: number
  fileName: string
  frames: number
  added: string
  aside: boolean
  /** When it was deleted; it can be taken back for 30 days from then. */
  deleted: string | null
  hasWords: boolean
  /** Somebody has listened to it here. */
  heard: boolean
  marks: number
  /** Pieces that hold some of it, and the stories they belong to. */
  uses: number
  usedIn: string[]
  findings: number
  /** All that it takes up on disk, in bytes. */
  disk: number
}

export const STATES = ['new', 'heard', 'logged', 'used'] as const
/** How far a tape has come: not listened to, listened to, logged, used. */
export type TapeState = (typeof STATES)[number]

/** What a list of tapes is narrowed down by. Empty means anything. */
export const filterSchema = yup
  .object({
    /** In its name, its speakers, its tags, its file's name, or said on it. */
    text: yup.string().max(200).defined(),
    state: yup
      .string()
      .oneOf([...STATES, ''])
      .defined(),
    tag: yup.string().max(60).defined(),
    speaker: yup.string().max(200).defined(),
    story: id().defined().nullable(),
    /** Days, as 2026-11-25, both counted in. */
    from: yup
      .string()
      .matches(/^(\d{4}-\d\d-\d\d)?$/)
      .defined(),
    to: yup
      .string()
      .matches(/^(\d{4}-\d\d-\d\d)?$/)
      .defined(),
    shortest: frames().defined().nullable(),
    longest: frames().defined().nullable(),
  })
  .noUnknown()

export type Filter = yup.InferType<typeof filterSchema>

/** Columns that a list of tapes can be put in order by. */
export const ORDERS = ['name', 'who', 'length', 'state', 'tags', 'day', 'added', 'stories', 'words', 'disk'] as const
export type TapeOrder = (typeof ORDERS)[number]

/** A page of the library: the tapes that a filter leaves, in order, so many from that place on. */
export const pageSchema = yup
  .object({
    filter: filterSchema.required(),
    order: yup.string().oneOf(ORDERS).required(),
    descending: yup.boolean().required(),
    from: yup.number().integer().min(0).max(1e7).required(),
    count: yup.number().integer().min(1).max(200).required(),
  })
  .noUnknown()

export type PageOrder = yup.InferType<typeof pageSchema>

export interface LibraryPage {
  rows: LibraryRow[]
  /** How many the filter leaves. */
  total: number
  /** Where what is looked for was said, for those rows of the page on which it was. */
  said: Said[]
}

/** What the library holds: how much of it there is, what occurs in it to choose from, and what is out of the lists. */
export interface LibraryFacts {
  tapes: number
  /** On disk, in bytes. */
  disk: number
  speakers: string[]
  tags: string[]
  stories: string[]
  archived: { id: string; name: string }[]
  deleted: { id: string; name: string }[]
}

export const searchSchema = yup
  .object({ name: yup.string().trim().min(1).max(100).required(), filter: filterSchema.required() })
  .noUnknown()

/** A search that was kept. */
export interface KeptSearch {
  id: string
  name: string
  filter: Filter
}

/** Where something was said on a tape. */
export interface Said {
  id: string
  at: number
  /** The words around it. */
  text: string
}

import { recordsType, type Bag, type RecordStep } from '../steps/records'
import type { LevelPoint } from '../sound/level'
import type { Frames, Stretch } from '../time'
import { united } from '../stretches'
import type { Suggestion } from './suggestion'
import type { Repair } from '../mend/repair'
import type { Treatment } from '../mend/treatment'

/** Colours that a mark can have; what they mean is everybody’s own. */
export const MARK_COLOURS = ['tape', 'voice', 'cut', 'ink'] as const
export type MarkColour = (typeof MARK_COLOURS)[number]

/** One or more channels that belong to one speaker or one microphone. */
export interface Side {
  name: string
  /** One channel, heard in the middle, or a left and a right one. */
  channels: [number] | [number, number]
  /** How much louder it is heard, in dB; nothing is 0. */
  level?: number
  /** Its wave is turned over: it was recorded upside down. */
  flip?: boolean
  /** How much later it is heard than it was recorded, against the other sides. */
  slip?: Frames
  /** Stretches of the tape in which it gives way to its room tone. */
  hush?: Stretch[]
  /** The rendition that is heard in place of what was recorded. */
  rendition?: string
  /** Spots that are repaired, by frames of the tape. A tape keeps them as suggestions that were applied (`inForce.ts`). */
  repairs?: Repair[]
}

/** What a tape is, beyond its sound: name, sides, strikes and marks. It changes by steps. */
export interface TapeDocument {
  kind: 'tape'
  records: Bag<TapeRecord>
}

/** What is spoken on a tape of which nobody said so, as a language tag. */
export const SPOKEN = 'en'

/** What a treatment made of a side's sound, frame for frame beside it. */
export interface Rendition {
  id: string
  kind: 'rendition'
  /** Of the side that it was made of. */
  channels: Side['channels']
  name: string
  treatment: Treatment
  /** The piece that it was made for, where it is for that alone: nothing else is heard from it. */
  piece?: string
}

export type TapeRecord =
  | {
      id: 'tape'
      kind: 'tape'
      name: string
      speaker: string
      role: string
      day: string
      tags: string[]
      stories: string[]
      sides: Side[]
      language?: string
    }
  /** Crossed out: the sound stays, and it comes out of what is pulled over it. */
  | { id: string; kind: 'strike'; from: Frames; to: Frames }
  /** Said off the record: it can be heard here, and gets out by no way. */
  | { id: string; kind: 'off'; from: Frames; to: Frames }
  /** A level line that was applied to all of the tape: what is pulled from now on takes it along. */
  | { id: string; kind: 'level'; points: LevelPoint[] }
  | { id: string; kind: 'mark'; at: Frames; text: string; colour?: MarkColour; star?: boolean }
  | Rendition
  | Suggestion

export type TapeStep = RecordStep<TapeRecord>
export type TapeHead = Extract<TapeRecord, { kind: 'tape' }>
export type Strike = Extract<TapeRecord, { kind: 'strike' }>
export type OffRecord = Extract<TapeRecord, { kind: 'off' }>
export type TapeLevel = Extract<TapeRecord, { kind: 'level' }>
export type Mark = Extract<TapeRecord, { kind: 'mark' }>

/** A tape belongs to the renditions that its sides are heard from: none of them goes while it is heard. */
const pointsTo = (properties: object): string[] =>
  ((properties as Partial<Pick<TapeHead, 'sides'>>).sides ?? []).flatMap(({ rendition }) => rendition ?? [])

export const tapeType = recordsType<TapeRecord, TapeDocument>(pointsTo)

export const tapeHead = (document: TapeDocument): TapeHead => document.records.tape as TapeHead

/** The level line of a tape; a flat one has no points. */
export const tapeLevel = (document: TapeDocument): TapeLevel | null =>
  Object.values(document.records).find((record) => record.kind === 'level') ?? null

export const strikesOf = (document: TapeDocument): Strike[] =>
  Object.values(document.records)
    .filter((record) => record.kind === 'strike')
    .sort((a, b) => a.from - b.from)

/** What of a tape was said off the record, in order, none over another. */
export const offRecord = (document: TapeDocument): Stretch[] =>
  united(
    Object.values(document.records)
      .filter((record) => record.kind === 'off')
      .map(({ from, to }) => ({ from, to })),
  )

/** The renditions of a tape's sides, in the order in which they were made. */
export const renditionsOf = (document: TapeDocument): Rendition[] =>
  Object.values(document.records).filter((record) => record.kind === 'rendition')

export const marksOf = (document: TapeDocument): Mark[] =>
  Object.values(document.records)
    .filter((record) => record.kind === 'mark')
    .sort((a, b) => a.at - b.at)

import * as yup from 'yup'
import { id } from './ids'
import type { DeliveryInfo, DeliveryState } from './deliveries'
import { sendSchema, type Receipt, type ScriptFile } from './sends'
import type { FieldsOf } from './shapes'
import type { MadeOf } from '../core/send/changedSince'

/** How a way to a destination ended: what is still under way belongs to the machine that sends it. */
export const ENDED = ['arrived', 'failed', 'stopped'] as const satisfies readonly DeliveryState[]

/** Where a file went, as its receipt says: its destination need not be known where the story comes back. */
export interface PackedDelivery extends Pick<
  DeliveryInfo,
  'destination' | 'to' | 'fileName' | 'isScript' | 'tries' | 'error' | 'proof' | 'arrived'
> {
  state: (typeof ENDED)[number]
}

/** Receipts as a story file holds them, each with its file, and the script that went with it, beside it. */
export interface PackedReceipt extends Pick<
  Receipt,
  'id' | 'order' | 'at' | 'fileName' | 'frames' | 'bytes' | 'sha256' | 'loudness' | 'truePeak'
> {
  look: object[]
  madeOf: MadeOf | null
  /** Absent in story files that were made before these were kept in them. */
  script?: ScriptFile | null
  deliveries?: PackedDelivery[]
}

const hash = () => yup.string().matches(/^[0-9a-f]{64}$/, 'that is no hash')

const deliverySchema = yup.object({
  destination: id().required(),
  to: yup.string().max(200).required(),
  fileName: yup.string().max(255).required(),
  isScript: yup.boolean().required(),
  state: yup.string().oneOf(ENDED).required(),
  tries: yup.number().integer().min(0).required(),
  error: yup.string().max(1000).defined(),
  proof: yup
    .string()
    .oneOf(['hash', 'size', 'answer', 'person'] as const)
    .nullable()
    .defined(),
  arrived: yup.string().max(40).nullable().defined(),
} satisfies FieldsOf<PackedDelivery>)

const scriptSchema = yup.object({
  fileName: yup.string().max(200).required(),
  bytes: yup.number().integer().min(0).required(),
  sha256: hash().required(),
} satisfies FieldsOf<ScriptFile>)

export const receiptSchema = yup
  .array(
    yup
      .object({
        id: id().required(),
        order: sendSchema.required(),
        at: yup.string().max(40).required(),
        fileName: yup.string().max(200).required(),
        frames: yup.number().integer().min(0).required(),
        bytes: yup.number().integer().min(0).required(),
        sha256: hash().required(),
        loudness: yup.number().nullable().defined(),
        truePeak: yup.number().nullable().defined(),
        look: yup.array(yup.object({ text: yup.string().required() }).required()).required(),
        madeOf: yup.object().nullable().defined(),
        script: scriptSchema.nullable().optional().default(undefined),
        deliveries: yup.array(deliverySchema.required()).max(200).optional(),
      } satisfies FieldsOf<PackedReceipt>)
      .required(),
  )
  .max(2000)
  .required()

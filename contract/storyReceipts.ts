import * as yup from 'yup'
import { id } from './ids'
import { sendSchema, type Receipt } from './sends'
import type { FieldsOf } from './shapes'
import type { MadeOf } from '../core/send/changedSince'

/** Receipts as a story file holds them, each with its file beside it. */
export interface PackedReceipt extends Pick<
  Receipt,
  'id' | 'order' | 'at' | 'fileName' | 'frames' | 'bytes' | 'sha256' | 'loudness' | 'truePeak'
> {
  look: object[]
  madeOf: MadeOf | null
}

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
        sha256: yup
          .string()
          .matches(/^[0-9a-f]{64}$/, 'that is no hash')
          .required(),
        loudness: yup.number().nullable().defined(),
        truePeak: yup.number().nullable().defined(),
        look: yup.array(yup.object({ text: yup.string().required() }).required()).required(),
        madeOf: yup.object().nullable().defined(),
      } satisfies FieldsOf<PackedReceipt>)
      .required(),
  )
  .max(2000)
  .required()

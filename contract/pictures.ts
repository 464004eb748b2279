import * as yup from 'yup'
import { SHAPES, type Shape } from '../core/picture/shapes'
import { id } from './ids'
import type { FieldsOf } from './shapes'

/** A picture with sound, for online. */
export interface PictureOrder {
  shape: Shape
  /** The words as captions in the picture. */
  captions: boolean
  /** A still image that was brought in; the title stands large where there is none. */
  still?: string
}

export const pictureSchema = yup
  .object({
    shape: yup.string().oneOf(SHAPES).required(),
    captions: yup.boolean().required(),
    still: id().optional(),
  } satisfies FieldsOf<PictureOrder>)
  .noUnknown()

export const MOST_STILL_BYTES = 25_000_000

import * as yup from 'yup'
import type { AudioFormat } from './fileFormats'
import { id } from './ids'
import { fitsFormat, formFields, type SendOrder } from './sends'
import type { FieldsOf } from './shapes'

/** In which form a programme wants its files: set once, and chosen by the output. */
export interface HouseFormat extends Pick<SendOrder, 'rate' | 'bits' | 'channels' | 'kbps' | 'pattern'> {
  /** Sound: a picture is made for once. */
  format: AudioFormat
  /** What a whole story is to be as loud as, in LUFS. */
  loudness: number
  /** The destinations that files go to. */
  to: string[]
  /** Whether the script goes with them. */
  script?: boolean
}

export interface Programme {
  name: string
  format: HouseFormat
}

export const houseFormatSchema = yup
  .object({
    ...formFields,
    pattern: yup.string().trim().min(1).max(200).required(),
    loudness: yup.number().min(-40).max(-9).required(),
    to: yup.array(id().required()).max(20).required(),
    script: yup.boolean().optional(),
  } satisfies FieldsOf<HouseFormat>)
  .noUnknown()
  .test('rate', 'that format has no such rate', (value) => fitsFormat(value))

export const programmeName = () => yup.string().trim().min(1).max(200)

/** Two names are one programme's where they differ in capitals or spaces alone. */
export const sameProgramme = (a: string, b: string): boolean => plainName(a) === plainName(b)
const plainName = (name: string): string => name.trim().replace(/\s+/g, ' ').toLocaleLowerCase('en')

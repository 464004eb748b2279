import * as yup from 'yup'

/** A file on a recorder's card. */
export interface CardFile {
  /** Within the card, with slashes. */
  path: string
  bytes: number
  /** When it was written, as the card says. */
  modified: string
  /** The tape that it is, or is becoming. */
  tape: string | null
  /** Files that follow one another as one recording that the recorder split: the same number. */
  run: number | null
}

export interface Card {
  name: string
  files: CardFile[]
}

export const takeSchema = yup
  .object({
    card: yup.string().min(1).max(255).required(),
    paths: yup.array(yup.string().min(1).max(1000).required()).min(1).max(2000).required(),
  })
  .noUnknown()

import * as yup from 'yup'
import { id } from './ids'

/** How the words of a tape come about, while they are being recognised. */
export interface Recognition {
  tape: string
  state: 'waiting' | 'working' | 'done' | 'failed'
  /** 0 to 1, of the speech on the tape. */
  progress: number
  /** Seconds that it will probably take; null where nobody can say yet. */
  left: number | null
  /** Who recognises it, as it is told to people. */
  recogniser: string
  error: string
}

/** Who asks for voices to be told apart: it is their act, to be undone. */
export const voicesOrder = yup.object({ author: id().required() }).noUnknown()

export const recogniseOrder = yup.object({ tape: id().required() }).noUnknown()

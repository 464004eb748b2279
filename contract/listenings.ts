import * as yup from 'yup'
import { id } from './ids'

/** How far listening to a tape has come, for finders that go by its sound. */
export interface Listening {
  tape: string
  state: 'waiting' | 'working' | 'done' | 'failed'
  /** 0 to 1. */
  progress: number
  error: string
}

export const listenOrder = yup.object({ tape: id().required() }).noUnknown()

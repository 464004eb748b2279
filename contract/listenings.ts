import * as yup from 'yup'
import { RATE, type Frames } from '../core/time'
import { id } from './ids'

/** How far listening to a tape has come, for finders that go by its sound. */
export interface Listening {
  tape: string
  state: 'waiting' | 'working' | 'done' | 'failed'
  /** 0 to 1. */
  progress: number
  error: string
  /** So much of the tape: one that is still arriving is listened to as far as it has come. */
  frames: Frames
}

/** Less of a tape that is still arriving is not listened to, in frames. */
export const LEAST_HEARD: Frames = 10 * RATE
/** It is listened to anew each time that there is so many times more of it. */
export const MORE_HEARD = 1.5

export const listenOrder = yup.object({ tape: id().required() }).noUnknown()

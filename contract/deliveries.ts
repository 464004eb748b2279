import * as yup from 'yup'
import { id } from './ids'

/** The way of one file to one destination. */

/**
 * `waiting`: for its file, or for the next try. `perhaps`: it may have arrived, and nobody but a person can find out.
 * `exists`: there is another file of that name, and a person must say what becomes of it.
 */
export type DeliveryState = 'waiting' | 'sending' | 'arrived' | 'failed' | 'perhaps' | 'exists' | 'stopped'

/** How it is known that what arrived is what was sent: its bytes were read back, its size was, or the other side only said yes. */
export type Proof = 'hash' | 'size' | 'answer' | 'person'

export interface DeliveryInfo {
  id: string
  send: string
  destination: string
  /** As the destination was called when it was sent. */
  to: string
  fileName: string
  /** It is the script that goes beside the file. */
  isScript: boolean
  state: DeliveryState
  /** 0 to 1. */
  progress: number
  tries: number
  /** When it is tried next; null while it is not waiting for that. */
  nextTry: string | null
  /** Until when it is tried: the air time, where it is still to come. */
  until: string | null
  /** What went wrong last, in plain words. */
  error: string
  proof: Proof | null
  arrived: string | null
}

/** What a person can say of one that stands still. */
export const SAYINGS = ['again', 'replace', 'beside', 'arrived', 'stop'] as const
export type Saying = (typeof SAYINGS)[number]

export const sayingSchema = yup
  .object({
    say: yup.string().oneOf(SAYINGS).required(),
  })
  .noUnknown()

export const deliveryOrder = yup.object({ destination: id().required() }).noUnknown()

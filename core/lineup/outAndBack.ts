import { inSeconds, milliseconds, RATE, type Frames } from '../time'
import { exactly } from './exactly'
import { NARROW, type Source } from './source'

/**
 * Whether a side that was treated in another program lies where the side lies that went out, frame by frame: told by their length and
 * by their sound. A program that is a little late throughout is common: that is made good. Anything else is refused, with its reason.
 */
export type CameBack =
  /** So many of its frames are left out at its beginning; below 0: so many are missing there. */
  { fits: true; late: Frames } | { fits: false; reason: string }

/** Frames that may be missing or added at its end, and that it may be late by. */
const MOST_LATE: Frames = RATE / 4
/** At its end it may lie so far off by its clock. */
const MOST_OFF: Frames = milliseconds(2)
/** Filters put a sound off by less than this, which is not lateness. */
const LEAST_LATE: Frames = milliseconds(1)
/** So many of the places compared must agree: by chance it is one in ten. */
const LEAST_SHARE = 0.4

export function cameBack(went: Source, came: Source): CameBack {
  const no = (reason: string): CameBack => ({ fits: false, reason })
  const more = came.frames - went.frames
  if (Math.abs(more) > MOST_LATE)
    return no(`It is ${inSeconds(Math.abs(more))} s ${more > 0 ? 'longer' : 'shorter'} than the side that went out.`)
  const found = exactly(went, came, { offset: 0, drift: 0 }, (2 * MOST_LATE) / RATE)
  if (!found) {
    // too short, or too silent, to be compared
    return more === 0 ? { fits: true, late: 0 } : no('It is too short to tell where it belongs, and not as long as the side that went out.')
  }
  if (found.agree < LEAST_SHARE * found.compared)
    return no(`It does not sound like the side that went out: only ${found.agree} of ${found.compared} places agree.`)
  const off = Math.abs(found.drift) * went.frames
  if (off > MOST_OFF) return no(`It runs at another speed: by its end it is ${Math.round((1000 * off) / RATE)} ms off.`)
  const late = Math.round(-found.offset * NARROW)
  if (Math.abs(late) > MOST_LATE) return no(`It begins ${inSeconds(Math.abs(late))} s too ${late > 0 ? 'late' : 'early'}.`)
  return { fits: true, late: Math.abs(late) < LEAST_LATE ? 0 : late }
}

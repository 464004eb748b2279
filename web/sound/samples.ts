import type { TapeFacts } from '../../core/sound/plan'
import { quietZero } from '../../core/sound/zero'
import { milliseconds, type Frames } from '../../core/time'
import { getBytes } from '../api/client'

const REACH = milliseconds(6)

/** Samples `[from, to)` of a tape, its sides heard together. */
export async function samples(tape: TapeFacts, from: Frames, to: Frames): Promise<Float32Array> {
  const channels = tape.sides.flatMap((side) => side.channels)
  const parts = await Promise.all(channels.map(async (channel) => new Float32Array(await getBytes(`/tapes/${tape.id}/sound/sound/${channel}?from=${from}&to=${to}`))))
  return parts.reduce((sum, part) => sum.map((sample, i) => sample + (part[i] ?? 0)))
}

/** The quiet zero crossing near a frame of a tape, within 6 ms; the frame itself where the sound cannot be had now. */
export async function nearZero(tape: TapeFacts, frame: Frames): Promise<Frames> {
  const from = Math.max(0, frame - REACH)
  const to = Math.min(tape.frames, frame + REACH)
  if (to - from < 8 || frame <= 0 || frame >= tape.frames) return frame
  try {
    return from + quietZero(await samples(tape, from, to), frame - from)
  } catch {
    return frame
  }
}

import { factor } from '../../core/sound/level'
import type { TapeFacts } from '../../core/render/plan'
import { heardRendition } from '../../core/tape/renditions'
import { quietZero } from '../../core/sound/zero'
import { milliseconds, type Frames } from '../../core/time'
import { getBytes } from '../api/client'

const REACH = milliseconds(6)

/** Samples `[from, to)` of a tape, its sides heard together as they are set. */
export async function samples(tape: TapeFacts, from: Frames, to: Frames): Promise<Float32Array> {
  const sum = new Float32Array(Math.max(0, to - from))
  const add = async (rendition: string, channel: number, slip: number, gain: number) => {
    const start = Math.max(0, from - slip)
    const part = new Float32Array(
      await getBytes(`/tapes/${tape.id}/sound/${rendition}/${channel}?from=${start}&to=${Math.max(start, to - slip)}`),
    )
    const at = start - (from - slip)
    for (let i = 0; i < part.length && at + i < sum.length; i++) sum[at + i] += part[i] * gain
  }
  await Promise.all(
    tape.sides.flatMap((side) => {
      const { channels, slip = 0, level = 0, flip } = side
      return channels.map((channel) => add(heardRendition(tape, side) ?? 'sound', channel, slip, factor(level) * (flip ? -1 : 1)))
    }),
  )
  return sum
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

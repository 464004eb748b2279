import { resampled } from '../../core/sound/resample'
import { recordingBytes, recordingHeader } from '../../core/sound/recording'
import { RATE, type Frames } from '../../core/time'

/**
 * A stand-in for a remote guest: what their own machine recorded of their side, started a little
 * earlier or later than the newsroom's, by a clock that runs fast or slow, as a WAV file.
 */
export function guestRecording(side: Float32Array, { later, ppm }: { later: Frames; ppm: number }): Buffer {
  const drift = ppm * 1e-6
  const read = (from: Frames, to: Frames) => Float32Array.from({ length: to - from }, (_, i) => side[from + i] ?? 0)
  const length = Math.max(0, Math.floor((side.length - later) / (1 + drift)))
  const blocks: Uint8Array[] = [recordingHeader(1, RATE, 'Guest', new Date())]
  for (let at = 0; at < length; at += RATE)
    blocks.push(recordingBytes([resampled(read, later + at * (1 + drift), 1 + drift, Math.min(RATE, length - at))]))
  return Buffer.concat(blocks)
}

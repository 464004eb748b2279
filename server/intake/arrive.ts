import { parentPort, workerData } from 'node:worker_threads'
import { closeSync, openSync, readFileSync, writeFileSync, writeSync } from 'node:fs'
import { mkdir } from 'node:fs/promises'
import { join } from 'node:path'
import { FloorSpectrum } from '../../core/sound/floor'
import { PeakBuilder } from '../../core/sound/peaks'
import { quietStretches } from '../../core/sound/quiet'
import { twoSpeakers } from '../../core/sound/sides'
import { RATE } from '../../core/time'
import { inputFlags, start } from '../outside/program'

/** All that arrival does to one file, in a thread of its own: to 48 kHz, a channel a file, with peaks and room tone. */
export interface ArrivalOrder {
  original: string
  /** An empty folder's name; it is made. */
  folder: string
  channels: number
  expected: number
}

export type ArrivalReport =
  | { progress: number }
  | { done: { frames: number; twoSpeakers: boolean; tone: { made: boolean; quiet: { from: number; to: number }[] } } }

const LIMIT_MS = 30 * 60_000
const MADE_TONE = 10 * RATE

async function arrive({ original, folder, channels, expected }: ArrivalOrder, report: (report: ArrivalReport) => void): Promise<void> {
  await mkdir(folder, { recursive: true })
  const files = Array.from({ length: channels }, (_, c) => openSync(join(folder, `sound-${c}.f32`), 'w'))
  const builders = files.map(() => new PeakBuilder())
  const child = start('ffmpeg', [...inputFlags, '-i', original, '-map', '0:a:0', '-ac', String(channels), '-ar', String(RATE), '-f', 'f32le', 'pipe:1'], LIMIT_MS)
  let said = ''
  child.stderr.on('data', (chunk) => (said = (said + chunk).slice(-500)))
  const ended = new Promise<number | null>((resolve) => child.on('close', resolve))

  const block = 4 * channels
  let rest: Buffer = Buffer.alloc(0)
  let frames = 0
  let reported = 0
  for await (const chunk of child.stdout as AsyncIterable<Buffer>) {
    const bytes = rest.length ? Buffer.concat([rest, chunk]) : chunk
    const count = Math.floor(bytes.length / block)
    const view = new DataView(bytes.buffer, bytes.byteOffset, count * block)
    for (let c = 0; c < channels; c++) {
      const samples = new Float32Array(count)
      for (let i = 0; i < count; i++) {
        const sample = view.getFloat32(i * block + c * 4, true)
        samples[i] = Number.isFinite(sample) ? sample : 0
      }
      builders[c].add(samples)
      writeSync(files[c], new Uint8Array(samples.buffer))
    }
    frames += count
    rest = bytes.subarray(count * block)
    const progress = expected ? Math.min(0.97, frames / expected) : 0
    if (progress - reported > 0.02) report({ progress: (reported = progress) })
  }
  const code = await ended
  files.forEach((file) => closeSync(file))
  if (frames === 0) throw new Error(said || `ffmpeg ended with ${code}`)

  const finest = builders.map((builder, c) => {
    const levels = builder.finish()
    levels.forEach((peaks, level) => writeFileSync(join(folder, `peaks-${c}-${level}.i16`), new Uint8Array(peaks.buffer, peaks.byteOffset, peaks.byteLength)))
    return levels[0]
  })
  const quiet = quietStretches(finest)
  if (!quiet.length) makeTone(folder, channels, frames)
  const tone = quiet.length ? { made: false, quiet } : { made: true, quiet: [{ from: 0, to: MADE_TONE }] }
  report({ done: { frames, twoSpeakers: channels === 2 && twoSpeakers(finest[0], finest[1]), tone } })
}

/** For a tape without a quiet moment: tone from the spectrum of its noise floor. */
function makeTone(folder: string, channels: number, frames: number): void {
  for (let c = 0; c < channels; c++) {
    const sound = readFileSync(join(folder, `sound-${c}.f32`))
    const samples = new Float32Array(sound.buffer, sound.byteOffset, frames)
    const floor = new FloorSpectrum()
    const hop = Math.max(2048, Math.floor(frames / 400))
    for (let at = 0; at + 2048 <= frames; at += hop) floor.look(samples.subarray(at, at + 2048))
    const made = floor.tone(MADE_TONE, c + 1)
    writeFileSync(join(folder, `tone-${c}.f32`), new Uint8Array(made.buffer))
  }
}

arrive(workerData as ArrivalOrder, (report) => parentPort!.postMessage(report)).catch((error: unknown) => {
  throw error
})

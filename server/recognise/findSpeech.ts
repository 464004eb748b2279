import { createRequire } from 'node:module'
import { parentPort } from 'node:worker_threads'
import { RATE, toFrames, type Stretch } from '../../core/time'
import { start } from '../outside/program'

/**
 * Where somebody speaks: Silero's model of voice activity (github.com/snakers4/silero-vad, version 5, out of the package
 * @ricky0123/vad-web), run by sherpa-onnx. Unlike a measure of level it knows music, doors and wind from a voice.
 */

export interface FindSpeechOrder {
  /** For each side, the files of its channels: 32-bit floats at 48 kHz. */
  sides: string[][]
}

export interface FindSpeechReport {
  /** For each side; null where this machine cannot run the model. */
  speech: Stretch[][] | null
}

interface Detector {
  acceptWaveform(samples: Float32Array): void
  isEmpty(): boolean
  front(external: boolean): { start: number; samples: Float32Array }
  pop(): void
  flush(): void
}
type DetectorOf = new (config: object, seconds: number) => Detector

const HZ = 16_000
const WINDOW = 512
/** Rather a door too many than a soft word too few. */
const THRESHOLD = 0.35
const LIMIT_MS = 60 * 60_000
/** It hears a voice begin a little late and end a little early. */
const ROUND = toFrames(0.15)

async function detector(): Promise<DetectorOf | null> {
  try {
    return ((await import('sherpa-onnx-node' as string)) as { default: { Vad: DetectorOf } }).default.Vad
  } catch {
    return null
  }
}

const modelFile = (): string => createRequire(import.meta.url).resolve('@ricky0123/vad-web/dist/silero_vad_v5.onnx')

/** Sound at 16 kHz, one channel, in blocks of the model's own size. */
async function* blocks(files: readonly string[]): AsyncGenerator<Float32Array> {
  const inputs = files.flatMap((file) => ['-f', 'f32le', '-ar', String(RATE), '-ac', '1', '-i', file])
  const mix = files.length > 1 ? ['-filter_complex', `amix=inputs=${files.length}`] : []
  const child = start(
    'ffmpeg',
    [
      '-nostdin',
      '-hide_banner',
      '-loglevel',
      'error',
      '-protocol_whitelist',
      'file,pipe',
      ...inputs,
      ...mix,
      '-ar',
      String(HZ),
      '-ac',
      '1',
      '-f',
      'f32le',
      'pipe:1',
    ],
    LIMIT_MS,
  )
  const ended = new Promise<number | null>((resolve, reject) => child.on('close', resolve).on('error', reject))
  let left = Buffer.alloc(0)
  for await (const chunk of child.stdout) {
    const bytes = Buffer.concat([left, chunk as Buffer])
    const whole = bytes.length - (bytes.length % (4 * WINDOW))
    for (let at = 0; at < whole; at += 4 * WINDOW)
      yield new Float32Array(bytes.buffer.slice(bytes.byteOffset + at, bytes.byteOffset + at + 4 * WINDOW))
    left = bytes.subarray(whole)
  }
  if ((await ended) !== 0) throw new Error('ffmpeg did not read the sound to its end')
}

async function speechIn(Vad: DetectorOf, files: readonly string[]): Promise<Stretch[]> {
  const config = {
    sileroVad: {
      model: modelFile(),
      threshold: THRESHOLD,
      minSilenceDuration: 0.2,
      minSpeechDuration: 0.2,
      maxSpeechDuration: 30,
      windowSize: WINDOW,
    },
    sampleRate: HZ,
    numThreads: 1,
  }
  const vad = new Vad(config, 60)
  const found: Stretch[] = []
  const take = () => {
    for (; !vad.isEmpty(); vad.pop()) {
      const { start: from, samples } = vad.front(false)
      const stretch = { from: Math.max(0, (from * RATE) / HZ - ROUND), to: ((from + samples.length) * RATE) / HZ + ROUND }
      const last = found[found.length - 1]
      if (last && stretch.from <= last.to) last.to = stretch.to
      else found.push(stretch)
    }
  }
  for await (const block of blocks(files)) {
    vad.acceptWaveform(block)
    take()
  }
  vad.flush()
  take()
  return found
}

/** What the thread does, told once. */
export async function run({ sides }: FindSpeechOrder): Promise<void> {
  const Vad = await detector()
  const speech: Stretch[][] = []
  if (Vad) for (const files of sides) speech.push(await speechIn(Vad, files))
  parentPort!.postMessage({ speech: Vad && speech } satisfies FindSpeechReport)
}

import { once } from 'node:events'
import { open, type FileHandle } from 'node:fs/promises'
import { MessageChannel, type MessagePort } from 'node:worker_threads'
import { pipeline } from 'node:stream/promises'
import { Ear } from '../../core/hearing/ear'
import type { LabelLoudness } from '../../core/sound/broadcastWave'
import { RATE, type Frames } from '../../core/time'
import { start } from '../outside/program'
import { runThread } from '../thread'
import { loudnessIn } from './figures'
import { floats } from './floats'

const AGAIN_MS = 15
const CHUNK = 1 << 16
const LIMIT_MS = 30 * 60_000

/**
 * How loud an MP3 file is, as whoever plays it hears it: what is coded is decoded again while the rest is still being made, so that
 * nothing is left to be heard at the end. `frames`: of its sound, at 48 kHz. `made` settles when the file is whole.
 */
export async function heardWhileMade(path: string, made: Promise<unknown>, frames: Frames, channels: number): Promise<LabelLoudness> {
  const coded = ['-hide_banner', '-loglevel', 'error', '-f', 'mp3', '-i', 'pipe:0']
  const plain = ['-f', 'f32le', '-ar', String(RATE), '-ac', String(channels), 'pipe:1']
  const decoder = start('ffmpeg', [...coded, ...plain], LIMIT_MS, true)
  let said = ''
  decoder.stderr.on('data', (chunk) => (said = (said + chunk).slice(-500)))
  const ended = once(decoder, 'close')
  const fed = pipeline(growing(path, made), decoder.stdin)
  // where it ends too soon, its own exit says why
  fed.catch(() => undefined)
  const ear = new Ear(channels, true)
  let heard = 0
  for await (const block of floats(decoder.stdout, channels)) {
    // how much of the last frame is no sound is not known before it is made
    const left = Math.max(0, frames - heard)
    if (left) ear.add(block.map((channel) => channel.subarray(0, left)))
    heard += block[0].length
  }
  const [code] = await ended
  if (code !== 0) throw new Error(said || `ffmpeg ended with ${code}`)
  await fed
  if (heard < frames) throw new Error(`${heard} frames came back where ${frames} were wanted`)
  return loudnessIn(ear)
}

/** The same, to be done in another thread than the one that writes: `made` is told of the end. */
export interface HearOrder {
  path: string
  frames: Frames
  channels: number
  made: MessagePort
}

export interface HearReport {
  heard: LabelLoudness
}

export async function hearForAnother({ path, frames, channels, made }: HearOrder, report: (report: HearReport) => void): Promise<void> {
  const whole = once(made, 'message').then(([error]: unknown[]) => {
    if (typeof error === 'string') throw new Error(error)
  })
  whole.catch(() => undefined)
  report({ heard: await heardWhileMade(path, whole, frames, channels) })
}

/** {@link heardWhileMade} in a thread of its own: whoever writes has its hands full. */
export async function heardBeside(path: string, made: Promise<unknown>, frames: Frames, channels: number): Promise<LabelLoudness> {
  const { port1: port, port2 } = new MessageChannel()
  made.then(
    () => port.postMessage(null),
    (error: Error) => port.postMessage(error.message),
  )
  let heard: LabelLoudness | undefined
  const hear: HearOrder = { path, frames, channels, made: port2 }
  await runThread<HearReport>('send', { hear }, (report) => void (heard = report.heard), Infinity, [port2])
  port.close()
  if (!heard) throw new Error('the thread ended without a word')
  return heard
}

/** What is written into a file, until whoever writes it is done. Throws what went wrong there. */
async function* growing(path: string, made: Promise<unknown>): AsyncGenerator<Buffer> {
  let whole = false
  const done = made.finally(() => (whole = true))
  done.catch(() => undefined)
  let file: FileHandle | null = null
  try {
    for (let at = 0; ;) {
      const last = whole
      file ??= await open(path, 'r').catch(() => null)
      const { bytesRead, buffer } = (await file?.read(Buffer.alloc(CHUNK), 0, CHUNK, at)) ?? { bytesRead: 0, buffer: Buffer.alloc(0) }
      if (bytesRead) yield buffer.subarray(0, bytesRead)
      else if (last) break
      else await Promise.race([done.catch(() => undefined), new Promise((later) => setTimeout(later, AGAIN_MS))])
      at += bytesRead
    }
    await done
  } finally {
    await file?.close()
  }
}

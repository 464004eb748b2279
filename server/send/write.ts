import { createHash } from 'node:crypto'
import { closeSync, createReadStream, mkdirSync, openSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { isLossless } from '../../contract/fileFormats'
import type { FileFigures, SendOrder } from '../../contract/sends'
import { Ear } from '../../core/hearing/ear'
import type { Plan } from '../../core/render/plan'
import { broadcastHeader, headerLength, type Label, type LabelLoudness, type WaveFormat } from '../../core/sound/broadcastWave'
import { packer } from '../../core/sound/wav'
import { interleaved } from '../../core/sound/interleaved'
import { RATE, type Frames } from '../../core/time'
import { run as runProgram } from '../outside/program'
import { blocks } from './blocks'
import { encoder } from './encoders'
import { figuresOf, loudnessIn, loudnessOfFile } from './figures'
import { floats } from './floats'
import { heardBeside } from './heardWhileMade'
import { declareLength } from './mp3Length'
import { makeFilm, type Film } from '../picture/film'
import { WaveTaker } from '../../core/picture/wave'

const LIMIT_MS = 30 * 60_000
/** Of the work on a picture with sound, the sound. */
const SOUND_SHARE = 0.15

/** A plan that is to be a file. */
export interface WriteOrder {
  plan: Plan
  media: string
  path: string
  order: Pick<SendOrder, 'format' | 'rate' | 'bits' | 'channels' | 'kbps'>
  label: Label
  /** What it shows, where it is a picture with sound. */
  film?: Film
}

/** `filming`: the process that makes a picture, which whoever stops this thread must end. */
export type WriteReport =
  | { progress: number }
  | { filming: number }
  | { done: { frames: number; sha256: string; bytes: number } & FileFigures }

/** A WAV file written in order; its header is filled in at the end, once it is known how loud it is. */
class WavFile {
  private readonly file: number
  private readonly pack
  private bytes = 0
  frames = 0

  constructor(path: string, length: number, format: WaveFormat) {
    this.pack = packer(format.bits)
    this.file = openSync(path, 'w')
    writeSync(this.file, new Uint8Array(headerLength(length, format)))
  }

  add(channels: readonly Float32Array[]): void {
    const bytes = this.pack(channels)
    writeSync(this.file, bytes)
    this.bytes += bytes.length
    this.frames += channels[0].length
  }
  close(): void {
    if (this.bytes % 2) writeSync(this.file, new Uint8Array(1))
    closeSync(this.file)
  }
}

/** How many frames a length at 48 kHz comes to at another rate. */
export const framesAt = (rate: number, frames: number): number => Math.round((frames * rate) / RATE)

/** Where lies what a file is made from on the way; whoever has it made removes it, however that ends. */
export const beside = (path: string): string => `${path}.beside`

/** Renders a plan into a file. */
export async function write({ plan, media, path, order, label, film }: WriteOrder, report: (report: WriteReport) => void): Promise<void> {
  const { channels, rate, bits, format } = order
  const frames = framesAt(rate, plan.length)
  const share = film ? SOUND_SHARE : 1
  const rendered = blocks(plan, media, channels, (progress) => report({ progress: share * progress }))
  const lossless = isLossless(format)
  // a FLAC file holds the very samples of a WAV file
  const made = format === 'flac' ? join(beside(path), 'sound.wav') : path
  if (film || format === 'flac') mkdirSync(beside(path))
  const writeHead = (loudness: LabelLoudness | null) => {
    if (lossless) writeInto(made, broadcastHeader(frames, { channels, rate, bits }, label, loudness))
  }
  let heard: LabelLoudness
  if (film) {
    const made = await soundBeside(rendered, plan.length, path)
    const told = (progress: number) => report({ progress: share + (1 - share) * progress })
    await makeFilm(film, { ...made, channels }, order, path, told, (filming) => report({ filming }))
    heard = await loudnessOfFile(path, channels)
  } else if (lossless && rate === RATE) {
    const wav = new WavFile(made, frames, { channels, rate, bits })
    const ear = new Ear(channels, false)
    for await (const block of rendered) {
      wav.add(block)
      ear.add(block)
    }
    wav.close()
    heard = loudnessIn(ear)
  } else if (format === 'mp3' && rate === RATE) {
    const coded = throughFfmpeg(rendered, frames, path, order, label.title)
    ;[heard] = await Promise.all([heardBeside(path, coded, frames, channels), coded])
    declareLength(path, frames)
  } else {
    await throughFfmpeg(rendered, frames, made, order, label.title)
    if (format === 'mp3') declareLength(path, frames)
    // another program listens to it: it must be whole
    writeHead(null)
    heard = await loudnessOfFile(made, channels)
  }
  writeHead(heard)
  if (format === 'flac') await toFlac(made, path, label.title)
  report({ done: { frames, ...figuresOf(heard), ...(await digest(path)) } })
}

/** Renders the sound to the side of a file; gives where it is, and its wave. */
async function soundBeside(
  rendered: AsyncIterable<Float32Array[]>,
  frames: Frames,
  path: string,
): Promise<{ path: string; frames: Frames; wave: readonly number[] }> {
  const sound = join(beside(path), 'sound.f32')
  const taker = new WaveTaker(frames)
  const file = openSync(sound, 'w')
  for await (const block of rendered) {
    writeSync(file, interleaved(block))
    taker.add(block)
  }
  closeSync(file)
  return { path: sound, frames, wave: taker.wave }
}

/** The same samples, packed without loss. */
async function toFlac(wav: string, path: string, title: string): Promise<void> {
  const asFlac = ['-c:a', 'flac', '-metadata', `title=${title}`, '-y', '-f', 'flac', path]
  await runProgram('ffmpeg', ['-nostdin', '-loglevel', 'error', '-i', wav, ...asFlac], LIMIT_MS)
}

/** Writes what stands before the sound into a file that has room for it. */
function writeInto(path: string, head: Uint8Array): void {
  const file = openSync(path, 'r+')
  writeSync(file, head, 0, head.length, 0)
  closeSync(file)
}

/** To another rate, or to a coded format. The resampler's own start and end are trimmed to the exact length. */
async function throughFfmpeg(
  rendered: AsyncIterable<Float32Array[]>,
  frames: number,
  path: string,
  order: WriteOrder['order'],
  title: string,
): Promise<void> {
  const { channels, rate, format } = order
  const input = [
    '-nostdin',
    '-hide_banner',
    '-loglevel',
    'error',
    '-f',
    'f32le',
    '-ar',
    String(RATE),
    '-ac',
    String(channels),
    '-i',
    'pipe:0',
  ]
  const exact = rate === RATE ? [] : ['-af', `aresample=${rate}:filter_size=64:cutoff=0.97,apad=pad_len=64,atrim=end_sample=${frames}`]
  const output = isLossless(format) ? ['-ar', String(rate), '-f', 'f32le', 'pipe:1'] : encoder(order, title, path)
  const child = spawn('ffmpeg', [...input, ...exact, ...output], { stdio: 'pipe', timeout: LIMIT_MS, killSignal: 'SIGKILL' })
  let said = ''
  child.stderr.on('data', (chunk) => (said = (said + chunk).slice(-500)))
  child.stdin.on('error', () => undefined) // its end is reported by its exit
  const ended = once(child, 'close')
  const collected = isLossless(format) ? collect(child.stdout, path, order, frames) : Promise.resolve()
  for await (const block of rendered) if (!child.stdin.write(interleaved(block))) await Promise.race([once(child.stdin, 'drain'), ended])
  child.stdin.end()
  const [code] = await ended
  if (code !== 0) throw new Error(said || `ffmpeg ended with ${code}`)
  await collected
}

async function collect(stdout: AsyncIterable<Buffer>, path: string, format: WaveFormat, frames: number): Promise<void> {
  const wav = new WavFile(path, frames, format)
  for await (const block of floats(stdout, format.channels)) wav.add(block)
  wav.close()
  if (wav.frames !== frames) throw new Error(`${wav.frames} frames came back where ${frames} were wanted`)
}

async function digest(path: string): Promise<{ sha256: string; bytes: number }> {
  const hash = createHash('sha256')
  let bytes = 0
  for await (const chunk of createReadStream(path)) {
    bytes += (chunk as Buffer).length
    hash.update(chunk as Buffer)
  }
  return { sha256: hash.digest('hex'), bytes }
}

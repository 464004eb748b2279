import { randomUUID } from 'node:crypto'
import { once } from 'node:events'
import { createWriteStream } from 'node:fs'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { interleaved } from '../../core/sound/interleaved'
import { RATE, type Frames, type Stretch } from '../../core/time'
import { LARGEST } from '../intake/intake'
import { TapeEntity, type TapeRow } from '../entities'
import { SoundFiles } from '../media/store'
import { tell } from '../notices'
import { probe } from '../outside/probe'
import { Ended, inputFlags, run, start } from '../outside/program'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { tapeInfo } from '../tapes'
import { runThread } from '../thread'
import { filesOf, type MakeRenditionOrder } from './make'
import type { LayBackOrder, LayBackReport } from './layBack'

/** A side goes out as a file, to be treated in another program, and comes back as a rendition. */

const LIMIT_MS = 20 * 60_000

async function tapeNamed({ database }: Services, id: string, channels: readonly number[]): Promise<TapeRow> {
  const tape = await database.manager.findOneBy(TapeEntity, { id })
  if (!tape) throw notFound('That tape')
  if (tape.state !== 'ready') throw new Refusal(409, 'Not ready', 'That tape is still arriving. Try again when it is ready.')
  if (channels.some((channel) => channel >= tape.channels)) throw notFound('That side')
  return tape
}

/**
 * Writes a side as recorded into a WAV file of 32-bit floats at 48 kHz; gives its path, which the caller removes. What was said off the
 * record is silent in it.
 */
export async function sideFile(services: Services, id: string, channels: readonly number[]): Promise<string> {
  const { frames } = await tapeNamed(services, id, channels)
  const { off } = await tapeInfo(services.database, id)
  const path = services.store.making(`${randomUUID()}.wav`)
  const input = ['-f', 'f32le', '-ar', '48000', '-ac', String(channels.length), '-i', 'pipe:0']
  const program = start('ffmpeg', ['-nostdin', '-loglevel', 'error', ...input, '-c:a', 'pcm_f32le', '-rf64', 'auto', path], LIMIT_MS, true)
  const ended = once(program, 'close')
  const files = new SoundFiles(services.store)
  try {
    await pipeline(Readable.from(mayGoOut(files, id, channels, frames, off)), program.stdin)
  } finally {
    files.close()
  }
  const [code] = await ended
  if (code !== 0) throw new Error(`ffmpeg ended with ${code}`)
  return path
}

const BLOCK: Frames = RATE

/** All frames of a side, interleaved as floats, silent where somebody was off the record. */
function* mayGoOut(files: SoundFiles, id: string, channels: readonly number[], frames: Frames, off: readonly Stretch[]): Generator<Buffer> {
  for (let at = 0; at < frames; at += BLOCK) {
    const end = Math.min(frames, at + BLOCK)
    const sounds = channels.map((channel) => Float32Array.from(files.read(id, channel, at, end)))
    for (const { from, to } of off)
      for (const sound of sounds) sound.fill(0, Math.max(0, from - at), Math.min(end - at, Math.max(0, to - at)))
    yield Buffer.from(interleaved(sounds))
  }
}

/** Takes in a file that was made of a side in another program; gives the id of the rendition it is. Refuses what does not fit. */
export async function takeBack(services: Services, id: string, channels: readonly number[], file: Readable): Promise<string> {
  const tape = await tapeNamed(services, id, channels)
  const { store, database, config } = services
  const rendition = randomUUID()
  const upload = store.making(rendition)
  const sound = `${id}.${rendition}`
  const unfinished = `.${process.pid}-${rendition}`
  const came = channels.map((_, i) => store.making(`${rendition}-${i}`))
  const paths = channels.map((channel) => `${store.channel(sound, channel)}${unfinished}`)
  const media = join(config.data, 'media')
  try {
    await pipeline(file, limited(LARGEST), createWriteStream(upload))
    await decode(upload, came)
    let answer: LayBackReport | null = null
    let did: object | null = null
    const { off } = await tapeInfo(database, id)
    const order: LayBackOrder = { media, tape: id, channels, frames: tape.frames, off, came, paths }
    await runThread<LayBackReport>('layBack', order, (report) => {
      if ('did' in report) ({ did } = report)
      else answer = report
    })
    const fit = answer as LayBackReport | null
    if (fit && 'fits' in fit && !fit.fits) throw new Refusal(422, 'It does not fit', `${fit.reason} Nothing was changed.`)
    const make: MakeRenditionOrder = { media, sound, channels, frames: tape.frames, unfinished, tone: tape.tone.made }
    await runThread('makeRendition', make, () => undefined)
    await database.query(`insert into rendition (id, tape, state, progress, did) values ($1, $2, 'ready', 1, $3)`, [
      rendition,
      id,
      JSON.stringify(did),
    ])
    await database.manager.update(TapeEntity, { id }, { disk: await store.sizeOfAll(store.tape(id)) })
    await tell(database, { about: 'tape', id })
    return rendition
  } finally {
    const all = [upload, ...came, ...filesOf(store, sound, channels, tape.tone.made).map((path) => `${path}${unfinished}`)]
    await Promise.all(all.map((path) => rm(path, { force: true })))
  }
}

/** Decodes a file at 48 kHz, a file a channel. */
async function decode(path: string, came: readonly string[]): Promise<void> {
  const found = await probe(path)
  if (!found) throw new Refusal(422, 'Not sound', 'There is no sound in that file that can be read. Nothing was changed.')
  if (found.channels !== came.length) {
    const word = (count: number) => (count === 1 ? 'one channel' : `${count} channels`)
    throw new Refusal(422, 'It does not fit', `It has ${word(found.channels)}, the side has ${word(came.length)}. Nothing was changed.`)
  }
  const outputs = came.flatMap((one, i) => ['-map', '0:a:0', '-af', `pan=mono|c0=c${i}`, '-ar', '48000', '-f', 'f32le', one])
  try {
    await run('ffmpeg', [...inputFlags, '-i', path, ...outputs], LIMIT_MS)
  } catch (error) {
    if (!(error instanceof Ended) || error.killed) throw error
    throw new Refusal(422, 'Damaged', 'That file is damaged and could not be read to its end. Nothing was changed.')
  }
}

/** Hands on what comes; refuses once it is too much. */
const limited = (most: number) =>
  async function* (chunks: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
    let bytes = 0
    for await (const chunk of chunks) {
      bytes += chunk.length
      if (bytes > most) throw new Refusal(413, 'Too large', 'That file is larger than any tape may be. Nothing was changed.')
      yield chunk
    }
  }

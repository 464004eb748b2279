import { randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { LARGEST } from '../intake/intake'
import { TapeEntity, type TapeRow } from '../entities'
import { tell } from '../notices'
import { probe } from '../outside/probe'
import { Ended, inputFlags, run } from '../outside/program'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
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

/** Writes a side as recorded into a WAV file of 32-bit floats at 48 kHz; gives its path, which the caller removes. */
export async function sideFile(services: Services, id: string, channels: readonly number[]): Promise<string> {
  await tapeNamed(services, id, channels)
  const { store } = services
  const path = store.making(`${randomUUID()}.wav`)
  const inputs = channels.flatMap((channel) => ['-f', 'f32le', '-ar', '48000', '-ac', '1', '-i', store.channel(id, channel)])
  const together = channels.length > 1 ? ['-filter_complex', `amerge=inputs=${channels.length}`] : []
  await run('ffmpeg', ['-nostdin', '-loglevel', 'error', ...inputs, ...together, '-c:a', 'pcm_f32le', '-rf64', 'auto', path], LIMIT_MS)
  return path
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
    const order: LayBackOrder = { media, tape: id, channels, frames: tape.frames, came, paths }
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

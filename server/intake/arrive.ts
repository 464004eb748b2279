import { createHash } from 'node:crypto'
import { closeSync, existsSync, openSync, readSync, statSync, writeFileSync } from 'node:fs'
import { mkdir, statfs } from 'node:fs/promises'
import { join } from 'node:path'
import { parentPort } from 'node:worker_threads'
import { findingsOf, type Finding } from '../../core/hearing/findings'
import { firstUnreal, readable, readSamples, type Shape } from '../../core/sound/pcm'
import { RECORDED_HERE } from '../../core/sound/recording'
import { quietStretches } from '../../core/hearing/quiet'
import { twoSpeakers } from '../../core/hearing/twoSpeakers'
import { NO_ORIGIN, readWaveFile, type WaveFile } from '../../core/sound/waveFile'
import { RATE, type Frames } from '../../core/time'
import { probe, type Probed } from '../outside/probe'
import { complaints, Ended, inputFlags, start } from '../outside/program'
import type { ArrivalOrder, ArrivalReport, RefusalReason } from './arrival'
import { listenBeside, listenHere, type Heard, type Listener } from './listener'
import { hearHum, MADE_TONE, makeTone } from './roomTone'
import { soundFile, SoundWriter } from './soundWriter'
import { tail, type Growth } from './tail'

const LIMIT_MS = 60 * 60_000
const ENOUGH = 1 << 16
const MOST_CHANNELS = 8
/** Samples a second: less than this holds no speech, and is most likely a header that lies. */
const LOWEST_RATE = 4000
/** What the disk keeps for everything else, in bytes. */
const LEFT_FREE = 256 << 20
/** Room is looked for again after so many bytes of sound. */
const ROOM_EACH = 256 << 20
/** A file this large is listened to in a thread of its own. */
const LONG = 24 << 20
/** For a WAV whose length was never filled in: read to the end of the file. */
const ENDLESS = ['-ignore_length', '1']
const PATIENCE_MS = 4000
const SHOW_MS = 250
/** So much shorter than its own header says counts as cut short. */
const SHORT: Frames = RATE / 2

/** Begins of files that are read from front to back; of others a table of contents may stand at the end. */
const FRONT_TO_BACK = [/^(RIFF|RF64|BW64)....WAVE/s, /^fLaC/, /^OggS/, /^ID3/, /^\xff[\xe2-\xff]/, /^#!AMR/]

const growth: Growth = { complete: false }

function refuse(reason: RefusalReason): never {
  throw new Error(reason)
}

/** Room on the disk that a folder lies on, in bytes. */
async function free(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder)
  return bavail * bsize
}

const say = (report: ArrivalReport): void => parentPort!.postMessage(report)

/**
 * All that arrival does to one file, in a thread of its own: to 48 kHz, a channel a file, with
 * peaks, room tone and what the ear would notice. Files that can be read from front to back are
 * read while they still come.
 */
async function arrive({ file, folder, size }: ArrivalOrder): Promise<void> {
  await mkdir(folder, { recursive: true })
  const hash = createHash('sha256')
  let beside = !growth.complete || statSync(file).size > LONG ? listenBeside() : null
  const coming = tail(file, growth, PATIENCE_MS)
  const taken: Buffer[] = []
  let read = 0
  let count = 0
  // enough to know what it is; all of it where it can only be read from its end
  const next = async (): Promise<Buffer | null> => {
    for (;;) {
      const { value, done } = await coming.next()
      if (done) return null
      if (value) {
        hash.update(value)
        read += value.length
        return value
      }
      say({ waiting: true })
    }
  }
  while (count < ENOUGH) {
    const some = await next()
    if (!some) break
    taken.push(Buffer.from(some))
    count += some.length
  }
  const head = Buffer.concat(taken)
  const streamed = FRONT_TO_BACK.some((begin) => begin.test(head.subarray(0, 16).toString('latin1')))
  if (!streamed) while (await next());
  const wave = waveOf(file)
  const probed = await probe(file)
  const channels = wave?.channels ?? probed?.channels ?? 0
  if (!probed || channels < 1) refuse('no sound')
  if (channels > MOST_CHANNELS) refuse('too many channels')
  const rate = wave?.rate ?? probed.rate
  if (rate && rate < LOWEST_RATE) refuse('too low a rate')
  const room = await free(folder)
  if (probed.expected * channels * 4 > room - LEFT_FREE) refuse('too large unpacked')
  say({ begun: { channels, format: probed.format, origin: wave?.origin ?? NO_ORIGIN } })

  const share = (frames: Frames): number => (streamed ? (size ? read / size : 0) : probed.expected ? frames / probed.expected : 0)
  // float has no full scale to be clipped at
  const order = { folder, channels, overs: !wave || (wave.rate !== RATE && !wave.float) }
  const once = async (endless: boolean, fromFront: boolean): Promise<{ frames: Frames; heard: Heard }> => {
    // one coded channel is written where it belongs by the program that decodes it, unless some of it is shown already
    const direct = fromFront && !wave && channels === 1 && !existsSync(soundFile(folder, 0))
    const writer = new SoundWriter(folder, direct ? 0 : channels)
    const listener = (beside ?? listenHere)(order)
    beside = null
    const take = taking(writer, listener, share, channels, () => free(folder))
    if (wave && fromFront && wave.rate === RATE && readable(wave))
      await inFrames(samplesOf(wave, endless, taken, next), wave, take, (at) => (unreal ??= at))
    else {
      const source = fromFront
        ? ['-probesize', String(ENOUGH), ...(endless ? ENDLESS : []), '-i', 'pipe:0']
        : [...(endless ? ENDLESS : []), '-i', file]
      const child = start(
        'ffmpeg',
        [
          ...inputFlags,
          '-loglevel',
          'warning',
          ...source,
          '-map',
          '0:a:0',
          '-ac',
          String(channels),
          '-ar',
          String(RATE),
          '-f',
          'f32le',
          ...(direct ? ['-y', soundFile(folder, 0)] : ['pipe:1']),
        ],
        LIMIT_MS,
        fromFront,
      )
      let said = ''
      child.stderr.on('data', (chunk: Buffer) => {
        const lines = chunk.toString()
        said = (said + lines).slice(-4000)
        // what it complains of lies about where it has come to
        if (DAMAGE.test(lines) && damaged.length < MOST_DAMAGE) damaged.push(direct ? decoded(soundFile(folder, 0)) : writer.frames)
      })
      let ending: Ended | null = null
      const decoding: Growth = { complete: false }
      const ended = new Promise<void>((resolve) =>
        child.on('close', (code, killer) => {
          if (code !== 0) ending = new Ended('ffmpeg', code, killer, said)
          decoding.complete = true
          resolve()
        }),
      )
      if (direct) closeSync(openSync(soundFile(folder, 0), 'a'))
      await Promise.all([
        fromFront ? feed(child.stdin, taken, next) : null,
        inFrames(
          direct ? written(soundFile(folder, 0), decoding) : child.stdout,
          { channels, float: true, plain: true, sampleBytes: 4 },
          take,
        ),
        ended,
      ])
      // a decoder that was killed, or ended without saying that the file is at fault, has not read it to its end
      const end = ending as Ended | null
      if (end && !end.aboutInput) throw end
    }
    take.end()
    writer.finish()
    return { frames: writer.frames, heard: await listener.finish() }
  }
  const damaged: Frames[] = []
  let unreal: Frames | null = null
  const endless = wave?.says === Infinity
  let { frames, heard } = await once(endless, streamed)
  while (streamed && (await next())); // what was not wanted of the file is still part of it
  // that a recorder went on past the length it wrote once shows only when all of it is here
  const whole = waveOf(file)
  if (whole?.unfinished && !endless) ({ frames, heard } = await once(true, false))
  if (!frames) refuse('no sound')
  if (probed.format.startsWith('flac')) damaged.push(...(await checkedFlac(file, probed.rate)))
  const { figures, looks, powers } = heard
  powers.forEach((channel, c) => writeFileSync(join(folder, `loudness-${c}.f32`), new Uint8Array(channel.buffer)))

  const quiet = quietStretches(looks)
  if (!quiet.length) for (let c = 0; c < channels; c++) makeTone(soundFile(folder, c), join(folder, `tone-${c}.f32`), c)
  figures.hum = hearHum(folder, channels, quiet)
  say({
    done: {
      frames,
      sha256: hash.digest('hex'),
      twoSpeakers: channels === 2 && twoSpeakers(looks[0], looks[1]),
      tone: quiet.length ? { made: false, quiet } : { made: true, quiet: [{ from: 0, to: MADE_TONE }] },
      figures,
      findings: [
        ...fileFindings(whole, probed, frames),
        ...damageFindings(damaged, frames),
        ...(unreal === null ? [] : [{ what: 'unreal' as const, at: unreal, count: 1 }]),
        ...findingsOf(figures),
      ],
    },
  })
}

/** What a program writes into a file, as it comes. */
async function* written(path: string, growth: Growth): AsyncGenerator<Buffer> {
  for await (const some of tail(path, growth, PATIENCE_MS)) if (some) yield some
}

/** Hands bytes on to a program as fast as it takes them. One that has enough closes its ear: that is no fault. */
async function feed(into: NodeJS.WritableStream, first: readonly Buffer[], next: () => Promise<Buffer | null>): Promise<void> {
  let open = true
  into.on('error', () => (open = false))
  into.on('close', () => (open = false))
  const write = (some: Buffer) =>
    new Promise<void>((done) => {
      if (!open) return done()
      into.write(some, () => done())
    })
  for (const some of first) await write(some)
  for (let some = await next(); some; some = await next()) await write(some)
  if (open) into.end()
}

/** Somewhere for samples of so many frames, and what is done with them once they are there. */
interface Take {
  place(frames: Frames): Float32Array[]
  take(samples: Float32Array[]): Promise<void>
  end(): void
}

/** Writes samples, has them listened to, and says now and then how far it is. */
function taking(
  writer: SoundWriter,
  listener: Listener,
  share: (frames: Frames) => number,
  channels: number,
  room: () => Promise<number>,
): Take {
  let shown = 0
  let sinceRoom = 0
  // what comes just before a halt is shown as well
  let later: ReturnType<typeof setTimeout> | undefined
  const show = () => {
    clearTimeout(later)
    later = undefined
    shown = Date.now()
    void listener.show().then((frames) => say({ frames, share: Math.min(0.99, share(frames)) }))
  }
  return {
    end: () => clearTimeout(later),
    place: (frames) => listener.place(frames),
    take: async (samples) => {
      writer.add(samples)
      sinceRoom += samples[0].length * channels * 4
      if (sinceRoom > ROOM_EACH) {
        sinceRoom = 0
        if ((await room()) < LEFT_FREE) throw Object.assign(new Error('ENOSPC: the disk is nearly full'), { code: 'ENOSPC' })
      }
      if (Date.now() - shown > SHOW_MS) show()
      else later ??= setTimeout(show, SHOW_MS)
      await listener.add(samples)
    },
  }
}

/** The bytes of a plain WAV file's samples, which need no program to be read. */
async function* samplesOf(
  wave: WaveFile,
  endless: boolean,
  first: readonly Buffer[],
  next: () => Promise<Buffer | null>,
): AsyncGenerator<Buffer> {
  const end = endless ? Infinity : wave.dataFrom + wave.says
  const queue = [...first]
  let at = 0
  for (let some = queue.shift() ?? (await next()); some; some = queue.shift() ?? (await next())) {
    const part = some.subarray(Math.max(0, wave.dataFrom - at), Math.max(0, Math.min(some.length, end - at)))
    at += some.length
    if (part.length) yield part
    if (at >= end) return
  }
}

/** `onUnreal` hears of the first frame of each block that makes no sense, in a file of floats that is read here. */
async function inFrames(bytes: AsyncIterable<Buffer>, shape: Shape, { place, take }: Take, onUnreal?: (at: Frames) => void): Promise<void> {
  let done: Frames = 0
  const frame = shape.channels * shape.sampleBytes
  let rest: Buffer = Buffer.alloc(0)
  for await (const some of bytes) {
    const all = rest.length ? Buffer.concat([rest, some]) : some
    const whole = Math.floor(all.length / frame) * frame
    if (whole) {
      const samples = place(whole / frame)
      readSamples(all.subarray(0, whole), shape, samples)
      const unreal = onUnreal ? firstUnreal(samples, all.subarray(0, whole), shape) : null
      if (unreal !== null) onUnreal!(done + unreal)
      done += whole / frame
      await take(samples)
    }
    rest = Buffer.from(all.subarray(whole))
  }
}

function waveOf(path: string): WaveFile | null {
  const file = openSync(path, 'r')
  try {
    const read = (from: number, to: number) => {
      const bytes = Buffer.alloc(Math.max(0, to - from))
      return bytes.subarray(0, bytes.length ? readSync(file, bytes, 0, bytes.length, from) : 0)
    }
    return readWaveFile(read, statSync(path).size)
  } finally {
    closeSync(file)
  }
}

/** What ffmpeg says of sound that is damaged, among other things that are no fault of it. */
const DAMAGE = new RegExp(
  [
    'crc error',
    'invalid (?:data|frame|residual|sync|header|new backstep|rice|subframe|partition)',
    'corrupt|overread|concealing|decode_frame',
    'error (?:while )?decoding',
    'sync.*lost|header missing',
  ].join('|'),
  'i',
)
/** How many complaints of a decoder are noted. */
const MOST_DAMAGE = 200
/** Complaints that lie closer together are one place. */
const ONE_PLACE: Frames = 2 * RATE

/** How far a program has written a channel. */
const decoded = (path: string): Frames => (existsSync(path) ? Math.floor(statSync(path).size / 4) : 0)

/** Where FLAC frames do not fit their checksums (CRC-16): a decoder that reads a stream passes over them in silence. */
async function checkedFlac(file: string, rate: number): Promise<Frames[]> {
  const said = await complaints(
    'ffmpeg',
    ['-nostdin', '-hide_banner', '-loglevel', 'warning', '-err_detect', 'crccheck', '-i', file, '-map', '0:a:0', '-f', 'null', '-'],
    LIMIT_MS,
  )
  return [...said.matchAll(/CRC error at PTS (\d+)/g)]
    .slice(0, MOST_DAMAGE)
    .map(([, at]) => Math.round((Number(at) / (rate || RATE)) * RATE))
}

/** Where the file could not be decoded as it should, in the midst of what could. */
function damageFindings(damaged: readonly Frames[], frames: Frames): Finding[] {
  const places = damaged.filter((at, i) => i === 0 || at - damaged[i - 1] > ONE_PLACE)
  return places.length ? [{ what: 'damaged', at: Math.min(places[0], frames), count: places.length }] : []
}

/** What was wrong with the file itself. */
function fileFindings(wave: WaveFile | null, probed: Probed, frames: Frames): Finding[] {
  if (wave?.unfinished) return wave.origin.originator === RECORDED_HERE ? [] : [{ what: 'unfinished' }]
  const promised = wave ? (wave.promised / wave.rate) * RATE : probed.exact ? probed.expected : 0
  return promised - frames > SHORT ? [{ what: 'cutShort', at: frames }] : []
}

/** What the thread does, told once; what is told afterwards is that the file is whole. */
export async function run(order: ArrivalOrder): Promise<void> {
  growth.complete = order.complete
  parentPort!.on('message', () => (growth.complete = true))
  await arrive(order)
  parentPort!.unref()
}

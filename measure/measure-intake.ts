import { spawn, spawnSync } from 'node:child_process'
import { once } from 'node:events'
import { closeSync, copyFileSync, mkdtempSync, openSync, readdirSync, readFileSync, readSync, rmSync, statSync } from 'node:fs'
import { randomUUID } from 'node:crypto'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { random } from '../core/sound/random'
import { RATE, toFrames, type Frames } from '../core/time'
import { launch } from '../e2e/browser'
import { allCame, beginTape } from '../server/intake/intake'
import { tend } from '../server/intake/tend'
import { TapeEntity } from '../server/entities'
import { closeServices } from '../server/services'
import { keepAtHand } from '../server/thread'
import type { Player } from '../web/sound/player'
import { median, report } from './figure'
import { openNewsroom, servicesOf } from './newsroom'
import { sound, words } from './speechlike'

/** All that arrival does to an hour of tape, against ffmpeg's loudness meter on the same file in the same run. */

const HOUR = toFrames(60 * 60)
const PEER = 'ffmpeg -i F -af ebur128=peak=true -f null -'
const folder = mkdtempSync(join(tmpdir(), 'plain-cut-intake-'))
const newsroom = await openNewsroom()

async function write(name: string, blocks: Iterable<Float32Array>, ...codec: string[]): Promise<string> {
  const path = join(folder, name)
  const encoder = spawn('ffmpeg', ['-v', 'error', '-f', 'f32le', '-ar', String(RATE), '-ac', '1', '-i', 'pipe:0', ...codec, path], {
    stdio: ['pipe', 'inherit', 'inherit'],
  })
  const ended = once(encoder, 'close')
  for (const block of blocks) if (!encoder.stdin!.write(new Uint8Array(block.buffer))) await once(encoder.stdin!, 'drain')
  encoder.stdin!.end()
  await ended
  return path
}

/** Dense and loud: chords, a beat and noise, driven into a ceiling a little below full scale. */
function* music(length: Frames): Generator<Float32Array> {
  const next = random(5)
  for (let at = 0; at < length; at += RATE) {
    const block = new Float32Array(Math.min(RATE, length - at))
    const root = 55 * 2 ** (Math.floor(next() * 12) / 12)
    for (let i = 0; i < block.length; i++) {
      const t = i / RATE
      let sample = 0
      for (const [k, by] of [1, 1.5, 2, 2.52, 3, 4, 6, 8].entries()) sample += Math.sin(2 * Math.PI * root * by * t + k) / (1 + k / 3)
      const beat = (i % (RATE / 2)) / (RATE / 2)
      sample +=
        2.5 * Math.exp(-beat * 14) * Math.sin(2 * Math.PI * 55 * beat) + 0.8 * (next() - 0.5) * Math.exp(-((i % (RATE / 8)) / RATE) * 30)
      block[i] = 0.93 * Math.tanh(0.9 * sample)
    }
    yield block
  }
}

const said = words(HOUR, 9000)
const files = {
  wav: await write('speech.wav', sound(HOUR, said), '-c:a', 'pcm_s16le'),
  mp3: await write('speech.mp3', sound(HOUR, said), '-b:a', '128k'),
  music: await write('music.wav', music(HOUR), '-c:a', 'pcm_s16le'),
}

const services = await servicesOf(newsroom)
// as the server has it, with a thread at hand
keepAtHand('arrive')
for (const [name, path] of Object.entries(files)) {
  const peer = Date.now()
  spawnSync('ffmpeg', ['-v', 'error', '-i', path, '-af', 'ebur128=peak=true', '-f', 'null', '-'], { stdio: 'ignore' })
  const peerValue = (Date.now() - peer) / 1000
  await new Promise((done) => setTimeout(done, 1500))
  // the file is there; what is timed is all that is done with it
  const id = randomUUID()
  await beginTape(services, id, `${name}.bin`, statSync(path).size)
  copyFileSync(path, services.store.upload(id))
  await allCame(services, id, statSync(path).size)
  const began = Date.now()
  await tend(services, { id })
  const seconds = (Date.now() - began) / 1000
  const tape = await services.database.manager.findOneByOrFail(TapeEntity, { id })
  if (tape.state !== 'ready' || Math.abs(tape.frames - HOUR) > RATE) throw new Error(`${name} did not come in whole`)
  report({ measure: 'intake', name: `intake.${name}`, value: seconds, unit: 's' })
  report({
    measure: 'intake',
    name: `intake.${name}.vs`,
    value: seconds / peerValue,
    unit: 'of the peer’s wall time',
    peer: PEER,
    peerValue,
    ratio: seconds / peerValue,
  })
}
await services.database.query('delete from document')
await closeServices(services)

const server = await newsroom.start()
const UPLOADS = `${newsroom.address}/api/uploads`
const begin = async (name: string, size: number): Promise<string> => {
  const answer = await fetch(UPLOADS, {
    method: 'POST',
    headers: {
      'Tus-Resumable': '1.0.0',
      'Upload-Length': String(size),
      'Upload-Metadata': `filename ${Buffer.from(name).toString('base64')}`,
    },
  })
  return answer.headers.get('location')!.split('/').at(-1)!
}
const send = (id: string, offset: number, body: Uint8Array<ArrayBuffer>) =>
  fetch(`${UPLOADS}/${id}`, {
    method: 'PATCH',
    headers: { 'Tus-Resumable': '1.0.0', 'Upload-Offset': String(offset), 'Content-Type': 'application/offset+octet-stream' },
    body,
  })

// from the end of the first 8 MB to a waveform that is shown, and to sound
{
  const browser = await launch()
  const times: { shown: number[]; playable: number[] } = { shown: [], playable: [] }
  const size = statSync(files.wav).size
  const head = new Uint8Array(8 << 20)
  const source = openSync(files.wav, 'r')
  readSync(source, head, 0, head.length, 0)
  closeSync(source)
  for (let i = 0; i < 5; i++) {
    const id = await begin(`first ${i}.wav`, size)
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.addInitScript('globalThis.__name = (named) => named')
    await page.goto(`${newsroom.address}/tapes/${id}`)
    await page.getByText('Arriving').waitFor()
    await send(id, 0, head)
    const end = Date.now()
    await page.waitForSelector('canvas[data-drawn=even]')
    times.shown.push(Date.now() - end)
    await page.evaluate(() => {
      const { plainCutPlayer: player } = globalThis as unknown as { plainCutPlayer: Player }
      const began = new Promise<void>((done) => player.onBegan(() => done()))
      window.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', code: 'Space', bubbles: true, cancelable: true }))
      return began
    })
    times.playable.push(Date.now() - end)
    await page.close()
    await fetch(`${newsroom.address}/api/tapes/${id}/arrival`, { method: 'DELETE' })
  }
  await browser.close()
  report({ measure: 'intake', name: 'intake.first.shown', value: median(times.shown) / 1000, unit: 's, median of 5' })
  report({ measure: 'intake', name: 'intake.first', value: Math.max(...times.playable) / 1000, unit: 's, longest of 5, shown and played' })
}

// memory of the server with its threads and programs, while two hours come in
{
  const path = await write('two hours.wav', sound(2 * HOUR, words(2 * HOUR, 18_000)), '-c:a', 'pcm_s16le')
  const resident = () => {
    const parents = new Map<number, number>()
    const sizes = new Map<number, number>()
    for (const pid of readdirSync('/proc').map(Number).filter(Boolean)) {
      try {
        const status = readFileSync(`/proc/${pid}/status`, 'utf8')
        parents.set(pid, Number(/PPid:\s+(\d+)/.exec(status)![1]))
        sizes.set(pid, Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0))
      } catch {
        // ended meanwhile
      }
    }
    let sum = 0
    for (const [pid, size] of sizes)
      for (let at: number | undefined = pid; at; at = parents.get(at)) if (at === server.child.pid) sum += size
    return sum / 1024
  }
  await new Promise((done) => setTimeout(done, 3000))
  const before = resident()
  let highest = before
  const watch = setInterval(() => (highest = Math.max(highest, resident())), 100)
  const size = statSync(path).size
  const id = await begin('two hours.wav', size)
  const source = openSync(path, 'r')
  const piece = new Uint8Array(32 << 20)
  for (let at = 0; at < size;) {
    const got = readSync(source, piece, 0, piece.length, at)
    await send(id, at, piece.slice(0, got))
    at += got
  }
  closeSync(source)
  for (;;) {
    const { state } = (await (await fetch(`${newsroom.address}/api/tapes/${id}`)).json()) as { state: string }
    if (state === 'ready') break
    if (state === 'failed') throw new Error('two hours did not come in')
    await new Promise((done) => setTimeout(done, 300))
  }
  clearInterval(watch)
  report({ measure: 'intake', name: 'intake.rss', value: highest - before, unit: 'MB over what the server had before' })
}

await server.stop()
await newsroom.close()
rmSync(folder, { recursive: true, force: true })

import { spawnSync } from 'node:child_process'
import { once } from 'node:events'
import { chmodSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { Recognition } from '../contract/recognitions'
import type { TapeInfo } from '../contract/tapes'
import { wordsOf, type Transcript } from '../core/transcript/transcript'
import { freePort, startCluster, type Cluster } from '../scripts/cluster'
import { serve, type Serving } from '../scripts/serving'
import { until } from './newsroom'
import { another } from './wav'

/** Recognising by a service, with a stand-in for it: it takes its time, and hears one word in the middle of whatever it is sent. */

let recogniser: Server
let cluster: Cluster
let server: Serving
let data: string
let environment: Record<string, string>
let address: string
const sent: number[] = []
/** What came: form, rate, channels, bits. */
const kinds = new Set<string>()
const SLOW_MS = 400

async function api<T>(path: string, init?: RequestInit): Promise<T> {
  const response = await fetch(`${address}/api${path}`, init)
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
  return (response.status === 204 ? undefined : await response.json()) as T
}
const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
})
const words = async (tape: string) => wordsOf((await api<StoredDocument & { body: Transcript }>(`/tapes/${tape}/words`)).body)
const recognition = (tape: string) => api<Recognition | null>(`/recognitions/${tape}`)

beforeAll(async () => {
  recogniser = createServer((request, response) => {
    const parts: Buffer[] = []
    request.on('data', (part: Buffer) => parts.push(part))
    request.on('end', () => {
      const wav = Buffer.concat(parts)
      kinds.add([wav.toString('latin1', 0, 4), wav.readUInt32LE(24), wav.readUInt16LE(22), wav.readUInt16LE(34)].join())
      const seconds = (wav.length - 44) / 32_000
      sent.push(seconds)
      setTimeout(
        () =>
          response.setHeader('Content-Type', 'application/json').end(
            JSON.stringify({
              words: [{ text: `heard${Math.round(seconds * 1000)}`, start: seconds / 2, end: seconds / 2 + 0.2, confidence: 0.7 }],
            }),
          ),
        SLOW_MS,
      )
    })
  }).listen(0, '127.0.0.1')
  await once(recogniser, 'listening')
  data = mkdtempSync(join(tmpdir(), 'plain-cut-recognised-'))
  chmodSync(data, 0o755)
  cluster = await startCluster(data)
  const port = await freePort()
  address = `http://localhost:${port}`
  environment = {
    PORT: String(port),
    PLAIN_CUT_DATA: data,
    PLAIN_CUT_DATABASE: cluster.url,
    PLAIN_CUT_DEMO: 'none',
    PLAIN_CUT_RECOGNISE: 'arrival',
    PLAIN_CUT_RECOGNISER: `http://127.0.0.1:${(recogniser.address() as AddressInfo).port}/words`,
  }
  server = await serve(environment)
})
afterAll(async () => {
  await server.stop()
  await cluster.stop()
  recogniser.close()
  rmSync(data, { recursive: true, force: true })
})

/** The demo's voice tracks over and over, with pauses: speech in many pieces. */
async function speech(name: string, times: number): Promise<string> {
  const { stdout } = spawnSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-stream_loop',
      String(times - 1),
      '-i',
      join(import.meta.dirname, '..', 'demo', 'tapes', 'voice-tracks.flac'),
      '-af',
      `apad=pad_dur=${2 + another() / 100}`,
      '-f',
      'wav',
      'pipe:1',
    ],
    { maxBuffer: 1 << 28 },
  )
  return brought(name, stdout)
}

async function brought(name: string, file: Buffer): Promise<string> {
  const answer = await fetch(`${address}/api/uploads`, {
    method: 'POST',
    headers: {
      'Tus-Resumable': '1.0.0',
      'Upload-Length': String(file.length),
      'Upload-Metadata': `filename ${Buffer.from(name).toString('base64')}`,
      'Content-Type': 'application/offset+octet-stream',
    },
    body: new Uint8Array(file),
  })
  const id = answer.headers.get('location')!.split('/').at(-1)!
  await until(
    () => api<TapeInfo>(`/tapes/${id}`),
    (tape) => tape.state === 'ready',
    30_000,
  )
  return id
}

it('begins by itself on arrival, and goes on after a kill where it was, each piece once', async () => {
  sent.length = 0
  const tape = await speech('killed.wav', 3)
  await until(
    () => words(tape),
    (list) => list.length >= 2,
    20_000,
  )
  server.child.kill('SIGKILL')
  await once(server.child, 'exit')
  server = await serve(environment)
  const before = (await words(tape)).length
  expect((await recognition(tape))!.state).not.toBe('done')
  const done = await until(
    () => recognition(tape),
    (now) => now?.state === 'done',
    40_000,
  )
  expect(done!.progress).toBe(1)
  const heard = await words(tape)
  expect(heard.length).toBeGreaterThan(before)
  // no piece is there twice, and none is missing: each is as long as it says, and they lie in order
  expect(new Set(heard.map(({ from }) => from)).size).toBe(heard.length)
  expect(heard.map(({ from }) => from)).toEqual(heard.map(({ from }) => from).sort((a, b) => a - b))
  expect(new Set(sent.map((seconds) => `heard${Math.round(seconds * 1000)}`))).toEqual(
    new Set(heard.filter(({ what }) => what !== 'noise').map(({ text }) => text)),
  )
  expect(heard.every(({ sure }) => sure === 0.7)).toBe(true)
  expect([...kinds]).toEqual(['RIFF,16000,1,16'])
})

it('hears no words in music, a quay at night or a door', async () => {
  sent.length = 0
  const bed = join(import.meta.dirname, '..', 'demo', 'tapes', 'bed-low-water.mp3')
  const quay = join(import.meta.dirname, '..', 'demo', 'tapes', 'quay-at-night.ogg')
  // a door: three dull thumps that ring, and a latch
  const door =
    "aevalsrc='0.8*exp(-18*mod(t,2))*sin(2*PI*(90+40*exp(-30*mod(t,2)))*t)+0.4*exp(-60*mod(t+0.3,2))*(random(0)-0.5)':d=8:s=48000"
  for (const [name, args] of [
    ['bed.wav', ['-i', bed]],
    ['quay.wav', ['-i', quay]],
    ['door.wav', ['-f', 'lavfi', '-i', door]],
  ] as const) {
    const { stdout } = spawnSync('ffmpeg', ['-v', 'error', ...args, '-f', 'wav', 'pipe:1'], { maxBuffer: 1 << 28 })
    const tape = await brought(name, stdout)
    // asked for by hand too: what came by itself may not have been asked for at all
    await api('/recognitions', json('POST', { tape }))
    await until(
      () => recognition(tape),
      (now) => now?.state === 'done',
      20_000,
    )
    expect(await words(tape)).toEqual([])
  }
  expect(sent).toEqual([])
}, 90_000)

it('leaves no trace once it is called off', async () => {
  // what the kill before left half-made is cleared away a day later: it might be another server's work
  const making = () => readdirSync(join(data, 'media', 'making'))
  const before = new Set(making())
  const tape = await speech('called off.wav', 4)
  await until(
    () => words(tape),
    (list) => list.length >= 1,
    20_000,
  )
  await api(`/recognitions/${tape}`, { method: 'DELETE' })
  await until(
    () => words(tape),
    (list) => list.length === 0,
  )
  await new Promise((done) => setTimeout(done, 3 * SLOW_MS))
  expect(await words(tape)).toEqual([])
  expect(await recognition(tape)).toBeNull()
  await until(making, (left) => left.every((name) => before.has(name)))
})

it('leaves a tape alone whose language nobody here knows', async () => {
  const tape = await speech('unknown.wav', 2)
  await api(`/recognitions/${tape}`, { method: 'DELETE' })
  const { revision } = await api<StoredDocument>(`/documents/${tape}`)
  await api(
    `/documents/${tape}/steps`,
    json('POST', {
      base: revision,
      entries: [
        {
          id: crypto.randomUUID(),
          author: crypto.randomUUID(),
          label: 'language',
          steps: [{ type: 'set', id: 'tape', key: 'language', value: 'cy' }],
        },
      ],
    }),
  )
  await expect(api('/recognitions', json('POST', { tape }))).rejects.toThrow(/does not know that language/)
})

import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from 'playwright-core'
import { describe, expect, it, onTestFinished } from 'vitest'
import type { TapeInfo } from '../contract/tapes'
import type { Actuality } from '../core/edits/actuality'
import { freePort } from '../scripts/cluster'
import { serve } from '../scripts/serving'
import { CHROMIUM } from './browser'
import { here } from './here'
import { api, bring, sheetDrawn, until, useBrowser, visit, watchTapes } from './newsroom'
import { makeWav } from './wav'

useBrowser()

const sha = (file: Buffer): string => createHash('sha256').update(file).digest('hex')
/** Bytes of a WAV file before its sound. */
const HEAD = 44
const UPLOAD = { 'Tus-Resumable': '1.0.0' }
const begin = async (name: string, size: number): Promise<string> =>
  (
    await fetch(`${here.address}/api/uploads`, {
      method: 'POST',
      headers: { ...UPLOAD, 'Upload-Length': String(size), 'Upload-Metadata': `filename ${Buffer.from(name).toString('base64')}` },
    })
  ).headers
    .get('location')!
    .split('/')
    .at(-1)!
const send = (id: string, offset: number, body: Buffer) =>
  fetch(`${here.address}/api/uploads/${id}`, {
    method: 'PATCH',
    headers: { ...UPLOAD, 'Upload-Offset': String(offset), 'Content-Type': 'application/offset+octet-stream' },
    body: new Uint8Array(body),
  })
const tapes = watchTapes()
const sentAs = async (name: string) => (await tapes()).find(({ fileName }) => fileName === name)

describe('a tape that is still arriving', () => {
  it('is tidied by its sound as far as it has come, and further once all of it is here', async () => {
    const file = makeWav(60, 48_000)
    const perSecond = (file.length - HEAD) / 60
    // samples that were dropped: within each third 20 ms of digital silence
    for (const at of [5.3, 25.3, 50.3]) file.fill(0, HEAD + at * perSecond, HEAD + at * perSecond + Math.round(0.02 * perSecond))
    const part = Math.floor(file.length / 3)
    const id = await begin('holed.wav', file.length)
    const { page, complaints } = await visit(`/tapes/${id}`)
    await page.getByText('Arriving').waitFor()
    await send(id, 0, file.subarray(0, part))
    await sheetDrawn(page)
    await page.keyboard.press('Shift+D')
    await page
      .getByTestId('tidy-kinds')
      .getByRole('button', { name: /Holes\s*1/ })
      .waitFor()
    // what it ends on so far may go on
    expect(await page.getByTestId('tidy-kinds').innerText()).not.toMatch(/Dead air/)
    await send(id, part, file.subarray(part))
    await page
      .getByTestId('tidy-kinds')
      .getByRole('button', { name: /Holes\s*3/ })
      .waitFor()
    expect(complaints).toEqual([])
  })

  it('grows on the Sheet, and is played and pulled from while the rest comes', async () => {
    const file = makeWav(60, 48_000)
    const part = Math.floor(file.length / 3)
    const id = await begin('growing.wav', file.length)
    const { page, complaints } = await visit(`/tapes/${id}`)
    await page.getByText('Arriving').waitFor()
    await send(id, 0, file.subarray(0, part))
    await sheetDrawn(page)
    await page.getByText(/Still arriving: 0:(19|20)\.\d of it is here/).waitFor()
    await page.keyboard.press('Space')
    await until(
      () => page.evaluate(() => (globalThis as unknown as { plainCutPlayer: { position: number } }).plainCutPlayer.position),
      (at) => at > 24_000,
    )
    await page.keyboard.press('Space')
    await page.keyboard.press('Control+a')
    await page.keyboard.press('p')
    await page.getByText(/Pulled “/).waitFor()
    await send(id, part, file.subarray(part, 2 * part))
    await page.getByText(/Still arriving: 0:(39|40)\.\d of it is here/).waitFor()
    await send(id, 2 * part, file.subarray(2 * part))
    await page.getByText('its own,').waitFor()
    const tape = await api<TapeInfo>(`/tapes/${id}`)
    expect([tape.state, tape.frames, tape.sha256]).toEqual(['ready', 60 * 48_000, sha(file)])
    // what was shown while it grew is what is there now
    const end = new Float32Array(
      await (await fetch(`${here.address}/api/tapes/${id}/sound/sound/0?from=${59 * 48_000}&to=${60 * 48_000}`)).arrayBuffer(),
    )
    expect(end).toHaveLength(48_000)
    const [piece] = (await api<{ body: { spans: { tape: string; to: number }[] } }[]>('/pieces')).filter(
      ({ body }) => body.spans[0].tape === id,
    )
    expect(piece.body.spans[0].to).toBeGreaterThan(18 * 48_000)
    expect(complaints).toEqual([])
  })

  it('of which nothing more comes waits, and goes on when it does', async () => {
    const other = makeWav(30, 48_000)
    const id = await begin('halt.wav', other.length)
    await send(id, 0, other.subarray(0, 900_000))
    await until(
      () => api<TapeInfo>(`/tapes/${id}`),
      (tape) => tape.frames > 400_000,
    )
    await new Promise((done) => setTimeout(done, 6000)) // longer than anybody waits for it
    expect((await fetch(`${here.address}/api/uploads/${id}`, { method: 'HEAD', headers: UPLOAD })).headers.get('upload-offset')).toBe(
      '900000',
    )
    await send(id, 900_000, other.subarray(900_000))
    const tape = await until(
      () => api<TapeInfo>(`/tapes/${id}`),
      ({ state }) => state === 'ready',
      20_000,
    )
    expect(tape.sha256).toBe(sha(other))
  })
})

describe('an upload', () => {
  it('of the same file twice is one tape, and says so', async () => {
    const file = makeWav(5)
    const first = await bring('once.wav', file)
    const { page } = await visit('/tapes')
    await page.getByTestId('file-input').setInputFiles({ name: 'twice.wav', mimeType: 'audio/wav', buffer: file })
    await page.getByText('“twice.wav” is here already, as “once”.').waitFor()
    expect((await tapes()).filter((tape) => tape.sha256 === first.sha256)).toHaveLength(1)
  })

  it('of the same file twice stays if a piece was made with it while it came, and leads to the other if not', async () => {
    const file = makeWav(20, 48_000)
    const first = await bring('sent once.wav', file)
    const again = async () => {
      const id = await begin('sent again.wav', file.length)
      await send(id, 0, file.subarray(0, 1_000_000))
      await until(
        () => api<TapeInfo>(`/tapes/${id}`),
        (tape) => tape.frames > 400_000,
      )
      return { id, rest: () => send(id, 1_000_000, file.subarray(1_000_000)) }
    }
    const [left, patching] = [await again(), await again()]
    const { page } = await visit(`/tapes/${left.id}`)
    await page.getByText(/Still arriving/).waitFor()
    // no word of it stands in the piece: some of it is laid over the other
    const patch = { tape: patching.id, from: 48_000, to: 72_000, laid: { from: 96_000, to: 120_000 } }
    const body: Actuality = {
      kind: 'actuality',
      slug: 'patched',
      speaker: '',
      role: '',
      story: null,
      spans: [{ tape: first.id, from: 96_000, to: 120_000, sound: 'tape', patch }],
      head: 0,
      tail: 0,
    }
    await api(`/documents/${crypto.randomUUID()}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    })
    await Promise.all([left.rest(), patching.rest()])
    await until(
      () => api<TapeInfo>(`/tapes/${patching.id}`),
      ({ state }) => state === 'ready',
    )
    await page.getByText('“sent again.wav” is here already, as “sent once”.').waitFor()
    await page.getByRole('link', { name: 'Open that one' }).click()
    await page.waitForURL(`**/tapes/${first.id}`)
    expect((await fetch(`${here.address}/api/library/tapes/${patching.id}`, { method: 'DELETE' })).status).toBe(409)
  })

  it('that cannot be taken in for a fault of the machine is kept, says so, and comes in once that is put right', async () => {
    const file = makeWav(8)
    const id = await begin('no room.wav', file.length)
    // where its sound would go, something else lies
    const folder = join(here.data, 'media', 'tapes', id)
    writeFileSync(folder, '')
    await send(id, 0, file)
    const { page } = await visit(`/tapes/${id}`)
    await page.getByText('Not imported yet').waitFor()
    rmSync(folder)
    const tape = await until(
      () => api<TapeInfo>(`/tapes/${id}`),
      ({ state }) => state === 'ready',
      30_000,
    )
    expect([tape.error, tape.sha256]).toEqual(['', sha(file)])
    await sheetDrawn(page)
  })

  it('can be paused, gone on with, and called off', async () => {
    const { page, context } = await visit('/tapes')
    await page.getByRole('heading', { name: 'Tapes' }).waitFor()
    // a slow way to the server, so that there is time to
    const slow = await context.newCDPSession(page)
    await slow.send('Network.enable')
    await slow.send('Network.emulateNetworkConditions', { offline: false, latency: 0, downloadThroughput: 1e7, uploadThroughput: 400_000 })
    const [name, file] = ['halfway.wav', makeWav(120, 48_000)] // more than can get through meanwhile
    await page.getByTestId('file-input').setInputFiles({ name, mimeType: 'audio/wav', buffer: file })
    const row = page.getByRole('region', { name: 'Importing' })
    await row.getByText(/left$/).waitFor()
    await row.getByRole('button', { name: `Pause ${name}` }).click()
    await row.getByText('paused').waitFor()
    await row.getByRole('button', { name: `Resume ${name}` }).click()
    await row.getByRole('button', { name: `Pause ${name}` }).waitFor()
    await row.getByRole('button', { name: `Cancel ${name}` }).click()
    await row.waitFor({ state: 'detached' })
    await until(
      () => sentAs(name),
      (tape) => !tape,
    )
  })

  it('outlives the browser: what was sent is not sent again', async () => {
    const profile = mkdtempSync(join(tmpdir(), 'plain-cut-profile-'))
    const [name, file] = ['killed.wav', makeWav(40, 48_000)]
    const first = await chromium.launchPersistentContext(profile, CHROMIUM)
    const page = await first.newPage()
    await page.goto(`${here.address}/tapes`)
    await page.getByRole('heading', { name: 'Tapes' }).waitFor()
    const slow = await first.newCDPSession(page)
    await slow.send('Network.enable')
    await slow.send('Network.emulateNetworkConditions', { offline: false, latency: 0, downloadThroughput: 1e7, uploadThroughput: 600_000 })
    await page.getByTestId('file-input').setInputFiles({ name, mimeType: 'audio/wav', buffer: file })
    const half = await until(
      () => sentAs(name),
      (tape) => (tape?.frames ?? 0) > 5 * 48_000,
      30_000,
    )
    spawnSync('pkill', ['-KILL', '-f', profile]) // no goodbye
    await first.close().catch(() => undefined)
    const { headers } = await fetch(`${here.address}/api/uploads/${half!.id}`, { method: 'HEAD', headers: UPLOAD })
    const there = Number(headers.get('upload-offset'))
    expect(there).toBeGreaterThan(500_000)
    expect(there).toBeLessThan(file.length)

    const second = await chromium.launchPersistentContext(profile, CHROMIUM)
    const again = await second.newPage()
    const sent: number[] = []
    again.on('request', (request) => request.method() === 'PATCH' && sent.push(Number(request.headers()['upload-offset'])))
    await again.goto(`${here.address}/`)
    const tape = await until(
      () => api<TapeInfo>(`/tapes/${half!.id}`),
      ({ state }) => state === 'ready',
      30_000,
    )
    expect(tape.sha256).toBe(sha(file))
    expect(sent[0]).toBeGreaterThanOrEqual(there)
    await second.close()
    rmSync(profile, { recursive: true, force: true })
  })

  it('outlives the server: it goes on by itself when that is back', async () => {
    const port = await freePort()
    const environment = { PORT: String(port), PLAIN_CUT_DATA: here.data, PLAIN_CUT_DATABASE: here.database, PLAIN_CUT_DEMO: 'none' }
    let server = await serve(environment)
    onTestFinished(() => server.stop())
    const { page, context } = await visit('/')
    await page.goto(`http://localhost:${port}/tapes`)
    await page.getByRole('heading', { name: 'Tapes' }).waitFor()
    const slow = await context.newCDPSession(page)
    await slow.send('Network.enable')
    await slow.send('Network.emulateNetworkConditions', { offline: false, latency: 0, downloadThroughput: 1e7, uploadThroughput: 800_000 })
    const [name, file] = ['restart.wav', makeWav(40, 48_000)]
    await page.getByTestId('file-input').setInputFiles({ name, mimeType: 'audio/wav', buffer: file })
    await until(
      () => sentAs(name),
      (tape) => (tape?.frames ?? 0) > 2 * 48_000,
      30_000,
    )
    server.child.kill('SIGKILL')
    await page.getByText('can’t reach the server; it resumes by itself').waitFor()
    server = await serve(environment)
    await page.getByText(`“${name}” is ready.`).waitFor({ timeout: 40_000 })
    expect((await sentAs(name))!.sha256).toBe(sha(file))
  })
})

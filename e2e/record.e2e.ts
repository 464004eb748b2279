import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium, type BrowserContext, type Page } from 'playwright-core'
import { afterAll, afterEach, beforeAll, describe, expect, it, onTestFinished } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { TapeInfo } from '../contract/tapes'
import { blocksOf, type Block, type StoryDocument } from '../core/page/story'
import { recordingBytes, recordingHeader } from '../core/sound/recording'
import { marksOf, tapeHead, type TapeDocument } from '../core/tape/tape'
import { freePort } from '../scripts/cluster'
import { serve } from '../scripts/serving'
import { CHROMIUM } from './browser'
import { here } from './here'
import { api, bodyOf, FERRY, seconds, sheetDrawn, until, watchTapes } from './newsroom'
import { wavOf } from './wav'

const folder = mkdtempSync(join(tmpdir(), 'plain-cut-microphone-'))
const profile = join(folder, 'profile')

const open = () =>
  chromium.launchPersistentContext(profile, {
    ...CHROMIUM,
    args: [
      ...CHROMIUM.args,
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
      `--use-file-for-fake-audio-capture=${join(folder, 'tone.wav')}`,
    ],
    viewport: { width: 1280, height: 800 },
    permissions: ['microphone'],
  })
const length = async (page: Page) => seconds((await page.getByTestId('take-length').textContent())!)
const tapes = watchTapes()
/** A block of the story, as the server has it. */
const record = async (block: string) => ((await api<StoredDocument>(`/documents/${FERRY}`)).body as StoryDocument).records[block] as Block
const named = async (name: string) => (await tapes()).find((tape) => tape.name === name)

let context: BrowserContext
beforeAll(async () => {
  // a tone of 440 Hz at -12 dB of full scale is what the microphone hears
  writeFileSync(
    join(folder, 'tone.wav'),
    wavOf(10, 44_100, (t) => 32_767 * 10 ** (-12 / 20) * Math.sin(2 * Math.PI * 440 * t)),
  )
  leftAlone = leaveAlone()
  context = await open()
})
// a test that was given up leaves none that records
afterEach(() =>
  Promise.all(
    context
      .pages()
      .filter((page) => page.url() !== 'about:blank')
      .map((page) => page.close()),
  ),
)
afterAll(async () => {
  await context.close()
  rmSync(folder, { recursive: true, force: true })
})

const TUS = { 'Tus-Resumable': '1.0.0' }
/** A server is killed in the midst of a take whose browser never comes back. `ended`: that take, within half a minute of the next start. */
async function leaveAlone() {
  const port = await freePort()
  const environment = { PORT: String(port), PLAIN_CUT_DATA: here.data, PLAIN_CUT_DATABASE: here.database, PLAIN_CUT_DEMO: 'none' }
  const first = await serve(environment)
  const begun = await fetch(`http://localhost:${port}/api/uploads`, {
    method: 'POST',
    headers: { ...TUS, 'Upload-Defer-Length': '1', 'Upload-Metadata': `filename ${btoa('Left alone.wav')}` },
  })
  const url = `http://localhost:${port}${begun.headers.get('location')}`
  const sound = recordingBytes([Float32Array.from({ length: 96_000 }, (_, i) => 0.2 * Math.sin(i / 17))])
  const body = new Uint8Array([...recordingHeader(1, 48_000, '', new Date()), ...sound])
  await fetch(url, { method: 'PATCH', headers: { ...TUS, 'Upload-Offset': '0', 'Content-Type': 'application/offset+octet-stream' }, body })
  first.child.kill('SIGKILL')
  const server = await serve(environment)
  const ended = until(
    async () => (await api<TapeInfo[]>('/tapes')).find(({ name }) => name === 'Left alone'),
    (found) => found?.state === 'ready',
    30_000,
  )
  // whoever waits for it hears of it
  ended.catch(() => undefined)
  return { url, server, ended }
}
/** Begun first and looked at last: half a minute goes by meanwhile. */
let leftAlone: ReturnType<typeof leaveAlone>

describe('recording', () => {
  it('shows the level as it is, and is a tape that is read while it runs', async () => {
    const page = await context.newPage()
    await page.goto(`${here.address}/record`)
    await page.getByText('Good level', { exact: true }).waitFor()
    // the meter rises to it and stays
    const level = async () => Number((await page.getByTestId('input-level').textContent())!.replace('−', '-').replace(' dB', ''))
    await until(level, (shown) => Math.abs(shown + 12) < 0.5)
    await page.getByText('Echo cancelling, noise suppression and automatic gain are off').waitFor()
    await page.getByText(/Space left for/).waitFor()
    await page.getByLabel('Name of the take').fill('Fish hall, by hand')
    await page
      .getByRole('main')
      .getByRole('button', { name: /^Record/ })
      .click()
    await until(
      () => length(page),
      (at) => at > 2,
    )
    await page.getByRole('button', { name: 'Mark' }).click()
    await page.getByText('Mark added.').waitFor()
    await page.getByRole('button', { name: 'Pause' }).click()
    const halted = await length(page)
    await page.waitForTimeout(600)
    expect(await length(page)).toBeLessThan(halted + 0.2)
    await page.getByRole('button', { name: 'Resume' }).click()
    await until(
      () => length(page),
      (at) => at > halted + 1,
    )
    // on to the tape, while it goes on
    await page.getByText('Edit while recording').click()
    await sheetDrawn(page)
    await page.getByText(/^Recording \d/).waitFor()
    // with its level, wherever one is
    const small = page.getByTestId('small-input-meter')
    await until(
      async () => Number((await small.getAttribute('data-peak'))!.replace('−', '-')),
      (shown) => Math.abs(shown + 12) < 0.5,
    )
    await page.getByText(/Still arriving: 0:0/).waitFor()
    await page.getByRole('button', { name: 'Stop', exact: true }).click()
    const tape = await until(
      () => named('Fish hall, by hand'),
      (found) => found?.state === 'ready',
      20_000,
    )
    expect(tape!.frames / 48_000).toBeGreaterThan(3)
    expect(tape!.findings.map(({ what }) => what)).not.toContain('unfinished')
    expect(tape!.origin.originator).toBe('Plain Cut')
    const marks = marksOf((await api<StoredDocument>(`/documents/${tape!.id}`)).body as TapeDocument)
    expect(marks).toHaveLength(1)
    expect(marks[0].at / 48_000).toBeGreaterThan(1.5)
    // it is the tone that was there to be heard
    const sound = new Float32Array(
      await (await fetch(`${here.address}/api/tapes/${tape!.id}/sound/sound/0?from=48000&to=96000`)).arrayBuffer(),
    )
    let crossings = 0
    for (let i = 1; i < sound.length; i++) if (sound[i - 1] < 0 && sound[i] >= 0) crossings++
    expect(Math.abs(crossings - 440)).toBeLessThan(12)
  })

  it('reads a line of copy, take after take', async () => {
    const story = (await api<StoredDocument>(`/documents/${FERRY}`)).body as StoryDocument
    const line = blocksOf(story).find((block) => block.kind === 'copy' && block.text)!
    const page = await context.newPage()
    await page.goto(`${here.address}/stories/${FERRY}`)
    await page.locator(`#block-${line.id}`).click({ position: { x: 90, y: 12 } })
    // one key opens the microphone and records, the same key ends the take
    const read = async (key: string) => {
      await page.keyboard.press(key)
      await until(
        () => length(page),
        (at) => at > 1,
      )
      await page.keyboard.press('r')
      await page.getByText('ready', { exact: true }).waitFor()
    }
    await read('r')
    await page.getByTestId('script').locator('[aria-current]').getByText(line.text).waitFor()
    await read('Shift+R')
    const takes = await until(
      async () => (await tapes()).filter(({ name, state }) => name.startsWith('Voice track, ') && state === 'ready'),
      (list) => list.length === 2,
      20_000,
    )
    const [filed] = await Promise.all(
      takes.map(async ({ id }) => tapeHead((await api<StoredDocument>(`/documents/${id}`)).body as TapeDocument)),
    )
    expect(filed.stories).toEqual([FERRY])
    // the newest is the line's voice track, trimmed to where it is heard
    const newest = takes.reduce((a, b) => (a.added > b.added ? a : b))
    // the other one may come to lie there first
    const [onLine, track] = await until(
      async () => {
        const there = await record(line.id)
        return [there, await bodyOf(there.piece!)] as const
      },
      ([, piece]) => piece.spans.every(({ tape }) => tape === newest.id),
      15_000,
    )
    expect([track.story, track.slug]).toEqual([FERRY, onLine.text.split(' ').slice(0, 5).join(' ')])
    // at the level of all speakers: the tone reads some -12.7 LUFS, and the page wants -23
    expect(Math.abs(onLine.gain! + 10.3)).toBeLessThan(1)
    // both are takes of the line, and either can be used
    const shown = page.getByTestId('takes').locator('li')
    await shown.nth(1).getByText('on the page').waitFor()
    await shown.nth(0).getByText('use it').click()
    await until(
      () => record(line.id),
      ({ piece }) => piece !== onLine.piece,
    )
    await page.keyboard.press('Control+z')
    await until(
      () => record(line.id),
      ({ piece }) => piece === onLine.piece,
    )
    // one's own act: it is taken back like any other
    await page.goto(`${here.address}/stories/${FERRY}`)
    await page.getByTestId('story-tapes').waitFor()
    await page.keyboard.press('Control+z')
    await until(
      () => record(line.id),
      ({ piece }) => piece !== onLine.piece,
    )
    await page.keyboard.press('Control+z')
    await until(
      () => record(line.id),
      ({ piece }) => piece === (line as Block).piece,
    )
    // the story lists them with the tapes that it uses
    expect(await page.getByTestId('story-tapes').getByText('Voice track, ').count()).toBe(2)
    await page.getByTestId('story-tapes').getByText('Deckhand, on the quay').waitFor()
  })

  it('loses less than a second to the end of the browser', async () => {
    const page = await context.newPage()
    await page.goto(`${here.address}/record`)
    await page.getByText('ready', { exact: true }).waitFor()
    await page.getByLabel('Name of the take').fill('Cut off')
    await page
      .getByRole('main')
      .getByRole('button', { name: /^Record/ })
      .click()
    await until(
      () => length(page),
      (at) => at > 3,
    )
    const shown = await length(page)
    spawnSync('pkill', ['-KILL', '-f', profile])
    await context.close().catch(() => undefined)
    context = await open()
    const again = await context.newPage()
    await again.goto(`${here.address}/`)
    const tape = await until(
      () => named('Cut off'),
      (found) => found?.state === 'ready',
      30_000,
    )
    expect(tape!.frames / 48_000).toBeGreaterThan(shown - 1)
  })

  it('goes on when the server ends, and nothing of it is lost', async () => {
    const port = await freePort()
    const environment = { PORT: String(port), PLAIN_CUT_DATA: here.data, PLAIN_CUT_DATABASE: here.database, PLAIN_CUT_DEMO: 'none' }
    let server = await serve(environment)
    onTestFinished(() => server.stop())
    const page = await context.newPage()
    await page.goto(`http://localhost:${port}/record`)
    await page.getByText('ready', { exact: true }).waitFor()
    await page.getByLabel('Name of the take').fill('Went on')
    await page
      .getByRole('main')
      .getByRole('button', { name: /^Record/ })
      .click()
    await until(
      () => length(page),
      (at) => at > 1.5,
    )
    server.child.kill('SIGKILL')
    await page.getByText('Can’t reach the server. What is recorded is kept in this browser').waitFor()
    const then = await length(page)
    // a take is over when it is kept: the next one begins while the server is away, with a mark in it
    await page.getByRole('button', { name: 'New take' }).click()
    await until(
      () => length(page),
      (at) => at > 0.5 && at < then,
    )
    await page.getByRole('button', { name: 'Mark' }).click()
    server = await serve(environment)
    const away = page.getByText('Can’t reach the server. What is recorded is kept in this browser')
    await away.waitFor({ state: 'detached', timeout: 20_000 })
    await until(
      () => length(page),
      (at) => at > 1,
    )
    const shown = await length(page)
    await page.getByRole('button', { name: 'Stop' }).click()
    const first = await until(
      () => named('Went on'),
      (found) => found?.state === 'ready',
      30_000,
    )
    expect(first!.frames / 48_000).toBeGreaterThanOrEqual(then - 0.1)
    const second = await until(
      () => named('Went on, take 2'),
      (found) => found?.state === 'ready',
      30_000,
    )
    expect(second!.frames / 48_000).toBeGreaterThanOrEqual(shown - 0.1)
    expect(
      await until(
        async () => marksOf((await api<StoredDocument>(`/documents/${second!.id}`)).body as TapeDocument),
        (marks) => marks.length > 0,
      ),
    ).toHaveLength(1)
  })

  it('stops loudly where nothing more can be kept, and keeps what there is', async () => {
    const page = await context.newPage()
    await page.goto(`${here.address}/record`)
    await page.getByText('ready', { exact: true }).waitFor()
    await page.getByLabel('Name of the take').fill('No more room')
    await page
      .getByRole('main')
      .getByRole('button', { name: /^Record/ })
      .click()
    await until(
      () => length(page),
      (at) => at > 1,
    )
    const session = await context.newCDPSession(page)
    await session.send('Storage.overrideQuotaForOrigin', { origin: here.address, quotaSize: 1 })
    const alert = page.getByRole('alert').filter({ hasText: 'Recording stopped: this browser has no more room' })
    await alert.waitFor({ timeout: 10_000 })
    await page.getByText('recording', { exact: true }).waitFor({ state: 'detached' })
    const shown = await length(page)
    expect(await alert.textContent()).toContain(`The 0:0${shown.toFixed(1)} recorded until then is kept`)
    const tape = await until(
      () => named('No more room'),
      (found) => found?.state === 'ready',
      20_000,
    )
    expect(Math.abs(tape!.frames / 48_000 - shown)).toBeLessThan(0.1)
    // nor does it say that it records where nothing can be kept from the start
    await page
      .getByRole('main')
      .getByRole('button', { name: /take|^Record/ })
      .first()
      .click()
    await alert.filter({ hasText: 'Nothing was recorded' }).waitFor()
    expect(await length(page)).toBe(0)
  })

  it('opens no microphone for whoever left while it was asked for', async () => {
    const page = await context.newPage()
    await page.addInitScript(() => {
      const devices = navigator.mediaDevices
      const ask = devices.getUserMedia.bind(devices)
      const here = globalThis as unknown as { allow: () => void; given: MediaStream[] }
      here.given = []
      devices.getUserMedia = async (wanted) => {
        await new Promise<void>((allow) => (here.allow = allow))
        const stream = await ask(wanted)
        here.given.push(stream)
        return stream
      }
    })
    await page.goto(`${here.address}/record`)
    await page.getByText('opening the microphone …').waitFor()
    await page.getByRole('link', { name: 'Plain Cut, to the Desk' }).click()
    await page.getByRole('heading', { name: 'Stories' }).first().waitFor()
    await page.evaluate(() => (globalThis as unknown as { allow: () => void }).allow())
    await page.waitForFunction(() => (globalThis as unknown as { given: MediaStream[] }).given.length === 1)
    await page.waitForTimeout(300)
    expect(
      await page.evaluate(() => (globalThis as unknown as { given: MediaStream[] }).given[0].getTracks().map((track) => track.readyState)),
    ).toEqual(['ended'])
  })

  it('ends a take whose browser is gone within half a minute of the next start', { timeout: 60_000 }, async () => {
    const { url, server, ended } = await leftAlone
    onTestFinished(() => server.stop())
    expect((await ended)!.frames).toBe(96_000)
    // whoever comes back with more is told, and can send all of it anew
    expect((await fetch(url, { method: 'HEAD', headers: TUS })).status).toBeGreaterThanOrEqual(404)
  })
})

import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium, type BrowserContext, type Page } from 'playwright-core'
import { afterAll, afterEach, beforeAll, describe, expect, it, onTestFinished } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { StoryDocument } from '../core/page/story'
import { marksOf, tapeHead, type TapeDocument } from '../core/tape/tape'
import { freePort } from '../scripts/cluster'
import { serve } from '../scripts/serving'
import { CHROMIUM } from './browser'
import { here } from './here'
import { api, FERRY, seconds, sheetDrawn, until, watchTapes } from './newsroom'
import { wavOf } from './wav'

const folder = mkdtempSync(join(tmpdir(), 'plain-cut-microphone-'))
const profile = join(folder, 'profile')

const open = () =>
  chromium.launchPersistentContext(profile, {
    ...CHROMIUM,
    args: [...CHROMIUM.args, '--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream', `--use-file-for-fake-audio-capture=${join(folder, 'tone.wav')}`],
    viewport: { width: 1280, height: 800 },
    permissions: ['microphone'],
  })
const length = async (page: Page) => seconds((await page.getByTestId('take-length').textContent())!)
const tapes = watchTapes()
const named = async (name: string) => (await tapes()).find((tape) => tape.name === name)

let context: BrowserContext
beforeAll(async () => {
  // a tone of 440 Hz at -12 dB of full scale is what the microphone hears
  writeFileSync(join(folder, 'tone.wav'), wavOf(10, 44_100, (t) => 32_767 * 10 ** (-12 / 20) * Math.sin(2 * Math.PI * 440 * t)))
  context = await open()
})
// a test that was given up leaves none that records
afterEach(() => Promise.all(context.pages().filter((page) => page.url() !== 'about:blank').map((page) => page.close())))
afterAll(async () => {
  await context.close()
  rmSync(folder, { recursive: true, force: true })
})

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
    await page.getByRole('button', { name: /^Record/ }).click()
    await until(() => length(page), (at) => at > 2)
    await page.getByRole('button', { name: 'Mark' }).click()
    await page.getByText('Mark added.').waitFor()
    await page.getByRole('button', { name: 'Pause' }).click()
    const halted = await length(page)
    await page.waitForTimeout(600)
    expect(await length(page)).toBeLessThan(halted + 0.2)
    await page.getByRole('button', { name: 'Resume' }).click()
    await until(() => length(page), (at) => at > halted + 1)
    // on to the tape, while it goes on
    await page.getByText('Edit while recording').click()
    await sheetDrawn(page)
    await page.getByText(/^Recording 0:0/).waitFor()
    await page.getByText(/Still arriving: 0:0/).waitFor()
    await page.getByRole('button', { name: 'Stop', exact: true }).click()
    const tape = await until(() => named('Fish hall, by hand'), (found) => found?.state === 'ready', 20_000)
    expect(tape!.frames / 48_000).toBeGreaterThan(3)
    expect(tape!.findings.map(({ what }) => what)).not.toContain('unfinished')
    expect(tape!.origin.originator).toBe('Plain Cut')
    const marks = marksOf((await api<StoredDocument>(`/documents/${tape!.id}`)).body as TapeDocument)
    expect(marks).toHaveLength(1)
    expect(marks[0].at / 48_000).toBeGreaterThan(1.5)
    // it is the tone that was there to be heard
    const sound = new Float32Array(await (await fetch(`${here.address}/api/tapes/${tape!.id}/sound/sound/0?from=48000&to=96000`)).arrayBuffer())
    let crossings = 0
    for (let i = 1; i < sound.length; i++) if (sound[i - 1] < 0 && sound[i] >= 0) crossings++
    expect(Math.abs(crossings - 440)).toBeLessThan(12)
  })

  it('reads a line of copy, take after take', async () => {
    const story = (await api<StoredDocument>(`/documents/${FERRY}`)).body as StoryDocument
    const line = Object.values(story.records).find((record) => record.kind === 'copy' && record.text)!
    const page = await context.newPage()
    await page.goto(`${here.address}/record?story=${FERRY}&line=${line.id}`)
    await page.getByTestId('copy-to-read').getByText('text' in line ? line.text : '').waitFor()
    await page.getByText('ready', { exact: true }).waitFor()
    await page.getByRole('button', { name: /^Record/ }).click()
    await until(() => length(page), (at) => at > 1)
    await page.getByRole('button', { name: 'New take' }).click()
    await until(() => length(page), (at) => at > 0.3 && at < 1)
    await until(() => length(page), (at) => at > 1)
    await page.getByRole('button', { name: 'Stop', exact: true }).click()
    const takes = await until(async () => (await tapes()).filter(({ name, state }) => name.startsWith('Voice track, ') && state === 'ready'), (list) => list.length === 2, 20_000)
    expect(takes.filter(({ name }) => name.endsWith(', take 2'))).toHaveLength(1)
    const [filed] = await Promise.all(takes.map(async ({ id }) => tapeHead((await api<StoredDocument>(`/documents/${id}`)).body as TapeDocument)))
    expect(filed.stories).toEqual([FERRY])
    // the story lists them with the tapes that it uses
    await page.goto(`${here.address}/stories/${FERRY}`)
    await page.getByTestId('story-tapes').getByText('take 2').waitFor()
    await page.getByTestId('story-tapes').getByText('Deckhand, on the quay').waitFor()
  })

  it('loses less than a second to the end of the browser', async () => {
    const page = await context.newPage()
    await page.goto(`${here.address}/record`)
    await page.getByText('ready', { exact: true }).waitFor()
    await page.getByLabel('Name of the take').fill('Cut off')
    await page.getByRole('button', { name: /^Record/ }).click()
    await until(() => length(page), (at) => at > 3)
    const shown = await length(page)
    spawnSync('pkill', ['-KILL', '-f', profile])
    await context.close().catch(() => undefined)
    context = await open()
    const again = await context.newPage()
    await again.goto(`${here.address}/`)
    const tape = await until(() => named('Cut off'), (found) => found?.state === 'ready', 30_000)
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
    await page.getByRole('button', { name: /^Record/ }).click()
    await until(() => length(page), (at) => at > 1.5)
    server.child.kill('SIGKILL')
    await page.getByText('Can’t reach the server. The take is kept in this browser').waitFor()
    const then = await length(page)
    server = await serve(environment)
    await page.getByText('Can’t reach the server. The take is kept in this browser').waitFor({ state: 'detached', timeout: 20_000 })
    await until(() => length(page), (at) => at > then + 1)
    const shown = await length(page)
    await page.getByRole('button', { name: 'Stop' }).click()
    const tape = await until(() => named('Went on'), (found) => found?.state === 'ready', 30_000)
    expect(tape!.frames / 48_000).toBeGreaterThanOrEqual(shown - 0.1)
  })
})

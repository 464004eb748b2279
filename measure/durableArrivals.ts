import { chromium, type BrowserContext, type Page } from 'playwright-core'
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TapeInfo } from '../contract/tapes'
import { random } from '../core/sound/random'
import { parseTime, RATE } from '../core/time'
import { CHROMIUM } from '../e2e/browser'
import { wavOf } from '../e2e/wav'
import type { Serving } from '../scripts/serving'
import { report } from './figure'
import type { Newsroom } from './newsroom'

/** So many uploads and recordings are cut off, on either side. */
const KILLS = 10
const UPLOAD_SECONDS = 60
/** Bytes a second that get through to the server. */
const SLOW = 1_500_000
const next = random(404)
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms))

/** Uploads and recordings, each ended at a moment drawn at random as the power ends it: the browser in ten, the server in ten. */
export async function durableArrivals(newsroom: Newsroom, running: Serving): Promise<Serving> {
  let server = running
  const { address } = newsroom
  const folder = mkdtempSync(join(tmpdir(), 'plain-cut-arrivals-'))
  const profile = join(folder, 'profile')
  writeFileSync(
    join(folder, 'tone.wav'),
    wavOf(10, 44_100, (t) => 8000 * Math.sin(2 * Math.PI * 440 * t)),
  )
  const launch = (): Promise<BrowserContext> =>
    chromium.launchPersistentContext(profile, {
      ...CHROMIUM,
      args: [
        ...CHROMIUM.args,
        '--use-fake-device-for-media-stream',
        '--use-fake-ui-for-media-stream',
        `--use-file-for-fake-audio-capture=${join(folder, 'tone.wav')}`,
      ],
      permissions: ['microphone'],
    })
  let context = await launch()
  const visit = async (path: string): Promise<Page> => {
    const page = await context.newPage()
    await page.goto(address + path)
    return page
  }
  const tapes = async (): Promise<TapeInfo[]> => (await (await fetch(`${address}/api/tapes`)).json()) as TapeInfo[]
  const until = async <T>(look: () => Promise<T>, holds: (value: T) => boolean, limit = 90_000): Promise<T> => {
    for (const end = Date.now() + limit; ; await wait(150)) {
      const value = await look().catch(() => null)
      if (value !== null && holds(value)) return value
      if (Date.now() > end) throw new Error(`it did not come to that: ${JSON.stringify(value)?.slice(0, 300)}`)
    }
  }
  const killBrowser = async () => {
    spawnSync('pkill', ['-KILL', '-f', profile])
    await context.close().catch(() => undefined)
    context = await launch()
  }
  const killServer = async () => {
    server.child.kill('SIGKILL')
    await wait(200 + 600 * next())
    server = await newsroom.start()
  }

  let lostBytes = 0
  for (let i = 0; i < 2 * KILLS; i++) {
    const file = wavOf(UPLOAD_SECONDS, RATE, (t) => 6000 * Math.sin(2 * Math.PI * (200 + i) * t) * Math.sin(7 * t))
    const name = `upload ${i}.wav`
    let page = await visit('/tapes')
    await page.getByRole('heading', { name: 'Tapes' }).waitFor()
    const line = await context.newCDPSession(page)
    await line.send('Network.enable')
    await line.send('Network.emulateNetworkConditions', { offline: false, latency: 0, downloadThroughput: 1e8, uploadThroughput: SLOW })
    await page.getByTestId('file-input').setInputFiles({ name, mimeType: 'audio/wav', buffer: file })
    // the file is the browser's from when the queue shows it
    await page.getByRole('region', { name: 'Importing' }).getByText(name).waitFor()
    await wait(300 + next() * 3500)
    if (i % 2) await killServer()
    else {
      await killBrowser()
      page = await visit('/')
    }
    const tape = await until(
      async () => (await tapes()).find(({ fileName }) => fileName === name),
      (found) => found?.state === 'ready',
    )
    if (tape!.sha256 !== createHash('sha256').update(file).digest('hex')) lostBytes += Math.max(1, file.length - tape!.bytes)
    await page.close()
  }
  report({ measure: 'durable', name: 'durable.uploads.lost', value: lostBytes, unit: `bytes of ${2 * KILLS} uploads cut off once each` })

  let missing = 0
  for (let i = 0; i < 2 * KILLS; i++) {
    const name = `take ${i}`
    let page = await visit('/record')
    const length = async () => parseTime((await page.getByTestId('take-length').textContent())!)! / RATE
    await page.getByText('ready', { exact: true }).waitFor()
    await page.getByLabel('Name of the take').fill(name)
    await page.getByRole('button', { name: /^Record Shift/ }).click()
    await until(length, (at) => at > 0.5 + 3 * next())
    const shown = await length()
    if (i % 2) {
      await killServer()
      await until(length, (at) => at > shown + 1)
      await page.getByRole('button', { name: 'Stop', exact: true }).click()
    } else {
      await killBrowser()
      page = await visit('/')
    }
    const tape = await until(
      async () => (await tapes()).find((one) => one.name === name),
      (found) => found?.state === 'ready',
    )
    missing = Math.max(missing, shown - tape!.frames / RATE)
    await page.close()
  }
  report({
    measure: 'durable',
    name: 'durable.recordings.missing',
    value: missing,
    unit: `s, the most of ${2 * KILLS} recordings cut off once each`,
  })

  // nothing half made is left: every row is whole, every file has a row
  await wait(2000)
  const rows = (await (await fetch(`${address}/api/tapes`)).json()) as TapeInfo[]
  const ids = new Set(rows.map(({ id }) => id))
  const media = join(newsroom.data, 'media')
  const orphans = [
    ...readdirSync(join(media, 'tapes')).filter((id) => !ids.has(id)),
    ...readdirSync(join(media, 'uploads')),
    ...readdirSync(join(media, 'making')),
  ]
  report({ measure: 'durable', name: 'durable.halfMade', value: rows.filter(({ state }) => state !== 'ready').length, unit: 'rows' })
  report({ measure: 'durable', name: 'durable.orphans', value: orphans.length, unit: 'files and folders without a row' })
  await context.close()
  rmSync(folder, { recursive: true, force: true })
  return server
}

import { rmSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { expect, it, onTestFinished } from 'vitest'
import { freePort, startCluster } from '../scripts/cluster'
import { ownFolder } from '../scripts/leftOvers'
import { serve } from '../scripts/serving'
import type { Captured, ClipSound } from '../web/live/clipSound'
import { launch } from './browser'
import { until } from './newsroom'

type Here = { plainCutBoard: ClipSound; finish: () => Promise<Captured> }

const ready = (page: Page) =>
  page.waitForFunction(() => document.querySelectorAll('[data-state=ready]').length === 6, null, { timeout: 30_000 })

/** The key of the shortest clip: it is listened to for as long as it lasts. */
async function shortest(page: Page): Promise<string> {
  const cells = await page
    .locator('[data-testid^=clip-]')
    .evaluateAll((all) => all.map((cell) => [cell.getAttribute('data-testid')!, /:(\d\d)/.exec(cell.textContent!)![1]] as const))
  return cells
    .sort((a, b) => Number(a[1]) - Number(b[1]))[0][0]
    .replace(/clip-(Digit|Key)/, '')
    .toLowerCase()
}

/** What goes on air from a key until its clip ends: how many frames of sound, and a hash of them. */
async function heard(page: Page, key: string): Promise<{ frames: number; hash: string }> {
  await page.evaluate(() => {
    const here = globalThis as unknown as Here
    here.finish = here.plainCutBoard.capture()
  })
  await page.keyboard.press(key)
  await page.waitForSelector('[data-state=playing]')
  await ready(page)
  return page.evaluate(async () => {
    const { blocks } = await (globalThis as unknown as Here).finish()
    const samples = Float32Array.from(blocks.flatMap((block) => [...block]))
    const sounding = samples.slice(
      samples.findIndex((sample) => sample !== 0),
      samples.findLastIndex((sample) => sample !== 0) + 1,
    )
    const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', sounding))
    return { frames: sounding.length, hash: [...digest].map((byte) => byte.toString(16)).join() }
  })
}

it(
  'a board that was opened once opens and plays without a server, and nothing that is changed there is lost',
  { timeout: 120_000 },
  async () => {
    const data = ownFolder('e2e')
    const cluster = await startCluster(data)
    const port = await freePort()
    const settings = { PORT: String(port), PLAIN_CUT_DATA: data, PLAIN_CUT_DATABASE: cluster.url, PLAIN_CUT_RECOGNISE: 'asked' }
    let server = await serve(settings)
    const browser = await launch()
    onTestFinished(async () => {
      await browser.close()
      await server.stop()
      await cluster.stop()
      rmSync(data, { recursive: true, force: true })
    })
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.goto(`http://localhost:${port}/live`)
    await ready(page)
    const key = await shortest(page)
    const before = await heard(page, key)
    expect(before.frames).toBeGreaterThan(48_000)
    await page.getByText('Kept in this browser').waitFor()

    await server.stop()
    await page.goto(`http://localhost:${port}/live`)
    await ready(page)
    expect(await heard(page, key)).toEqual(before)
    // a board is named anew, as one does: it waits here until there is a server
    const name = page.getByLabel('Name of the board')
    await name.fill('Tonight at six')
    await name.press('Enter')
    await page.reload()
    await ready(page)
    expect(await name.inputValue()).toBe('Tonight at six')

    server = await serve(settings)
    const boards = () => fetch(`http://localhost:${port}/api/boards`).then((answer) => answer.json() as Promise<{ name: string }[]>)
    await until(boards, (list) => list.some((one) => one.name === 'Tonight at six'), 20_000)
  },
)

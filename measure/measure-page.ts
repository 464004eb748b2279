import type { Page } from 'playwright-core'
import { toFrames } from '../core/time'
import { launch } from '../e2e/browser'
import { closeServices } from '../server/services'
import type { Player } from '../web/sound/player'
import { median, percentile, report } from './figure'
import { makeStory } from './longStory'
import { makeTape, openNewsroom, servicesOf } from './newsroom'
import { words } from './speechlike'

/** A page of an hour, of 200 blocks and 12 lanes, and one of four minutes, in the built application in Chromium. */

const BLOCKS = 200
const LANES = 12
const HOUR = toFrames(60 * 60)
const newsroom = await openNewsroom()
const tape = await makeTape(newsroom, HOUR + toFrames(60), words(HOUR, 9000))
const services = await servicesOf(newsroom)
const figure = (name: string, value: number, unit = 'ms') => report({ measure: 'page', name: `page.${name}`, value, unit })

const [long, short] = [await makeStory(services, tape, BLOCKS, HOUR, LANES), await makeStory(services, tape, 16, toFrames(240), 2)]
await closeServices(services)
const server = await newsroom.start()
const browser = await launch()

/** Opens a story in a browser that has looked at the Desk before; its rows and lanes are there. */
async function open(story: string, rows: number): Promise<{ page: Page; took: number }> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  await page.goto(newsroom.address)
  await page.getByRole('heading', { name: 'Stories' }).first().waitFor()
  await page.waitForTimeout(500)
  await page.addInitScript('globalThis.__name = (named) => named') // what the TypeScript loader leaves in functions
  await page.goto(`${newsroom.address}/stories/${story}`)
  await page.waitForFunction(
    (count) => document.querySelectorAll('[data-block]').length === count && document.querySelector('[data-testid=bar] path'),
    rows,
    { polling: 'raf' },
  )
  const took = await page.evaluate(() => performance.now())
  return { page, took }
}

const opens: number[] = []
for (let i = 0; i < 5; i++) {
  const { page, took } = await open(long, BLOCKS)
  opens.push(took)
  await page.context().close()
}
figure('open', median(opens), `ms, median of 5, from the address to ${BLOCKS} rows with their waves`)

const { page } = await open(long, BLOCKS)
await page.waitForTimeout(5000)
const gaps = await page.evaluate(
  () =>
    new Promise<number[]>((done) => {
      const view = document.querySelector<HTMLElement>('[data-testid=page]')!
      const times: number[] = []
      requestAnimationFrame(function frame(time) {
        times.push(time)
        if (times.length > 300) return done(times.slice(1).map((one, i) => one - times[i]))
        view.scrollTop += 60
        requestAnimationFrame(frame)
      })
    }),
)
figure('scroll.p95', percentile(gaps, 0.95), 'ms, between frames while the page is scrolled')

const zoomGaps = await page.evaluate(
  () =>
    new Promise<number[]>((done) => {
      const times: number[] = []
      requestAnimationFrame(function frame(time) {
        times.push(time)
        if (times.length > 120) return done(times.slice(1).map((one, i) => one - times[i]))
        // four steps nearer, four steps back
        const key = times.length % 8 < 4 ? '+' : '-'
        document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
        requestAnimationFrame(frame)
      })
    }),
)
figure('zoom.p95', percentile(zoomGaps, 0.95), 'ms, between frames while the page is zoomed, a step a frame')
await page.keyboard.press('Shift+Z')
await page.waitForTimeout(3000)

// an act on a block in the middle: from the key to what it changed
const middle = page.locator('[data-block]').nth(100)
await middle.scrollIntoViewIfNeeded()
await middle.getByTestId('block-length').waitFor()
await middle.click({ position: { x: 100, y: 10 } })
await page.waitForTimeout(500)
const acts = await page.evaluate(async () => {
  const times: number[] = []
  const chosen = () => document.querySelector('[data-block][aria-current]')!.previousElementSibling
  for (let i = 0; i < 20; i++) {
    await new Promise((done) => setTimeout(done, 400))
    const before = chosen()
    const start = performance.now()
    const key = i % 2 ? 'ArrowDown' : 'ArrowUp'
    document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key, code: key, altKey: true, bubbles: true, cancelable: true }))
    while (chosen() === before && performance.now() - start < 5000) await new Promise((done) => requestAnimationFrame(done))
    // the frame that shows it
    await new Promise((done) => requestAnimationFrame(done))
    times.push(performance.now() - start)
  }
  return times
})
figure('act.p95', percentile(acts, 0.95), 'ms, from the key that moves a block to the frame after it is moved')

await page.keyboard.press('Space') // the first play of all sets the output up
await page.waitForTimeout(800)
await page.keyboard.press('Space')
const plays = await page.evaluate(async () => {
  const player = (globalThis as unknown as { plainCutPlayer: Player }).plainCutPlayer
  const press = (key: string, code: string) =>
    document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key, code, bubbles: true, cancelable: true }))
  const out: number[] = []
  for (let i = 0; i < 20; i++) {
    // somewhere that has not been played or fetched
    for (let k = 0; k < 2 + (i % 3); k++) press('ArrowDown', 'ArrowDown')
    await new Promise((done) => setTimeout(done, 150))
    const began = new Promise<number>((done) => player.onBegan(done))
    const start = performance.timeOrigin + performance.now()
    document.activeElement!.dispatchEvent(
      new KeyboardEvent('keydown', { key: ' ', code: 'Space', shiftKey: true, bubbles: true, cancelable: true }),
    )
    out.push((await began) - start)
    await new Promise((done) => setTimeout(done, 150))
    press(' ', 'Space')
    await new Promise((done) => setTimeout(done, 100))
  }
  return out
})
figure('play', percentile(plays, 0.95), 'ms, p95, from the key to the first frame at the output')
await page.context().close()

const four = await open(short, 16)
await four.page.getByTestId('mix').getByText('LUFS').waitFor({ timeout: 60_000 })
const foot: number[] = []
for (let i = 0; i < 6; i++) {
  await four.page.waitForTimeout(500)
  await four.page
    .locator('[data-block]')
    .nth(0)
    .click({ position: { x: 100, y: 10 } })
  foot.push(
    await four.page.evaluate(
      async (key) => {
        const start = performance.now()
        const says = () => document.querySelector('[data-testid=mix]')!.textContent!
        document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { ...key, ctrlKey: true, bubbles: true, cancelable: true }))
        while (!says().includes('measuring') && performance.now() - start < 1000) await new Promise((done) => requestAnimationFrame(done))
        while (says().includes('measuring')) await new Promise((done) => requestAnimationFrame(done))
        return (performance.now() - start) / 1000
      },
      i % 2 ? { key: 'z', code: 'KeyZ' } : { key: 'e', code: 'KeyE' },
    ),
  )
}
figure('loudness', Math.max(...foot), 's, the longest of 6, until the foot is right after an act on all of four minutes')

await browser.close()
await server.stop()
await newsroom.close()

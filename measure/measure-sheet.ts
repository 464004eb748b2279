import type { Page } from 'playwright-core'
import { launch } from '../e2e/browser'
import { normal, plainJoin, type Span } from '../core/edits/editList'
import type { Actuality } from '../core/edits/actuality'
import { RATE, toFrames } from '../core/time'
import type { Player } from '../web/sound/player'
import { median, percentile, report } from './figure'
import { makeTape, openNewsroom } from './newsroom'
import { words } from './speechlike'

/** The Sheet with a two-hour tape of 20,000 words, in the built application in Chromium. */

const LENGTH = toFrames(2 * 60 * 60)
const newsroom = await openNewsroom()
const said = words(LENGTH, 20_000)
const tape = await makeTape(newsroom, LENGTH, said)
const server = await newsroom.start()
const { address } = newsroom
const browser = await launch()

const figure = (name: string, value: number, unit = 'ms') => report({ measure: 'sheet', name: `sheet.${name}`, value, unit })

/** Opens a path in a browser that has never been here, or in one that has looked at the Desk before. */
async function fresh(path: string, cold = false): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  if (!cold) {
    await page.goto(address)
    await page.getByRole('heading', { name: 'Stories' }).first().waitFor()
    await page.waitForTimeout(500)
  }
  await page.addInitScript('globalThis.__name = (named) => named') // what the TypeScript loader leaves in functions
  // when the first complete line with words is painted, from the start of navigation
  await page.addInitScript(() => {
    const watch = new MutationObserver(() => {
      if (document.querySelector('canvas[data-drawn=words]') && !(globalThis as { opened?: number }).opened)
        (globalThis as { opened?: number }).opened = performance.now()
    })
    document.addEventListener('DOMContentLoaded', () =>
      watch.observe(document.body, { subtree: true, attributes: true, attributeFilter: ['data-drawn'], childList: true }),
    )
  })
  await page.goto(address + path)
  await page.waitForFunction(() => (globalThis as { opened?: number }).opened)
  return page
}

// opening: nothing of the tape fetched before, the application's own files in the browser's cache; and without even those
for (const [name, cold] of [
  ['open', false],
  ['open.firstEver', true],
] as const) {
  const opens: number[] = []
  for (let i = 0; i < 7; i++) {
    const page = await fresh(`/tapes/${tape}`, cold)
    opens.push(await page.evaluate(() => (globalThis as { opened?: number }).opened!))
    await page.context().close()
  }
  figure(name, median(opens))
}

/** Times between animation frames, by their own timestamps, and how often the Sheet was painted meanwhile. */
const watchFrames = (page: Page) =>
  page.evaluate(() => {
    const times: number[] = []
    const canvas = document.querySelector<HTMLCanvasElement>('canvas[data-painted]')!
    const state = { times, from: Number(canvas.dataset.painted), on: true }
    Object.assign(globalThis, { watched: state })
    requestAnimationFrame(function frame(time) {
      times.push(time)
      if (state.on) requestAnimationFrame(frame)
    })
  })
const framesSeen = (page: Page) =>
  page.evaluate(() => {
    const state = (globalThis as unknown as { watched: { times: number[]; from: number; on: boolean } }).watched
    state.on = false
    const painted = Number(document.querySelector<HTMLCanvasElement>('canvas[data-painted]')!.dataset.painted) - state.from
    return { gaps: state.times.slice(1).map((time, i) => time - state.times[i]), painted }
  })

{
  const page = await fresh(`/tapes/${tape}`)
  await page.waitForTimeout(1500)
  await page.mouse.move(600, 400)
  await watchFrames(page)
  const end = Date.now() + 6000
  for (let i = 0; Date.now() < end; i++) {
    await page.mouse.wheel(0, Math.floor(i / 120) % 2 ? -120 : 120)
    await page.waitForTimeout(12)
  }
  const scroll = await framesSeen(page)
  figure('scroll.p95', percentile(scroll.gaps, 0.95))
  figure('scroll.painted', scroll.painted / scroll.gaps.length, 'paints a frame')

  await page.waitForTimeout(500)
  await watchFrames(page)
  await page.evaluate(
    () =>
      new Promise<void>((done) => {
        const target = document.querySelector('canvas[data-painted]')!.closest('[role=region]')!
        let count = 0
        requestAnimationFrame(function frame() {
          // in and out again, over the whole range from a second to two minutes a line
          target.dispatchEvent(
            new WheelEvent('wheel', {
              deltaY: Math.floor(count / 90) % 2 ? 24 : -24,
              ctrlKey: true,
              clientX: 600,
              clientY: 400,
              bubbles: true,
              cancelable: true,
            }),
          )
          if (++count < 540) requestAnimationFrame(frame)
          else done()
        })
      }),
  )
  const zoom = await framesSeen(page)
  figure('zoom.p95', percentile(zoom.gaps, 0.95))
  figure('zoom.painted', zoom.painted / zoom.gaps.length, 'paints a frame')
  await page.context().close()
}

// a step on an actuality of 1,000 spans
{
  const spans: Span[] = []
  for (let i = 0; i < 1000; i++)
    spans.push({ tape, from: i * 3 * RATE, to: i * 3 * RATE + RATE, sound: 'tape', ...(i ? { join: plainJoin() } : {}) })
  const piece: Actuality = {
    kind: 'actuality',
    slug: 'A thousand spans',
    speaker: '',
    role: '',
    story: null,
    spans: normal(spans),
    head: 0,
    tail: 0,
  }
  const id = crypto.randomUUID()
  await fetch(`${address}/api/documents/${id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(piece),
  })
  const page = await fresh(`/pieces/${id}`)
  await page.waitForTimeout(2000)
  const steps = await page.evaluate(async () => {
    const canvas = document.querySelector<HTMLCanvasElement>('canvas[data-painted]')!
    const times: number[] = []
    for (let i = 0; i < 60; i++) {
      await new Promise((done) => setTimeout(done, 250))
      const painted = new Promise<number>((done) => {
        const watch = new MutationObserver(() => {
          watch.disconnect()
          done(performance.now())
        })
        watch.observe(canvas, { attributes: true, attributeFilter: ['data-painted'] })
      })
      const start = performance.now()
      window.dispatchEvent(
        new KeyboardEvent('keydown', { key: i % 2 ? '5' : '6', code: i % 2 ? 'Digit5' : 'Digit6', bubbles: true, cancelable: true }),
      )
      times.push((await painted) - start)
    }
    return times
  })
  figure('step.p95', percentile(steps, 0.95))
  await page.context().close()
}

// from the key to the first frame at the output
{
  const page = await fresh(`/tapes/${tape}`)
  await page.waitForTimeout(1500)
  await page.keyboard.press('Space') // the first play of all sets the output up
  await page.waitForTimeout(800)
  await page.keyboard.press('Space')
  const times = await page.evaluate(async () => {
    const player = (globalThis as unknown as { plainCutPlayer: Player }).plainCutPlayer
    const press = () => window.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', code: 'Space', bubbles: true, cancelable: true }))
    const overview = document.querySelector('canvas[data-painted]')!.closest('main')!.querySelector<HTMLElement>('.touch-none')!
    const box = overview.getBoundingClientRect()
    const out: number[] = []
    for (let i = 0; i < 50; i++) {
      // somewhere that has not been played or fetched, and the key in the same moment
      const clientY = box.top + 8 + ((i * 0.618034) % 1) * (box.height - 16)
      overview.setPointerCapture = () => undefined
      overview.dispatchEvent(new PointerEvent('pointerdown', { clientX: box.left + 10, clientY, bubbles: true, pointerId: 1 }))
      const began = new Promise<number>((done) => player.onBegan(done))
      const start = performance.timeOrigin + performance.now()
      press()
      out.push((await began) - start)
      await new Promise((done) => setTimeout(done, 150))
      press()
      await new Promise((done) => setTimeout(done, 100))
    }
    return out
  })
  figure('play', percentile(times, 0.95))
  figure('play.median', median(times))
  await page.context().close()
}

await browser.close()
await server.stop()
await newsroom.close()

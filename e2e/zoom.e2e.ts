import { beforeAll, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import { generateNKeysBetween } from 'fractional-indexing'
import { newStory, type Block } from '../core/page/story'
import { api, FERRY, press, until, useBrowser, visit } from './newsroom'

useBrowser()

let page: Page
const heights = () =>
  page.getByTestId('page').evaluate((view) => ({
    all: view.scrollHeight,
    view: view.clientHeight,
    rows: [...view.querySelectorAll<HTMLElement>('section')].map(({ offsetHeight }) => offsetHeight),
    top: view.scrollTop,
  }))

/** What is looked at, once it has stayed the same for a while. */
async function resting<T>(look: () => Promise<T>): Promise<T> {
  for (let before = await look(); ;) {
    await new Promise((done) => setTimeout(done, 700))
    const now = await look()
    if (JSON.stringify(now) === JSON.stringify(before)) return now
    before = now
  }
}

beforeAll(async () => {
  ;({ page } = await visit(`/stories/${FERRY}`))
  await page.getByText('tie her up.').waitFor()
})

it('shows all of the page, or one second of it, and goes back', async () => {
  // how loud each block is, and which joins are heard, is told a moment later, and makes some rows taller
  await page.getByTestId('block-level').nth(3).waitFor()
  const usual = await resting(heights)
  expect(usual.all).toBeGreaterThan(usual.view)
  await press(page, 'w')
  await until(heights, ({ all, view }) => all <= view)
  // each wave is as tall as its row: none is cut off
  const bars = () =>
    page.getByTestId('page').evaluate((view) =>
      [...view.querySelectorAll('section')].flatMap((row) => {
        const wave = row.querySelector('[data-testid=bar]')
        return wave ? Math.round(wave.getBoundingClientRect().bottom - row.getBoundingClientRect().bottom) : []
      }),
    )
  await until(bars, (ends) => ends.length > 3 && ends.every((end) => Math.abs(end) <= 2))
  await press(page, '+', 12)
  // the actuality of 15 s is 15 views tall
  const near = await until(heights, ({ rows, view }) => Math.max(...rows) > 14 * view)
  expect(near.top).toBeGreaterThan(0)
  // what the row across the top says stays in view
  const said = () =>
    page.getByTestId('page').evaluate((view) => {
      const cells = [...view.querySelectorAll('[data-across] .stay')]
      return cells.map((cell) => Math.round(cell.getBoundingClientRect().top - view.getBoundingClientRect().top))
    })
  await until(said, (tops) => tops.length === 4 && tops.every((top) => Math.abs(top) <= 1))
  await press(page, 'x')
  await press(page, 'Shift+Z')
  await until(heights, ({ all }) => all === usual.all)
})

it('keeps what is under the pointer where it is when the wheel turns', async () => {
  const row = page.locator('[data-block=actuality]').first()
  const box = (await row.boundingBox())!
  const share = async () => {
    const now = (await row.boundingBox())!
    return (box.y + 60 - now.y) / now.height
  }
  const before = await share()
  await page.mouse.move(box.x + 300, box.y + 60)
  await page.keyboard.down('Control')
  for (let i = 0; i < 3; i++) await page.mouse.wheel(0, -100)
  await page.keyboard.up('Control')
  await until(heights, ({ rows, view }) => Math.max(...rows) > view)
  expect(await share()).toBeCloseTo(before, 1)
  await press(page, 'Shift+Z')
})

it('a page of a hundred lines is as long after it was zoomed as before, wherever one has been', async () => {
  const id = crypto.randomUUID()
  const lines = generateNKeysBetween(null, null, 100).map((order, i): Block => {
    const text = `Line ${i + 1} of the night ferry, that nobody has read.`
    return { id: crypto.randomUUID(), kind: 'copy', order, aside: false, text, reader: '', piece: null }
  })
  await api(`/documents/${id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(newStory({ slug: 'A hundred lines' }, { id: crypto.randomUUID() }, lines)),
  })
  const { page: long } = await visit(`/stories/${id}`)
  await until(
    () => long.locator('[data-block]').count(),
    (count) => count === 100,
  )
  const view = long.getByTestId('page')
  const all = () => view.evaluate(({ scrollHeight }) => scrollHeight)
  /** Down the page, so that each row is made, and goes when the view has gone on. */
  const through = () =>
    view.evaluate(async (element) => {
      for (let top = 0; top < element.scrollHeight; top += 600) {
        element.scrollTop = top
        await new Promise((done) => setTimeout(done, 60))
      }
      element.scrollTop = 0
      await new Promise((done) => setTimeout(done, 4000))
    })
  await through()
  const usual = await all()
  await press(long, '+', 4)
  await through()
  expect(await all()).toBeGreaterThan(3 * usual)
  await press(long, 'Shift+Z')
  await until(all, (now) => Math.abs(now - usual) < 50)
  await press(long, 'w')
  await until(all, (now) => now <= 800)
}, 60_000)

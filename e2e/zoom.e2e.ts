import { beforeAll, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import { FERRY, press, until, useBrowser, visit } from './newsroom'

useBrowser()

let page: Page
const heights = () =>
  page.getByTestId('page').evaluate((view) => ({
    all: view.scrollHeight,
    view: view.clientHeight,
    rows: [...view.querySelectorAll<HTMLElement>('section')].map(({ offsetHeight }) => offsetHeight),
    top: view.scrollTop,
  }))

beforeAll(async () => {
  ;({ page } = await visit(`/stories/${FERRY}`))
  await page.getByText('tie her up.').waitFor()
})

it('shows all of the page, or one second of it, and goes back', async () => {
  // how loud each block is is told a moment later, and makes some rows taller
  await page.getByTestId('block-level').nth(3).waitFor()
  const usual = await heights()
  expect(usual.all).toBeGreaterThan(usual.view)
  await press(page, 'w')
  await until(heights, ({ all, view }) => all <= view)
  // each wave is as tall as its row: none is cut off
  const bars = () =>
    page.getByTestId('page').evaluate((view) =>
      [...view.querySelectorAll('section')].flatMap((row) => {
        const wave = row.querySelector('canvas')
        return wave ? Math.round(wave.getBoundingClientRect().bottom - row.getBoundingClientRect().bottom) : []
      }),
    )
  await until(bars, (ends) => ends.length > 3 && ends.every((end) => Math.abs(end) <= 2))
  await press(page, '+', 12)
  // the actuality of 15 s is 15 views tall
  const near = await until(heights, ({ rows, view }) => Math.max(...rows) > 14 * view)
  expect(near.top).toBeGreaterThan(0)
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

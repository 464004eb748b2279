import { beforeAll, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import { spineOf, type StoryDocument } from '../core/page/story'
import { RATE } from '../core/time'
import { api, boxOf, figure, ownFerry, press, until, useBrowser, visit } from './newsroom'
import { heardDuring } from './listen'

useBrowser()

let page: Page
let id: string
const gap = async () => (spineOf((await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument)[2].gap ?? 0) / RATE

beforeAll(async () => {
  id = await ownFerry()
  ;({ page } = await visit(`/stories/${id}`))
  await page.getByText('tie her up.').waitFor()
})

it('a block is dragged to begin later, or before the one above it has ended', async () => {
  const grip = page.locator('[data-block]').nth(2).getByTestId('gap-grip')
  const drag = async (by: number) => {
    const { x, y, width } = await boxOf(grip)
    await page.mouse.move(x + width / 2, y + 3)
    await page.mouse.down()
    await page.mouse.move(x + width / 2, y + 3 + by, { steps: 5 })
    await page.mouse.up()
  }
  await drag(14)
  await until(gap, (now) => Math.abs(now - 2) < 0.01)
  await drag(-21)
  await until(gap, (now) => Math.abs(now + 1) < 0.01)
  await press(page, 'Control+z', 2)
  await until(gap, (now) => now === 0)
})

it('where one gives way to the other is seen close up, moved by 10 ms and played across', async () => {
  await page
    .locator('[data-block]')
    .nth(2)
    .click({ position: { x: 100, y: 12 } })
  await press(page, 'Alt+Shift+s')
  const seam = page.getByTestId('seam')
  await seam.getByText('Gap between the words').waitFor()
  await press(page, 'Alt+7')
  await until(gap, (now) => Math.abs(now + 0.01) < 0.001)
  await seam.getByText('Overlap of the words').waitFor()
  await seam.getByText('0.01 s').waitFor()
  const [heard] = await heardDuring(page, async () => {
    await press(page, 'a')
    await page.waitForTimeout(3600)
  })
  expect(heard.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)).toBeGreaterThan(0.05)
  // once, not over and over
  await page.getByRole('button', { name: 'Play', exact: true }).waitFor()
  await press(page, 'Control+z')
  await press(page, 'Alt+Shift+s')
})

it('an actuality is split at the pause by the playhead, and two voiced lines are joined with their takes', async () => {
  const story = async () => (await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument
  const length = () => figure(page, 'TRT')
  const before = spineOf(await story())
  const trt = await length()
  const act = page.locator('[data-block=actuality]').first()
  await act.click({ position: { x: 100, y: 12 } })
  await press(page, 'Shift+Space')
  await page.waitForTimeout(3000)
  await press(page, 'Space')
  await press(page, 'Shift+x')
  const parted = spineOf(await until(story, (now) => spineOf(now).length === before.length + 1))
  expect(parted[3]).toMatchObject({ kind: 'actuality', gap: expect.any(Number) })
  // shown in tenths, once the new piece is there
  await until(length, (now) => Math.abs(now - trt) < 0.15)
  await press(page, 'Control+z')
  await until(story, (now) => spineOf(now).length === before.length)

  // the deckhand is set aside: then two lines of copy follow each other, both with a voice track
  await act.click({ position: { x: 100, y: 12 } })
  await press(page, 'Backspace')
  await until(story, (now) => spineOf(now).length === before.length - 1)
  const apart = await length()
  const second = page.locator('[data-block=copy]').nth(1).locator('textarea')
  await second.focus()
  await page.keyboard.press('Control+Home')
  await page.keyboard.press('Backspace')
  const joined = spineOf(await until(story, (now) => spineOf(now).length === before.length - 2))
  expect(joined[1].text).toBe(`${before[1].text} ${before[3].text}`)
  expect([before[1].piece, before[3].piece, null]).not.toContain(joined[1].piece)
  await until(length, (now) => Math.abs(now - apart) < 0.15)
})

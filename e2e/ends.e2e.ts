import type { Page } from 'playwright-core'
import { beforeAll, expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import { wordsLength } from '../core/edits/actuality'
import { spineOf, type Block, type StoryDocument } from '../core/page/story'
import { RATE } from '../core/time'
import { api, bodyOf, boxOf, figure, ownFerry, press, saved, until, useBrowser, visit } from './newsroom'

useBrowser()

let page: Page
let block: Block
const length = async () => wordsLength(await bodyOf(block.piece!)) / RATE
const row = () => page.locator(`#block-${block.id}`)
const says = () => row().locator('a[href^="/pieces/"]').first().innerText()
/** Until the piece is so long, within a hundredth of a second. */
const isAsLongAs = (seconds: number) => until(length, (now) => Math.abs(now - seconds) < 0.01)

beforeAll(async () => {
  const id = await ownFerry()
  const spine = spineOf((await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument)
  block = spine.find(({ kind }) => kind === 'actuality')!
  ;({ page } = await visit(`/stories/${id}`))
  await page.getByText('tie her up.').waitFor()
})

it('the chosen block starts and ends a word further in or out by key, and undo takes it back', async () => {
  const [before, words, trt] = [await length(), await says(), await figure(page, 'TRT')]
  await row().click({ position: { x: 100, y: 12 } })
  await press(page, 'Alt+Shift+ArrowRight')
  const shorter = await until(length, (now) => now < before - 0.05)
  await until(says, (now) => now !== words)
  await until(
    () => figure(page, 'TRT'),
    (now) => now < trt,
  )
  await press(page, 'Control+Alt+ArrowLeft')
  const shortest = await until(length, (now) => now < shorter - 0.05)
  await press(page, 'Control+Alt+ArrowRight')
  await isAsLongAs(shorter)
  expect(shortest).toBeLessThan(shorter)
  await press(page, 'Control+z', 3)
  await isAsLongAs(before)
  await until(says, (now) => now === words)
})

it('its ends are dragged to the edge of a word, and out into the tape', async () => {
  const before = await length()
  const drag = async (end: 'head' | 'tail', by: number) => {
    const grip = row().getByTestId(`end-grip-${end}`)
    await grip.scrollIntoViewIfNeeded()
    const { x, y, width, height } = await boxOf(grip)
    await page.mouse.move(x + width / 2, y + height / 2)
    await page.mouse.down()
    await page.mouse.move(x + width / 2, y + height / 2 + by, { steps: 6 })
    await page.mouse.up()
  }
  await drag('tail', -40)
  const shorter = await until(length, (now) => now < before - 0.05)
  await drag('head', 30)
  await until(length, (now) => now < shorter - 0.05)
  await saved(page)
  await press(page, 'Control+z', 2)
  await isAsLongAs(before)
  await drag('head', -40)
  await until(length, (now) => now > before + 0.05)
  await press(page, 'Control+z')
  await isAsLongAs(before)
})

it('the keys say what they need where no block with sound is chosen', async () => {
  await page
    .locator('[data-block=intro]')
    .first()
    .click({ position: { x: 100, y: 12 } })
  await press(page, 'Alt+Shift+ArrowRight')
  await page.getByText('Choose a block with sound first.').waitFor()
})

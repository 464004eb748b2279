import { beforeAll, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import { marksOf, type StoryDocument } from '../core/page/story'
import { api, ownFerry, press, until, useBrowser, visit } from './newsroom'

useBrowser()

let page: Page
let id: string
const marks = async () => marksOf((await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument)
const time = () => page.getByTestId('page-marks').getByRole('button', { name: /^\d:\d\d/ })

beforeAll(async () => {
  id = await ownFerry()
  ;({ page } = await visit(`/stories/${id}`))
  await page.getByText('tie her up.').waitFor()
})

it('a mark on the page is written in at once, is found by its keyword, and moves with the words that it stands at', async () => {
  await press(page, 'Home')
  await press(page, 'ArrowRight', 8)
  await press(page, 'm')
  await page.getByTestId('page-marks').getByRole('textbox').waitFor()
  await page.keyboard.type('is it eleven? #check')
  await page.keyboard.press('Enter')
  await until(marks, ([mark]) => mark?.text === 'is it eleven? #check')
  await page.getByTestId('page-mark').waitFor()
  await press(page, 'Home')
  await press(page, 'Shift+m')
  await until(marks, (all) => all.length === 2)
  await page.getByRole('button', { name: '#check', exact: true }).click()
  expect(await time().count()).toBe(1)
  const before = await time().innerText()
  // the host's intro is gone: all that follows is sooner
  await page.locator('[data-block=intro]').click({ position: { x: 100, y: 12 } })
  await press(page, 'Backspace')
  await until(
    () => time().innerText(),
    (now) => now < before,
  )
  await press(page, 'Control+z')
  await until(
    () => time().innerText(),
    (now) => now === before,
  )
})

it('is gone to by key', async () => {
  await page.getByRole('button', { name: '#check', exact: true }).click()
  await press(page, 'Home')
  await press(page, 'PageDown')
  await until(
    () => page.getByTestId('place').innerText(),
    (text) => text.startsWith('0:16'),
  )
  await page
    .getByRole('button', { name: /^Take the mark/ })
    .first()
    .click()
  await until(marks, (all) => all.length === 1)
})

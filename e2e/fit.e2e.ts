import { beforeAll, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import { spineOf, type StoryDocument } from '../core/page/story'
import { clock, toFrames } from '../core/time'
import { listen } from './listen'
import { api, FERRY, figure, press, saved, until, useBrowser, visit } from './newsroom'

useBrowser()

let page: Page
let id: string
const pieces = async () => spineOf((await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument).map(({ piece }) => piece)
/** In seconds. */
const setSlot = async (slot: number) => {
  await page.getByLabel('Slot', { exact: true }).fill(clock(toFrames(slot)))
  await page.keyboard.press('Enter')
}
const changes = () => page.getByTestId('fit-changes').locator('li')

beforeAll(async () => {
  ;({ id } = await api<{ id: string }>(`/stories/${FERRY}/duplicate`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: '{}',
  }))
  ;({ page } = await visit(`/stories/${id}`))
  await page.getByText('tie her up.').waitFor()
})

it('brings a page to its slot by two keys, to the frame, undone as one; the pieces stay as they are', async () => {
  const before = await pieces()
  const trt = await figure(page, 'TRT')
  await setSlot(trt - 0.6)
  await page.getByText('over by').waitFor()
  await press(page, 'Alt+Shift+f')
  await changes().first().waitFor()
  await press(page, 'Alt+Shift+f')
  await page.getByText('on time', { exact: true }).waitFor()
  await saved(page)
  expect(await pieces()).not.toEqual(before)
  await press(page, 'Control+z')
  await page.getByText('over by').waitFor()
  await saved(page)
  expect(await pieces()).toEqual(before)
})

it('hears each change both ways, and leaves out what is not ticked', async () => {
  await press(page, 'Alt+Shift+f')
  await changes().first().waitFor()
  await press(page, ']')
  const [result] = await listen(page, () => press(page, 'a'))
  const [original] = await listen(page, () => press(page, 'b'))
  expect(result.length).toBeGreaterThan(48_000)
  expect(result.slice(0, 48_000)).not.toEqual(new Float32Array(48_000))
  expect(original.length).toBeGreaterThan(48_000)
  const first = changes().first()
  const said = await first.innerText()
  await first.getByRole('checkbox').uncheck()
  // it stays in the list, and others do its part, or it is said how near one comes
  await until(
    async () => (await changes().allInnerTexts()).some((text) => text.split('\n')[0] === said.split('\n')[0]),
    (there) => there,
  )
  await press(page, 'Escape')
  await page.getByTestId('fit-changes').waitFor({ state: 'detached' })
})

it('says how near it comes where the slot is out of reach', async () => {
  const trt = await figure(page, 'TRT')
  await setSlot(12)
  // it was over already: by so much it is with this slot alone, however long the demo's page is by now
  await until(
    () => figure(page, 'over by'),
    (over) => Math.abs(over - (trt - 12)) < 0.15,
  )
  await press(page, 'Alt+Shift+f')
  await page
    .getByTestId('fit-missing')
    .getByText(/0:12\.0 is out of reach/)
    .waitFor()
})

it('finds time where there is too little', async () => {
  await press(page, 'Escape')
  const trt = await figure(page, 'TRT')
  await setSlot(trt + 0.9)
  await page.getByText('under by').waitFor()
  await press(page, 'Alt+Shift+f')
  await changes().first().waitFor()
  await press(page, 'Alt+Shift+f')
  await page.getByText('on time', { exact: true }).waitFor()
})

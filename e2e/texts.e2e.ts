import type { Page } from 'playwright-core'
import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import { spineOf, type StoryDocument } from '../core/page/story'
import { api, FERRY, QUAY, saved, sheetDrawn, until, useBrowser, visit } from './newsroom'

useBrowser()

const drop = async (page: Page, name: string, text: string) => {
  const transfer = await page.evaluateHandle(
    ([called, holds]) => {
      const made = new DataTransfer()
      made.items.add(new File([holds], called, { type: 'text/plain' }))
      return made
    },
    [name, text],
  )
  await page.dispatchEvent('body', 'drop', { dataTransfer: transfer })
}
const spine = async () => spineOf((await api<StoredDocument & { body: StoryDocument }>(`/documents/${FERRY}`)).body)

it('of a text that is dropped it is asked what it is; a script becomes blocks of copy, undone as one', async () => {
  const { page } = await visit(`/stories/${FERRY}`)
  await page.locator('[id^=block-]').first().waitFor()
  const before = await spine()
  await drop(page, 'night boat.txt', 'The boat has sailed.\n\nNobody waved.\n')
  const dialog = page.getByRole('dialog', { name: 'What is “night boat.txt”?' })
  await dialog.getByRole('button', { name: 'Import as script' }).click()
  await dialog.waitFor({ state: 'detached' })
  const after = await until(spine, (now) => now.length === before.length + 2)
  expect(after.slice(-2).map(({ kind, text }) => ({ kind, text }))).toEqual([
    { kind: 'copy', text: 'The boat has sailed.' },
    { kind: 'copy', text: 'Nobody waved.' },
  ])
  await page.keyboard.press('Control+z')
  await saved(page)
  expect(await until(spine, (now) => now.length === before.length)).toEqual(before)
})

it('a transcript goes to the tape that is open, and one that nobody wants goes away', async () => {
  const { page } = await visit(`/tapes/${QUAY}`)
  await sheetDrawn(page)
  await drop(page, 'quay.srt', '1\n00:00:01,000 --> 00:00:02,000\nNobody\n')
  const dialog = page.getByRole('dialog', { name: 'What is “quay.srt”?' })
  await dialog.getByText('save it as plain text').waitFor()
  expect(await dialog.getByLabel('Tape').inputValue()).toBe(QUAY)
  await page.keyboard.press('Escape')
  await dialog.waitFor({ state: 'detached' })
})

import { Document, Packer, Paragraph } from 'docx'
import mammoth from 'mammoth'
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
  await dialog.getByText('save it as .docx or .txt').waitFor()
  expect(await dialog.getByLabel('Tape').inputValue()).toBe(QUAY)
  await page.keyboard.press('Escape')
  await dialog.waitFor({ state: 'detached' })
})

it('a script from a word processor becomes blocks, a quotation the piece that says it, and goes out as one again', async () => {
  const { id } = await api<{ id: string }>(`/stories/${FERRY}/duplicate`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: '{}',
  })
  const { page } = await visit(`/stories/${id}`)
  await page.locator('[id^=block-]').first().waitFor()
  const blocks = async () => spineOf((await api<StoredDocument & { body: StoryDocument }>(`/documents/${id}`)).body)
  const before = await blocks()
  const lines = [
    'HOST: No boat leaves tonight.',
    'The quay is dark. [winch, under]',
    'Piet Aldous: “I remember the first night it did not run.”',
  ]
  const file = await Packer.toBuffer(new Document({ sections: [{ children: lines.map((line) => new Paragraph(line)) }] }))
  const transfer = await page.evaluateHandle(
    (bytes) => {
      const made = new DataTransfer()
      made.items.add(new File([new Uint8Array(bytes)], 'night boat.docx'))
      return made
    },
    [...file],
  )
  await page.dispatchEvent('body', 'drop', { dataTransfer: transfer })
  const dialog = page.getByRole('dialog', { name: 'What is “night boat.docx”?' })
  await dialog.getByRole('button', { name: 'Import as script' }).click()
  await dialog.waitFor({ state: 'detached' })
  const after = (await until(blocks, (now) => now.length === before.length + 3)).slice(-3)
  expect(after.map(({ kind }) => kind)).toEqual(['intro', 'copy', 'actuality'])
  expect(after[2].piece).toBe(before.find(({ kind }) => kind === 'actuality')!.piece)
  await page.goto(`${page.url()}/script`)
  const [saving] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as Word file' }).click()])
  const { value } = await mammoth.extractRawText({ path: await saving.path() })
  for (const part of ['No boat leaves tonight.', 'In: “I remember the first', 'TRT ']) expect(value).toContain(part)
})

import { expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import { newStory, spineOf } from '../core/page/story'
import type { StoredDocument } from '../contract/documents'
import type { Block, StoryDocument } from '../core/page/story'
import { api, until, useBrowser, visit } from './newsroom'

useBrowser()

it('two people type in one line at the same time, and every character of both is there, where they typed it', async () => {
  const id = crypto.randomUUID()
  const block: Block = {
    id: crypto.randomUUID(),
    kind: 'copy',
    order: 'a0',
    aside: false,
    text: ' The boat left at midnight. ',
    reader: 'Tamsin Roe',
    pace: 170,
    piece: null,
  }
  const send = (method: string, path: string, body: object) =>
    api(path, { method, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })
  await send('PUT', `/documents/${id}`, newStory({ slug: 'Written by two' }, { id: crypto.randomUUID() }))
  await send('POST', `/documents/${id}/steps`, {
    base: 0,
    entries: [{ id: crypto.randomUUID(), author: crypto.randomUUID(), label: 'add copy', steps: [{ type: 'put', record: block }] }],
  })
  const line = async () =>
    (
      Object.values((await api<StoredDocument & { body: StoryDocument }>(`/documents/${id}`)).body.records).find(
        ({ kind }) => kind === 'copy',
      ) as Block
    ).text
  const open = async (at: 'Home' | 'End') => {
    const { page } = await visit(`/stories/${id}`)
    await page.getByLabel('Copy, words').click()
    await page.keyboard.press(`Control+${at}`)
    return page
  }
  const type = async (page: Page, text: string) => {
    for (const sign of text) await page.keyboard.press(sign)
  }
  const [first, second] = [await open('Home'), await open('End')]
  const [letters, digits] = ['abcdefghijklmnopqrst'.repeat(3), '0123456789'.repeat(6)]
  await Promise.all([type(first, letters), type(second, digits)])
  const both = `${letters} The boat left at midnight. ${digits}`
  expect(await until(line, (text) => text.length >= both.length)).toBe(both)
  // each sees what the other wrote, and takes back one’s own
  for (const page of [first, second])
    await until(
      () => page.getByLabel('Copy, words').inputValue(),
      (text) => text === both,
    )
  await first.keyboard.press('Control+z')
  expect(await until(line, (text) => text.length < both.length)).toMatch(/The boat left at midnight\. (0123456789){6}$/)
})

it('writes on from block to block: ↵ makes the next or splits, ⌫ at the start joins, pasted paragraphs become blocks', async () => {
  const id = crypto.randomUUID()
  await api(`/documents/${id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(newStory({ slug: 'Written on' }, { id: crypto.randomUUID() })),
  })
  const lines = async () =>
    spineOf((await api<StoredDocument & { body: StoryDocument }>(`/documents/${id}`)).body).map(({ kind, text }) => `${kind}: ${text}`)
  const { page } = await visit(`/stories/${id}`)
  await page.getByText('An empty page.').waitFor()
  await page.keyboard.press('c')
  const field = (nth: number) => page.getByLabel('Copy, words').nth(nth)
  await field(0).fill('The boat left at midnight.')
  await page.keyboard.press('Enter')
  await field(1).waitFor()
  await page.keyboard.type('Nobody was told why.')
  await until(lines, (all) => all.join() === 'copy: The boat left at midnight.,copy: Nobody was told why.')
  // in the middle it splits
  for (let i = 0; i < 'told why.'.length; i++) await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('Enter')
  await until(lines, (all) => all[1] === 'copy: Nobody was' && all[2] === 'copy: told why.')
  // and at the start it joins, the caret at the seam
  await page.keyboard.press('Backspace')
  await until(lines, (all) => all.length === 2 && all[1] === 'copy: Nobody was told why.')
  await page.keyboard.type('ever ')
  await until(lines, (all) => all[1] === 'copy: Nobody was ever told why.')
  await field(1).evaluate((area: HTMLTextAreaElement) => {
    area.setSelectionRange(area.value.length, area.value.length)
    const data = new DataTransfer()
    data.setData('text/plain', ' So we asked.\n\nThe council says eleven.\n\nIt flies.')
    area.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  })
  await until(lines, (all) => all.length === 4 && all[2] === 'copy: The council says eleven.' && all[3] === 'copy: It flies.')
  expect((await lines())[1]).toBe('copy: Nobody was ever told why. So we asked.')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+z')
  await until(lines, (all) => all.length === 2 && all[1] === 'copy: Nobody was ever told why.')
})

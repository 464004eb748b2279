import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import { spineOf, type StoryDocument } from '../core/page/story'
import { api, FERRY, saved, until, useBrowser, visit } from './newsroom'

useBrowser()

it('several blocks are chosen on purpose, said, acted on as one and undone as one', async () => {
  const { id } = await api<{ id: string }>(`/stories/${FERRY}/duplicate`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: '{}' })
  const order = async () => spineOf((await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument).map((block) => block.id)
  const { page } = await visit(`/stories/${id}`)
  await page.getByTestId('page').getByText('tie her up.').waitFor()
  const before = await order()
  const blocks = page.locator('[data-block]')
  const name = (nth: number) => blocks.nth(nth).getByText(/^(Copy|Actuality|Host intro)$/).first()

  // one is one, and says nothing of many
  await name(1).click()
  expect(await page.getByTestId('chosen').count()).toBe(0)
  await name(3).click({ modifiers: ['Shift'] })
  await page.getByText('3 blocks chosen').waitFor()
  await page.keyboard.press('Shift+ArrowUp')
  await page.getByText('2 blocks chosen').waitFor()
  await name(5).click({ modifiers: ['Control'] })
  await page.getByText('3 blocks chosen').waitFor()

  await page.keyboard.press('Backspace')
  await until(order, (now) => now.length === before.length - 3)
  expect(await order()).toEqual(before.filter((_, i) => ![1, 2, 5].includes(i)))
  await page.keyboard.press('Control+z')
  await page.getByText('Undone: set aside 3 blocks').waitFor()
  await until(order, (now) => now.length === before.length)
  expect(await order()).toEqual(before)

  // and moved together
  await name(1).click()
  await name(2).click({ modifiers: ['Shift'] })
  await page.keyboard.press('Alt+ArrowDown')
  await until(order, (now) => now[1] === before[3])
  expect(await order()).toEqual([before[0], before[3], before[1], before[2], ...before.slice(4)])
  await page.keyboard.press('Control+z')
  await until(order, (now) => now[1] === before[1])
  await saved(page)
})

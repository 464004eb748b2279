import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import { spineOf, type StoryDocument } from '../core/page/story'
import { clipLength } from '../core/edits/actuality'
import { pieceWords } from '../core/edits/pieceWords'
import { wordsOf, type Transcript } from '../core/transcript/transcript'
import type { LibraryPage } from '../contract/library'
import type { Receipt } from '../contract/sends'
import { ANYTHING } from '../web/library/filing'
import { api, bodyOf, dragWords, FERRY, ownPiece, pieces, press, QUAY, saved, sheetDrawn, until, useBrowser, visit, word } from './newsroom'

useBrowser()

it('several blocks are chosen on purpose, said, acted on as one and undone as one', async () => {
  const { id } = await api<{ id: string }>(`/stories/${FERRY}/duplicate`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: '{}',
  })
  const order = async () => spineOf((await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument).map((block) => block.id)
  const { page } = await visit(`/stories/${id}`)
  await page.getByTestId('page').getByText('tie her up.').waitFor()
  const before = await order()
  const blocks = page.locator('[data-block]')
  const name = (nth: number) =>
    blocks
      .nth(nth)
      .getByText(/^(Copy|Actuality|Host intro)$/)
      .first()

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

  // all of the story goes out, unless it is said that the chosen blocks alone do
  await name(2).click()
  await name(3).click({ modifiers: ['Shift'] })
  await press(page, 'Control+Enter')
  const dialog = page.getByRole('dialog')
  const samples = async () => Number(/([\d,]+) samples/.exec((await dialog.getByTestId('preview').innerText())!)?.[1].replaceAll(',', ''))
  const all = await until(samples, (count) => count > 0)
  await dialog.getByText(/the chosen blocks, 0:/).click()
  await dialog.getByRole('heading', { name: /^Send a selection of/ }).waitFor()
  const part = await until(samples, (count) => count > 0 && count < all)
  expect(part / 48_000).toBeGreaterThan(20)
  await press(page, 'Control+Enter')
  await until(
    () => api<Receipt[]>(`/sends?of=${id}`),
    ([receipt]) => receipt?.state === 'done' && receipt.frames === part && receipt.fileName.includes('selection'),
    20_000,
  )
})

it('several passages of a piece are chosen, said, acted on as one and undone as one', async () => {
  const { page, id, complaints } = await ownPiece('Nobody told us')
  const before = await bodyOf(id)
  await dragWords(page, 'first', 'night')
  await page.keyboard.down('Control')
  await dragWords(page, 'engine', 'running,')
  await page.keyboard.up('Control')
  await page.getByTestId('several').getByText('2 passages').waitFor()
  // one more by a click, and off again by another
  const spot = await word(page, 'there')
  await page.keyboard.down('Control')
  await page.mouse.click(spot.x, spot.y)
  await page.getByTestId('several').getByText('3 passages').waitFor()
  await page.mouse.click(spot.x, spot.y)
  await page.keyboard.up('Control')
  await page.getByTestId('several').getByText('2 passages').waitFor()
  // what works on one says so, and does nothing
  await press(page, 'Control+Enter')
  await page.getByText('This works on one passage at a time.').waitFor()

  await press(page, 'Control+,', 2)
  await until(
    () => bodyOf(id),
    (body) => body.spans.flatMap(({ level = [] }) => level).filter(({ dB }) => dB === -3).length === 4,
  )
  await press(page, 'Control+z', 2)
  await until(
    () => bodyOf(id),
    (body) => JSON.stringify(body.spans) === JSON.stringify(before.spans),
  )
  await page.keyboard.press('Delete')
  const shorter = await until(
    () => bodyOf(id),
    (body) => clipLength(body) < clipLength(before),
  )
  const said = async (body: typeof before) => {
    const words = wordsOf((await api<StoredDocument & { body: Transcript }>(`/tapes/${QUAY}/words`)).body)
    return pieceWords(body.spans, () => words)
      .map(({ text }) => text)
      .join(' ')
  }
  expect(await said(shorter)).toBe((await said(before)).replace('first night ', '').replace('engine running, ', ''))
  await press(page, 'Control+z')
  await until(
    () => bodyOf(id),
    (body) => JSON.stringify(body.spans) === JSON.stringify(before.spans),
  )
  expect(complaints).toEqual([])
})

it('several passages of a tape are pulled as one actuality', async () => {
  const { page } = await visit(`/tapes/${QUAY}`)
  await sheetDrawn(page)
  const earlier = new Set((await pieces()).map(({ id }) => id))
  await dragWords(page, 'Nurses', 'shift.')
  await press(page, 'Shift+i')
  // the next one by keys, from where the playhead stands
  const spot = await word(page, 'lads')
  await page.mouse.click(spot.x, spot.y)
  await press(page, 'Control+ArrowLeft')
  await press(page, 'Shift+ArrowRight', 1)
  await page.getByTestId('several').getByText('2 passages').waitFor()
  await page.getByRole('button', { name: 'Pull 2 as one actuality' }).click()
  // the join between them is placed, which is nothing that was done here: there is nothing to undo
  const piece = (await until(
    async () => (await pieces()).find(({ id }) => !earlier.has(id)),
    (found) => Boolean(found?.body.spans.some(({ join }) => join?.asked)),
  ))!
  const words = wordsOf((await api<StoredDocument & { body: Transcript }>(`/tapes/${QUAY}/words`)).body)
  expect(
    pieceWords(piece.body.spans, () => words)
      .map(({ text }) => text)
      .join(' '),
  ).toBe('Nurses coming off shift. lads')
  await page.getByRole('button', { name: 'To the Bench' }).click()
  await page.waitForURL(/pieces/)
  // the Bench is there, and its keys with it
  await page.getByTestId('joins').waitFor()
  await press(page, 'Control+z')
  await page.getByText('Nothing to undo').waitFor()
})

it('whole words that are pulled take nothing of the next word along, and none is listed as cut', async () => {
  const { page } = await visit(`/tapes/${QUAY}`)
  await sheetDrawn(page)
  const earlier = new Set((await pieces()).map(({ id }) => id))
  await press(page, 'Home')
  await press(page, 'Shift+ArrowRight', 26)
  await press(page, 'p')
  const { body } = (await until(async () => (await pieces()).find(({ id }) => !earlier.has(id)), Boolean))!
  const words = wordsOf((await api<StoredDocument & { body: Transcript }>(`/tapes/${QUAY}/words`)).body)
  const last = body.spans.findLast(({ sound }) => sound === 'tape')!
  expect(words.some((word) => word.from < last.to && word.to > last.to)).toBe(false)
  expect(body.cutTail).toBeUndefined()
})

it('several tapes are tagged as one and undone as one, several pieces put on a page', async () => {
  const { page } = await visit('/tapes')
  const rows = page.getByTestId('tapes').getByRole('row')
  await rows.nth(2).waitFor()
  const tagged = async () =>
    (
      await api<LibraryPage>('/library/page', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ filter: { ...ANYTHING, tag: 'for air' }, order: 'name', descending: false, from: 0, count: 10 }),
      })
    ).total
  await rows.nth(1).getByRole('checkbox').click()
  await rows.nth(3).click({ modifiers: ['Shift'] })
  const bar = page.getByTestId('chosen-tapes')
  await bar.getByText('3 tapes chosen').waitFor()
  await bar.getByLabel('Tag for the chosen tapes').fill('for air')
  await page.keyboard.press('Enter')
  await until(tagged, (total) => total === 3)
  await page.getByText('3 tapes tagged “for air”.').waitFor()
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await until(tagged, (total) => total === 0)

  const { id } = await api<{ id: string }>(`/stories/${FERRY}/duplicate`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: '{}',
  })
  const own = await Promise.all(['one', 'two'].map(async (slug) => ownPiece('No boat till six', { slug, story: id })))
  const order = async () => spineOf((await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument).map((block) => block.piece)
  const before = await order()
  await page.goto(page.url().replace(/\/tapes.*/, `/stories/${id}`))
  await page.getByRole('checkbox', { name: 'Choose one' }).click()
  await page.getByRole('checkbox', { name: 'Choose two' }).click()
  await page.getByText('2 pieces chosen').waitFor()
  await page.getByTestId('chosen-pieces').getByRole('button', { name: 'Add to the page' }).click()
  const after = await until(order, (now) => now.length === before.length + 2)
  expect(new Set(after.slice(-2))).toEqual(new Set(own.map((one) => one.id)))
  await press(page, 'Control+z')
  expect(await until(order, (now) => now.length === before.length)).toEqual(before)
}, 90_000)

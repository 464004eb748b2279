import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import { outputsOf, spineOf, type StoryDocument } from '../core/page/story'
import { api, desk, figure, ownFerry, pieceOf, press, saved, until, useBrowser, visit } from './newsroom'

useBrowser()

const json = (method: string, body: object) => ({ method, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })

it('a short version is a new output, its slot, and the blocks that it leaves out; the long one stays as it is', async () => {
  const id = await ownFerry()
  const story = async () => (await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument
  const { page } = await visit(`/stories/${id}`)
  await page.getByText('tie her up.').waitFor()
  const rows = page.locator('[data-block]')
  const all = await rows.count()
  const long = await figure(page, 'TRT')
  // eight strokes: the output, its slot, a block out, and the plan opened and applied
  await press(page, 'Alt+Shift+n')
  await page.getByTestId('output').getByText('2 of 2').waitFor()
  await page.keyboard.type('0:42')
  await page.keyboard.press('Enter')
  await rows.nth(2).click({ position: { x: 100, y: 12 } })
  await press(page, 'Backspace')
  await until(
    () => rows.count(),
    (count) => count === all - 1,
  )
  const short = await figure(page, 'TRT')
  expect(short).toBeLessThan(long - 10)
  await page.getByTestId('left-out').getByText('Nobody told us').waitFor()
  await press(page, 'Alt+Shift+f')
  await page.getByTestId('fit-runs').waitFor()
  await press(page, 'Alt+Shift+f')
  await until(
    () => page.getByTestId('figures').innerText(),
    (text) => text.includes('on time'),
    20_000,
  )
  await saved(page)
  // the long one is as it was
  const now = await story()
  expect(spineOf(now)).toEqual(spineOf((await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument))
  const outputs = outputsOf(now)
  expect(outputs.map(({ slot }) => slot)).toEqual([55 * 48_000, 42 * 48_000])
  const row = (await desk()).stories.find((one) => one.id === id)!
  expect(row.outputs[0].trt / 48_000).toBeCloseTo(long, 1)
  expect(row.outputs[1].trt).toBe(42 * 48_000)
  // it is there again by its address, and takes the block in again
  await page.reload()
  await page.getByTestId('left-out').getByRole('button', { name: 'take in' }).click()
  await until(
    () => rows.count(),
    (count) => count === all,
  )
})

it('a short version has its own order and its own line, seen at a glance, and the long one keeps its own', async () => {
  const id = await ownFerry()
  const story = async () => (await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument
  const { page } = await visit(`/stories/${id}`)
  await page.getByText('tie her up.').waitFor()
  const rows = page.locator('[data-block]')
  const kinds = () => rows.evaluateAll((all) => all.map((row) => row.getAttribute('data-block')))
  const long = await kinds()
  await press(page, 'Alt+Shift+n')
  await page.getByTestId('output').getByText('2 of 2').waitFor()
  await page.keyboard.type('0:42')
  await page.keyboard.press('Enter')
  await rows.nth(2).click({ position: { x: 100, y: 12 } })
  await press(page, 'Alt+ArrowUp')
  await until(kinds, (now) => now.join() === ['intro', 'actuality', 'copy', ...long.slice(3)].join())
  await page.getByTestId('differs').getByText('own place').waitFor()
  // a line of its own, which the long one does not have
  await rows.nth(2).getByRole('button', { name: 'More for Copy' }).click()
  await page.getByRole('menuitem', { name: 'Own line in this output' }).click()
  await page.keyboard.press('ControlOrMeta+a')
  await page.keyboard.type('A line for the short one.')
  await page.getByTestId('left-out').getByText('Twenty to twelve').or(page.getByTestId('left-out').getByText('Line 1, the ropes')).waitFor()
  await saved(page)
  const [first] = outputsOf(await story())
  await page.goto(page.url().replace(/\?output=.*/, `?output=${first.id}`))
  await until(kinds, (now) => now.join() === long.join())
  expect(await page.getByTestId('differs').count()).toBe(0)
  await page.getByTestId('left-out').getByText('A line for the short one.').waitFor()
})

it('a piece that somebody else puts on the page is there at once, whatever story it belongs to', async () => {
  const id = await ownFerry()
  const { page } = await visit(`/stories/${id}`)
  await page.getByText('tie her up.').waitFor()
  const long = await figure(page, 'TRT')
  // it is made, and known to this page as none of its own, before the page uses it
  const own = crypto.randomUUID()
  const { body } = await pieceOf('Nobody told us')
  const piece = { ...body, slug: 'shorter by hand', story: null, spans: body.spans.slice(0, 1) }
  await api(`/documents/${own}`, json('PUT', piece))
  await page.waitForTimeout(1500)
  const { revision, body: story } = (await api<StoredDocument>(`/documents/${id}`)) as StoredDocument & { body: StoryDocument }
  const block = spineOf(story).find(({ kind }) => kind === 'actuality')!
  const entry = {
    id: crypto.randomUUID(),
    author: crypto.randomUUID(),
    label: 'another take',
    steps: [{ type: 'set', id: block.id, key: 'piece', value: own }],
  }
  await api(`/documents/${id}/steps`, json('POST', { base: revision, entries: [entry] }))
  // as long as the server has it: a piece that is not known has no length
  const { trt } = (await desk()).stories.find((one) => one.id === id)!.outputs[0]
  await until(
    () => figure(page, 'TRT'),
    (now) => Math.abs(now - trt / 48_000) < 0.1,
  )
  expect(trt / 48_000).toBeLessThan(long - 2)
})

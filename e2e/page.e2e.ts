import { beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import { newStory, outputsOf, spineOf, type Output, type StoryDocument } from '../core/page/story'
import { readingTime } from '../core/page/reading'
import { RATE } from '../core/time'
import { api, bodyOf, boxOf, desk, FERRY, figure, press, saved, seconds, until, useBrowser, visit } from './newsroom'

useBrowser()

let page: Page
let id: string
const spine = async () => spineOf((await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument)
const rows = () => page.locator('[data-block]')
const kinds = () => rows().evaluateAll((all) => all.map((row) => (row as HTMLElement).dataset.block))

beforeAll(async () => {
  ;({ id } = await api<{ id: string }>(`/stories/${FERRY}/duplicate`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: '{}',
  }))
  ;({ page } = await visit(`/stories/${id}`))
  await page.getByText('tie her up.').waitFor()
})

describe('the page', () => {
  it('says how long all of it is, against the slot, at all times', async () => {
    const trt = await figure(page, 'TRT')
    expect(trt).toBeGreaterThan(50)
    await page.getByText('over by').waitFor()
    await page.getByTestId('slot-end').waitFor()
    expect(await figure(page, 'file')).toBeLessThan(trt - 10)
    await page.getByLabel('Slot', { exact: true }).fill('1:10')
    await page.keyboard.press('Enter')
    await page.getByText('under by').waitFor()
    await saved(page)
    expect((await desk()).stories.find((row) => row.id === id)!.outputs[0].slot).toBe(70 * 48_000)
  })

  it('takes new copy where one is, and times it while it is written', async () => {
    const before = await figure(page, 'TRT')
    const there = await kinds()
    await rows().nth(2).getByText('Actuality').click()
    await page.keyboard.press('c')
    const line = 'In 2019 the boat carried 11,400 people; last year, says the council, it was fewer than half of that.'
    await page.keyboard.type(line)
    const pace = Number(await rows().nth(3).getByLabel('Reading speed, words a minute').getAttribute('placeholder'))
    const seconds = readingTime(line, pace) / RATE
    // its reading time, and the handles on either side that have nothing to lie over any more
    const after = await until(
      () => figure(page, 'TRT'),
      (now) => now - before > seconds - 0.1,
    )
    expect(after - before).toBeLessThan(seconds + 0.9)
    await page.keyboard.press('Escape')
    expect(await kinds()).toEqual(there.toSpliced(3, 0, 'copy'))
  })

  it('is put in another order by key and by drag, and back', async () => {
    const there = await kinds()
    await rows().nth(3).getByText('Copy', { exact: true }).click()
    await page.keyboard.press('Alt+ArrowUp')
    await until(kinds, (list) => list.join() === there.with(2, 'copy').with(3, 'actuality').join())
    await page.keyboard.press('Control+z')
    await until(kinds, (list) => list[2] === 'actuality')
    const handle = rows().nth(5).getByRole('button', { name: 'Move Actuality' })
    await rows().nth(5).hover()
    const from = await boxOf(handle)
    const to = await boxOf(rows().nth(3))
    await page.mouse.move(from.x + 5, from.y + 5)
    await page.mouse.down()
    await page.mouse.move(from.x + 5, from.y - 30, { steps: 5 })
    await page.mouse.move(to.x + 10, to.y + 20, { steps: 8 })
    await page.mouse.up()
    await until(kinds, (list) => list[3] === 'actuality')
    await saved(page)
    expect((await spine()).map((block) => block.kind)).toEqual(await kinds())
  })

  it('leaves room before a block by key, overlaps it with the one above, and lets it follow at once', async () => {
    const row = rows().nth(4)
    await row.click({ position: { x: 100, y: 10 } })
    const gap = async () => ((await spine())[4].gap ?? 0) / RATE
    const trt = await figure(page, 'TRT')
    await press(page, '>', 5)
    await row.getByText('+0.5 s').waitFor()
    await until(gap, (now) => now === 0.5)
    expect((await figure(page, 'TRT')) - trt).toBeCloseTo(0.5, 1)
    await press(page, '<', 8)
    await row.getByText('−0.3 s').waitFor()
    expect((await figure(page, 'TRT')) - trt).toBeCloseTo(-0.3, 1)
    await page.keyboard.press('Shift+U')
    await until(gap, (now) => now === 0)
  })

  it('plays from where one clicks beside a block, and what is chosen over and over', async () => {
    const place = async () => seconds((await page.getByTestId('place').first().textContent())!)
    const row = rows().nth(2)
    const [from, length] = [await row.getByTestId('block-time').textContent(), await row.getByTestId('block-length').textContent()]
    const box = await boxOf(row)
    const [begins, lasts] = [seconds(from!), Number(length!.slice(1))]
    const bars = await boxOf(row.getByTitle('Play from here'))
    await page.mouse.click(bars.x + 90, box.y + box.height / 2)
    const at = await until(place, (now) => now > begins + lasts / 2 - 1)
    expect(at).toBeLessThan(begins + lasts / 2 + 2)
    await page.keyboard.press('Space')
    // from nearly its end it comes to its beginning again
    await page.keyboard.press('Shift+L')
    await until(place, (now) => now >= begins && now < begins + 1)
    await until(place, (now) => now > begins + lasts - 1, 25_000)
    await until(place, (now) => now < begins + 2)
    await page.keyboard.press('Space')
  })

  it('splits a line with its voice track, at the word, and nothing is heard of it', async () => {
    const before = await spine()
    const index = before.findIndex(({ kind, piece }) => kind === 'copy' && piece)
    const line = before[index]
    const file = await figure(page, 'file')
    const field = page.locator(`#block-${line.id} textarea`)
    const at = line.text.indexOf('On the first night')
    await field.evaluate((area, caret) => {
      area.focus()
      ;(area as HTMLTextAreaElement).setSelectionRange(caret, caret)
    }, at)
    await page.keyboard.press('Enter')
    const after = await until(spine, (all) => all.length === before.length + 1 && all[index + 1].piece !== null)
    await page.keyboard.press('Escape')
    const [first, second] = await Promise.all([bodyOf(after[index].piece!), bodyOf(after[index + 1].piece!)])
    // the sound goes on where it stopped, in the pause between the sentences
    expect(second.spans[0].from).toBe(first.spans[first.spans.length - 1].to)
    expect([first.line, second.line]).toEqual([line.id, after[index + 1].id])
    expect(after[index + 1].gap! / RATE).toBeGreaterThan(0.05)
    await until(
      () => figure(page, 'file'),
      (now) => Math.abs(now - file) < 0.051,
    )
    expect(second.slug).toBe('On the first night without')
    await page.keyboard.press('Control+z')
    await until(spine, (all) => all.length === before.length && all[index].piece === line.piece)
  })

  it('sets blocks aside and takes them back, and nothing is lost', async () => {
    const count = await rows().count()
    const text = 'In 2019 the boat'
    const at = await rows().evaluateAll(
      (all, wanted) => all.findIndex((row) => row.querySelector('textarea')?.value.includes(wanted)),
      text,
    )
    await rows().nth(at).getByText('Copy', { exact: true }).click()
    await page.keyboard.press('Backspace')
    await until(
      () => rows().count(),
      (now) => now === count - 1,
    )
    const offcuts = page.getByTestId('offcuts')
    await offcuts.getByText(text).waitFor()
    await offcuts.locator('li', { hasText: text }).getByText('put back').click()
    await until(
      () => rows().count(),
      (now) => now === count,
    )
  })

  it('lets letters be letters while one writes', async () => {
    const before = await rows().count()
    await page.getByRole('textbox', { name: 'Host intro, words' }).click()
    await page.keyboard.press('Control+End')
    await page.keyboard.type(' cthp')
    await page.keyboard.press('Escape')
    expect(await rows().count()).toBe(before)
    await until(spine, (blocks) => blocks[0].text.endsWith('cthp'))
  })
})

describe('rehearsing', () => {
  it('runs live copy silent for its time, its words marked as they pass', async () => {
    await page.keyboard.press('Home')
    await page.keyboard.press('Space')
    await until(
      () => page.locator('[data-passed]').count(),
      (count) => count >= 3,
    )
    await page.keyboard.press('Space')
  })
  it('plays from any block', async () => {
    await rows()
      .nth(2)
      .getByRole('button', { name: /More for/ })
      .click()
    await page.getByRole('menuitem', { name: 'Play from here' }).click()
    await page.getByRole('button', { name: 'Pause' }).waitFor()
    const place = await page.getByTestId('place').textContent()
    expect(place).not.toBe('0:00.0')
    await page.keyboard.press('Space')
  })
})

it('has a script to print, with cues and lengths', async () => {
  const script = await visit(`/stories/${FERRY}/script`)
  await script.page.getByText('In: “I remember the first').waitFor()
  const text = await script.page.innerText('main')
  for (const part of [
    'The night ferry',
    'TRT',
    'Out: “',
    'tie her up.',
    'Host intro',
    'Nobody told us',
    'For Brackle Sound, this is Tamsin Roe',
    'Piet Aldous, deckhand',
  ])
    expect(text).toContain(part)
})

describe('the desk', () => {
  it('has a row for each output of a story, the next to air first', async () => {
    const story = newStory(
      { slug: 'Morning and evening' },
      { id: crypto.randomUUID(), name: 'Evening', airs: '2031-05-01T17:52+00:00', slot: 48_000 },
    )
    const morning: Output = {
      ...outputsOf(story)[0],
      id: crypto.randomUUID(),
      name: 'Morning',
      airs: '2031-05-01T06:30+00:00',
      order: 'a1',
    }
    const made = crypto.randomUUID()
    await api(`/documents/${made}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ ...story, records: { ...story.records, [morning.id]: morning } }),
    })
    const { page: there } = await visit('/')
    const rows_ = there.getByTestId('stories').locator('tbody tr', { hasText: 'Morning and evening' })
    await until(
      () => rows_.allInnerTexts(),
      (all) => all.length === 2 && all[0].includes('06:30') && all[0].includes('Morning') && all[1].includes('17:52'),
    )
  })

  it('makes, renames, duplicates, sets aside and takes back', async () => {
    const visitor = await visit('/')
    const list = visitor.page.getByTestId('stories')
    await list.getByText('Kelp prices').waitFor()
    const more = () =>
      list
        .locator('tr', { hasText: 'Kelp prices' })
        .first()
        .getByRole('button', { name: /More for/ })
    await more().click()
    await visitor.page.getByRole('menuitem', { name: 'Duplicate' }).click()
    await list.getByText('Kelp prices, copy').waitFor()
    await list
      .locator('tr', { hasText: 'Kelp prices, copy' })
      .getByRole('button', { name: /More for/ })
      .click()
    await visitor.page.getByRole('menuitem', { name: 'Rename' }).click()
    await visitor.page.getByLabel('Slug').fill('Herring prices')
    await visitor.page.keyboard.press('Enter')
    await list.getByRole('link', { name: 'Herring prices' }).waitFor()
    await list
      .locator('tr', { hasText: 'Herring prices' })
      .getByRole('button', { name: /More for/ })
      .click()
    await visitor.page.getByRole('menuitem', { name: 'Archive' }).click()
    await visitor.page.getByText('Archived: 1').click()
    await visitor.page.getByRole('button', { name: 'Restore' }).click()
    await list.getByRole('link', { name: 'Herring prices' }).waitFor()
  })
})

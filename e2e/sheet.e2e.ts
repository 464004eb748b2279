import { beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import { strikesOf, type TapeDocument } from '../core/tape/tape'
import type { Word } from '../core/tape/words'
import { wordsOf, type Transcript } from '../core/transcript/transcript'
import {
  api,
  boxOf,
  dragWords,
  open,
  pieceOf,
  QUAY,
  saved,
  seconds,
  selection,
  sheetDrawn,
  until,
  useBrowser,
  visit,
  word,
} from './newsroom'

useBrowser()

let page: Page
let complaints: string[]
let words: Word[]
const place = async () => seconds((await page.getByTestId('place').textContent())!)
const at = (text: string, nth = 0) => words.filter((one) => one.text === text)[nth]
const tape = async () => (await api<StoredDocument>(`/documents/${QUAY}`)).body as TapeDocument

beforeAll(async () => {
  words = wordsOf((await api<StoredDocument & { body: Transcript }>(`/tapes/${QUAY}/words`)).body)
  ;({ page, complaints } = await visit(`/tapes/${QUAY}`))
  await sheetDrawn(page)
})

describe('selecting', () => {
  it('by dragging over words takes whole words', async () => {
    await dragWords(page, 'Nurses', 'shift.')
    const chosen = (await selection(page))!
    expect(chosen.from).toBeCloseTo(at('Nurses').from / 48_000, 2)
    expect(chosen.to).toBeCloseTo(at('shift.').to / 48_000, 2)
    await page.getByText('4 words').waitFor()
  })

  it('is cleared by Escape and brought back by one key', async () => {
    const before = await selection(page)
    await page.keyboard.press('Escape')
    expect(await selection(page)).toBeNull()
    await page.keyboard.press('r')
    expect(await selection(page)).toEqual(before)
  })

  it('goes on by words and by lines with Shift and arrows', async () => {
    await dragWords(page, 'Nurses', 'shift.')
    const before = (await selection(page))!
    await page.keyboard.press('Shift+ArrowRight')
    expect((await selection(page))!.to).toBeCloseTo(at('The').to / 48_000, 2)
    await page.keyboard.press('Shift+ArrowDown')
    expect((await selection(page))!.to).toBeGreaterThan(before.to + 2)
    await page.keyboard.press('Shift+ArrowLeft')
    expect((await selection(page))!.from).toBeLessThan(before.from)
  })

  it('moves its edges by 10 ms and by 1 ms, and by figures', async () => {
    const before = (await selection(page))!
    await page.keyboard.press('2')
    expect((await selection(page))!.from).toBeCloseTo(before.from + 0.01, 3)
    await page.keyboard.press('Shift+3')
    expect((await selection(page))!.to).toBeCloseTo(before.to - 0.001, 3)
    await page.getByLabel('Selection: From').fill('0:02.5')
    await page.keyboard.press('Enter')
    await until(
      () => selection(page),
      (now) => now?.from === 2.5,
    )
    await page.getByLabel('Selection: Length').fill('0:01.25')
    await page.keyboard.press('Enter')
    await until(
      () => selection(page),
      (now) => now?.to === 3.75,
    )
  })

  it('takes a word with two clicks and a phrase with three', async () => {
    const spot = await word(page, 'coming')
    await page.mouse.dblclick(spot.x, spot.y)
    expect((await selection(page))!.from).toBeCloseTo(at('coming').from / 48_000, 2)
    await page.mouse.click(spot.x, spot.y, { clickCount: 3 })
    const phrase = (await selection(page))!
    expect([phrase.from, phrase.to]).toEqual([expect.closeTo(at('Nurses').from / 48_000, 2), expect.closeTo(at('shift.').to / 48_000, 2)])
  })

  it('reaches from the very first frame to the very last', async () => {
    await page.keyboard.press('Control+a')
    const { frames } = await api<{ frames: number }>(`/tapes/${QUAY}`)
    const all = (await selection(page))!
    expect(all.from).toBe(0)
    expect(all.to).toBeCloseTo(frames / 48_000, 2)
    await page.keyboard.press('Escape')
  })

  it('takes an edge by its handle', async () => {
    await dragWords(page, 'Nurses', 'shift.')
    const before = (await selection(page))!
    const start = await word(page, 'Nurses')
    const line = start.x - 10
    await page.mouse.move(line, start.y - 45)
    await page.mouse.down()
    await page.mouse.move(line - 30, start.y - 45, { steps: 4 })
    await page.mouse.up()
    const after = (await selection(page))!
    expect(after.to).toBe(before.to)
    expect(after.from).toBeLessThan(before.from - 0.05)
  })

  it('holds its edges to a quiet zero crossing where that is wanted', async () => {
    await page.keyboard.press('q')
    await dragWords(page, 'Nurses', 'shift.')
    await page.waitForTimeout(500)
    const held = (await selection(page))!
    expect(Math.abs(held.from - at('Nurses').from / 48_000)).toBeLessThan(0.0065)
    await page.keyboard.press('q')
    await page.keyboard.press('Escape')
  })
})

describe('playing', () => {
  it('goes from a click, steps back two seconds, and marks in and out while it runs', async () => {
    const spot = await word(page, 'Nurses')
    await page.mouse.click(spot.x, spot.y)
    expect(await place()).toBeCloseTo(at('Nurses').from / 48_000, 0)
    await page.keyboard.press('Space')
    await until(place, (now) => now > 16.5)
    await page.keyboard.press('i')
    await until(place, (now) => now > 17.5)
    await page.keyboard.press('o')
    const chosen = (await selection(page))!
    expect(chosen.to - chosen.from).toBeGreaterThan(0.5)
    const before = await place()
    await page.keyboard.press('ArrowLeft')
    expect(await place()).toBeLessThan(before - 1)
    await page.keyboard.press('Space')
    await page.keyboard.press('Home')
    expect(await place()).toBe(0)
  })

  it('plays the selection alone, and shows its level', async () => {
    await dragWords(page, 'Nurses', 'shift.')
    await page.keyboard.press('s')
    await page.getByRole('button', { name: 'Pause' }).waitFor()
    const bar = page.getByTestId('meter').locator('div div').first()
    await until(
      () => bar.evaluate((element) => (element as HTMLElement).offsetWidth),
      (width) => width > 20,
    )
    await page.getByRole('button', { name: 'Play', exact: true }).waitFor()
    expect(await place()).toBeCloseTo(at('shift.').to / 48_000, 0)
    await page.keyboard.press('Escape')
  })

  it('is followed by the view until one scrolls away, and again at one key', async () => {
    const region = page.getByRole('region', { name: /Sheet of/ })
    const top = () => region.evaluate((element) => element.scrollTop)
    await page.keyboard.press('Home')
    await page.mouse.move(600, 400)
    await page.keyboard.press('Space')
    await page.mouse.wheel(0, 2500)
    await page.getByText('To the playhead').waitFor()
    await page.waitForTimeout(700)
    expect(await top()).toBeGreaterThan(1500)
    await page.keyboard.press('f')
    await until(top, (now) => now < 200)
    await page.keyboard.press('Space')
  })
})

describe('looking', () => {
  const lines = () => page.locator('canvas[data-drawn]').evaluate((canvas) => (canvas as HTMLCanvasElement).dataset.drawn)
  it('bends time to the words, or not', async () => {
    expect(await lines()).toBe('words')
    await page.keyboard.press('e')
    await until(lines, (drawn) => drawn === 'even')
    await page.keyboard.press('e')
    await until(lines, (drawn) => drawn === 'words')
  })
  it('zooms to the selection, to the whole, and back', async () => {
    const height = () => page.getByRole('region', { name: /Sheet of/ }).evaluate((element) => element.scrollHeight)
    const before = await height()
    await dragWords(page, 'Nurses', 'shift.')
    await page.keyboard.press('z')
    await until(height, (now) => now > before * 2)
    await page.keyboard.press('w')
    await until(height, (now) => now < before)
    await page.keyboard.press('x')
    await page.keyboard.press('x')
    await until(height, (now) => now === before)
  })
  it('draws taller waves without touching the sound', async () => {
    const { revision } = await api<StoredDocument>(`/documents/${QUAY}`)
    await page.keyboard.press('Control+ArrowUp')
    await page.keyboard.press('Control+ArrowDown')
    expect((await api<StoredDocument>(`/documents/${QUAY}`)).revision).toBe(revision)
  })
  it('goes to any place by the overview', async () => {
    const strip = page.locator('.touch-none').first()
    const box = await boxOf(strip)
    await page.mouse.click(box.x + 10, box.y + box.height / 2)
    await until(place, (now) => Math.abs(now - 109) < 3)
    await page.keyboard.press('Home')
    await page.keyboard.press('f')
  })
})

describe('striking', () => {
  it('leaves the sound, is skipped, comes out of what is pulled, and can be undone', async () => {
    const before = strikesOf(await tape()).length
    await page.keyboard.press('Escape')
    await dragWords(page, 'The', 'plant.')
    await page.keyboard.press('Backspace')
    await saved(page)
    expect(strikesOf(await tape())).toHaveLength(before + 1)
    await dragWords(page, 'Nurses', 'board.')
    await page.keyboard.press('p')
    // where the strike was, the join is placed like that of any cut
    const piece = await until(
      () => pieceOf('Nurses coming off'),
      (row) => Boolean(row?.body.spans.some(({ join }) => join?.asked)),
    )
    expect(piece.body.spans.filter(({ sound }) => sound === 'tape')).toHaveLength(2)
    expect(piece.body.spans[0].to).toBeLessThan(at('lads').from)
    expect(piece.body.speaker).toBe('Piet Aldous')
    await page.keyboard.press('Control+z')
    await saved(page)
    expect(strikesOf(await tape())).toHaveLength(before)
    expect((await pieceOf('Nurses coming off')).body.spans).toEqual(piece.body.spans) // pieces pulled never change
  })
  it('marks are dropped, written and gone to', async () => {
    await page.keyboard.press('Home')
    await page.keyboard.press('m')
    const field = page.getByLabel('What the mark says').first()
    await field.fill('begins here')
    await page.keyboard.press('Enter')
    await until(tape, (body) => Object.values(body.records).some((record) => record.kind === 'mark' && record.text === 'begins here'))
  })
})

it('goes from a piece to its frame of the tape, and back', async () => {
  const piece = await pieceOf('Nobody told us')
  const visitor = await open(page.context(), `/pieces/${piece.id}`)
  await sheetDrawn(visitor.page)
  // a short piece is laid out anew until all that stands around it is there
  let last = { x: 0, y: 0 }
  const spot = await until(
    async () => {
      const [before, now] = [last, await word(visitor.page, 'engine')]
      await visitor.page.waitForTimeout(400)
      last = now
      return { ...now, still: before.x === now.x && before.y === now.y }
    },
    ({ still }) => still,
  )
  await visitor.page.mouse.click(spot.x, spot.y)
  await visitor.page.keyboard.press('g')
  await visitor.page.waitForURL(/\/tapes\//)
  await sheetDrawn(visitor.page)
  const here = seconds((await visitor.page.getByTestId('place').textContent())!)
  expect(here).toBeCloseTo(at('engine').from / 48_000, 0)
  await visitor.page.getByRole('complementary').getByText('Nobody told us', { exact: true }).first().waitFor()
  await visitor.page.keyboard.press('g')
  await visitor.page.waitForURL(/\/pieces\//)
})

it('has nothing to complain of', () => {
  expect(complaints).toEqual([])
})

import type { Page } from 'playwright-core'
import { beforeAll, expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import { marksOf, type TapeDocument } from '../core/tape/tape'
import { api, bring, QUAY, saved, seconds, sheetDrawn, until, useBrowser, visit } from './newsroom'
import { makeWav } from './wav'

useBrowser()

let tape: string
let page: Page
const marks = async () => marksOf((await api<StoredDocument & { body: TapeDocument }>(`/documents/${tape}`)).body)
/** Where the playhead is, in seconds. */
const place = async () => seconds((await page.getByTestId('place').textContent())!)

beforeAll(async () => {
  tape = (await bring('Twenty seconds to log.wav', makeWav(20))).id
  ;({ page } = await visit(`/tapes/${tape}`))
  await sheetDrawn(page)
})

it('takes marks while it plays, a hand’s time before the key, and words while it goes on', async () => {
  await page.keyboard.press('Space')
  await until(place, (at) => at > 1.5)
  const before = await place()
  await page.keyboard.press('m')
  await page.keyboard.type('boat horn #quay')
  await page.keyboard.press('Enter')
  expect(await page.getByRole('button', { name: 'Pause' }).count()).toBe(1)
  const [mark] = await until(marks, (list) => list.length === 1 && list[0].text !== '')
  expect(mark.text).toBe('boat horn #quay')
  expect(Math.abs(mark.at / 48_000 - (before - 0.4))).toBeLessThan(0.35)
  await page.keyboard.press('Shift+m')
  await page.keyboard.press('Space')
  await until(marks, (list) => list.length === 2 && Boolean(list[1].star))
})

it('is gone through by mark, filtered by keyword, coloured, and a mark is dragged', async () => {
  await page.keyboard.press('End')
  const both = await marks()
  const first = both.find(({ star }) => !star)!
  const star = both.find(({ star }) => star)!
  await page.keyboard.press('PageUp')
  expect(await place()).toBeCloseTo(star.at / 48_000, 1)
  await page.keyboard.press('PageUp')
  expect(await place()).toBeCloseTo(first.at / 48_000, 1)
  await page.getByTestId('log').getByRole('button', { name: '#quay' }).click()
  await until(
    () => page.getByTestId('log').getByRole('listitem').count(),
    (shown) => shown === 1,
  )
  await page.getByRole('button', { name: /Another colour/ }).click()
  await until(marks, (list) => list.find(({ id }) => id === first.id)!.colour === 'voice')
  const spot = await page.evaluate((at) => {
    const head = document.querySelector('[data-testid=playhead]')!.getBoundingClientRect()
    return { x: head.x + 1, y: head.y, at }
  }, first.at)
  await page.mouse.move(spot.x, spot.y - 2)
  await page.mouse.down()
  await page.mouse.move(spot.x + 60, spot.y + 10, { steps: 4 })
  await page.mouse.up()
  // It may have been dragged past the star: it is known by what it says, not by its place in the list.
  await until(marks, (list) => list.find(({ id }) => id === first.id)!.at > first.at + 20_000)
  await saved(page)
})

it('is a sheet of paper, with who said what and the marks between', async () => {
  const { page: sheet, complaints } = await visit(`/tapes/${QUAY}/log`)
  await sheet.getByRole('heading', { name: 'Deckhand, on the quay' }).waitFor()
  await sheet.getByText('his own count').waitFor()
  expect(await sheet.getByRole('row').count()).toBeGreaterThan(15)
  expect(complaints).toEqual([])
})

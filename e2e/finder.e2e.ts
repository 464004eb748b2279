import { expect, it } from 'vitest'
import { QUAY, sheetDrawn, useBrowser, visit } from './newsroom'
import type { Player } from '../web/sound/player'

useBrowser()

it('finds what was said by keyboard alone, plays it where it stands, and goes there', async () => {
  const { page, complaints } = await visit('/')
  await page.getByText('The night ferry').first().waitFor()
  await page.keyboard.press('Control+f')
  await page.getByRole('searchbox', { name: 'Words that were said' }).waitFor()
  await page.keyboard.type('minding moor')
  const hit = page.getByTestId('found').getByRole('button', { name: /minding moorings.*Deckhand, on the quay/ })
  await page.getByTestId('found').getByText('minding moorings.', { exact: true }).waitFor()
  await page.keyboard.press('ArrowDown')
  expect(await hit.evaluate((element) => element === document.activeElement)).toBe(true)
  await page.keyboard.press('Space')
  await page.waitForFunction(() => (globalThis as unknown as { plainCutPlayer: Player }).plainCutPlayer.playing)
  await page.keyboard.press('Enter')
  await page.waitForURL(new RegExp(`/tapes/${QUAY}\\?at=\\d+`))
  await sheetDrawn(page)
  // from a tape one looks on that tape first
  await page.keyboard.press('Control+f')
  await page.getByRole('button', { name: 'This tape', pressed: true }).waitFor()
  await page.getByRole('searchbox', { name: 'Words that were said' }).fill('subsidy')
  await page.getByText('No matches').waitFor()
  await page.getByRole('button', { name: 'Everything' }).click()
  await page
    .getByTestId('found')
    .getByRole('button', { name: /subsidy.*Council, by phone/ })
    .first()
    .waitFor()
  expect(complaints).toEqual([])
})

import { expect, it } from 'vitest'
import { bring, ownFerry, press, QUAY, saved, sheetDrawn, useBrowser, visit } from './newsroom'
import { makeWav } from './wav'
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

it('finds marks of tapes and of pages by their words and #keywords, and goes to their places', async () => {
  const tape = await bring('Kiln office.wav', makeWav(5))
  const { page } = await visit(`/tapes/${tape.id}`)
  const mark = async (text: string) => {
    await press(page, 'm')
    await page.keyboard.type(text)
    await page.keyboard.press('Enter')
    await saved(page)
  }
  await sheetDrawn(page)
  await press(page, 'End')
  await mark('who counted? #ledger')
  const story = await ownFerry()
  await page.goto(new URL(`/stories/${story}`, page.url()).href)
  await page.getByText('tie her up.').waitFor()
  await mark('count again #ledger-page')

  await page.goto(new URL('/', page.url()).href)
  await page.getByText('The night ferry').first().waitFor()
  const found = page.getByTestId('found')
  const search = async (text: string) => {
    await press(page, 'Control+f')
    await page.getByRole('searchbox').fill(text)
  }
  await search('COUNT #led')
  await found.getByRole('button', { name: /who counted\? #ledger.*Kiln office.*0:0\d/ }).waitFor()
  await found.getByRole('button', { name: /count again #ledger-page.*page of/ }).waitFor()
  // words within words are not meant, and signs mean themselves
  for (const text of ['ounted', 'who counted. #ledger', '#counted']) {
    await page.getByRole('searchbox').fill(text)
    // something that was said on another tape may be spelled like it
    await found.getByText('who counted?').waitFor({ state: 'detached' })
    await page.getByRole('searchbox').fill('counted')
    await found.getByText('who counted?').waitFor()
  }
  await page.getByRole('searchbox').fill('counted #ledger')
  await found.getByText('who counted? #ledger').waitFor()
  await page.keyboard.press('Enter')
  await page.waitForURL(new RegExp(`/tapes/${tape.id}\\?at=\\d+`))
  await sheetDrawn(page)
  await search('ledger-page')
  await page.getByRole('button', { name: 'Everything' }).click()
  await found.getByText('count again').click()
  await page.waitForURL(new RegExp(`/stories/${story}`))
  await page.locator('[data-block][aria-current=true]').waitFor()
})

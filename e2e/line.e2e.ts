import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import { spineOf, type StoryDocument } from '../core/page/story'
import { api, FERRY, pieceOf, press, saved, seconds, sheetDrawn, until, useBrowser, visit } from './newsroom'

useBrowser()

it('the line before a piece is written at the head of its Bench, says what it says twice, and runs into the tape', async () => {
  const { id } = await pieceOf('Nobody told us')
  const lineBefore = async () => {
    const spine = spineOf((await api<StoredDocument & { body: StoryDocument }>(`/documents/${FERRY}`)).body)
    return spine[spine.findIndex((block) => block.piece === id) - 1].text
  }
  const text = await lineBefore()
  const { page, complaints } = await visit(`/pieces/${id}`)
  await sheetDrawn(page)
  const line = page.getByRole('region', { name: 'The line before' })
  const field = page.getByLabel('The line before this piece')
  expect(await field.inputValue()).toBe(text)
  await press(page, 'Alt+c')
  await field.fill('Piet Aldous sat there with the engine running.')
  await page.keyboard.press('Escape')
  await until(lineBefore, (now) => now.startsWith('Piet Aldous sat'))
  const twice = line.getByTestId('said-already').getByRole('button')
  expect(await twice.allInnerTexts()).toEqual(['run.', 'sat there with the engine running,'])
  await twice.nth(1).click()
  await page.locator('[data-testid=selection]').waitFor()

  await press(page, 'Shift+Space')
  await line.locator('[data-passed]').first().waitFor()
  await press(page, 'Space')
  await page.waitForFunction(() => !(globalThis as unknown as { plainCutPlayer: { playing: boolean } }).plainCutPlayer.playing)
  expect(seconds(await line.getByText(/^\d:\d\d\.\d$/).innerText())).toBeGreaterThan(1)

  await field.fill(text)
  await page.keyboard.press('Escape')
  await until(lineBefore, (now) => now === text)
  await saved(page)
  expect(complaints).toEqual([])
})

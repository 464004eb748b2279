import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import { clipLength } from '../core/edits/actuality'
import { bodyOf, boxOf, FERRY, ownPiece, press, QUAY, saved, selectWords, sheetDrawn, until, useBrowser, visit } from './newsroom'

useBrowser()

const titles = (page: Page) => page.getByRole('option').allInnerTexts()

/** Goes over to an item of an open group as a hand does, and clicks it. */
async function byHand(page: Page, name: RegExp): Promise<void> {
  const { x, y, width, height } = await boxOf(page.getByRole('menuitem', { name }))
  await page.mouse.move(x + width / 2, y + height / 2, { steps: 25 })
  await page.mouse.down()
  await page.mouse.up()
}

describe('every command has a way by mouse', () => {
  it('through the view’s menu, by groups, with what cannot be done and why', async () => {
    const { page, id } = await ownPiece()
    const before = clipLength(await bodyOf(id))
    await selectWords(page, 2, 2)
    await page.getByRole('button', { name: 'More', exact: true }).click()
    for (const group of ['Playing', 'Taking out', 'Levels', 'Joins', 'Patches', 'Ends and handles'])
      await page.getByRole('menuitem', { name: group }).waitFor()
    await page.getByRole('menuitem', { name: 'Taking out' }).hover()
    await byHand(page, /^Take out, close the gap/)
    await until(
      async () => clipLength(await bodyOf(id)),
      (length) => length < before,
    )
    // with nothing selected it says why it cannot be done
    await page.getByRole('button', { name: 'More', exact: true }).click()
    await page.getByRole('menuitem', { name: 'Taking out' }).hover()
    const item = page.getByRole('menuitem', { name: /^Take out, close the gap/ })
    await item.getByText('Select a passage first.').waitFor()
    expect(await item.getAttribute('aria-disabled')).toBe('true')
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    // undo and redo have buttons
    await page.getByRole('button', { name: 'Undo' }).click()
    await until(
      async () => clipLength(await bodyOf(id)),
      (length) => length === before,
    )
    await page.getByRole('button', { name: 'Redo' }).click()
    await until(
      async () => clipLength(await bodyOf(id)),
      (length) => length < before,
    )
    await saved(page)
  })

  it('through a right click: with the selection, and on what is clicked', async () => {
    const { page } = await visit(`/tapes/${QUAY}`)
    await sheetDrawn(page)
    await selectWords(page, 2, 3)
    const spot = page.locator('[data-word]').nth(3)
    const box = await boxOf(spot)
    await page.mouse.click(box.x + 6, box.y + 10, { button: 'right' })
    // here it is called what it is here
    await page.getByRole('menuitem', { name: /^Strike/ }).click()
    const undo = page.getByRole('button', { name: 'Undo' })
    await until(() => undo.isEnabled(), Boolean)
    await undo.click()
    await page.getByText('Undone: strike').waitFor()
  })

  it('on the Page for the block that is clicked', async () => {
    const { page } = await visit(`/stories/${FERRY}`)
    await page.getByTestId('page').getByText('tie her up.').waitFor()
    await page.locator('[data-block=intro]').first().getByText('Host intro', { exact: true }).click({ button: 'right' })
    await page.getByRole('menuitem', { name: /^Move the block down/ }).waitFor()
    expect(await page.getByRole('menuitem', { name: /^Move the block up/ }).count()).toBe(0)
    await page.keyboard.press('Escape')
  })
})

describe('the command list', () => {
  it('puts what fits the selection first, and finds commands by what others call them', async () => {
    const { page } = await ownPiece()
    await selectWords(page, 2, 2)
    await page.keyboard.press('Control+k')
    await page.getByPlaceholder('Type to search commands …').waitFor()
    const shown = await titles(page)
    expect(shown.findIndex((title) => title.startsWith('Take out, close the gap'))).toBeLessThan(16)
    for (const [typed, finds] of [
      ['delete', 'Take out'],
      ['export', 'Send'],
      ['bleep', 'Mute'],
      ['pause', 'pause'],
      ['filler', 'Search transcripts and marks'],
    ]) {
      await page.getByPlaceholder('Type to search commands …').fill(typed)
      await until(
        () => titles(page),
        (list) => list.slice(0, 6).some((title) => title.includes(finds)),
      )
    }
  })
})

describe('the key list', () => {
  it('shows this screen’s keys first, is searched, and fits a printed page', async () => {
    const { page } = await visit(`/tapes/${QUAY}`)
    await sheetDrawn(page)
    await page.keyboard.press('?')
    const here = page.getByRole('region', { name: 'On this screen' })
    await here.getByText('Strike', { exact: true }).waitFor()
    await page.getByRole('region', { name: 'On other screens' }).getByText('Shorter gap').waitFor()
    await page.getByLabel('Search shortcuts').fill('divide')
    await page.getByText('Split at the playhead').waitFor()
    expect(await here.count()).toBe(0)
    await page.getByRole('button', { name: 'Print …' }).click()
    await page.getByRole('heading', { name: 'Keyboard shortcuts' }).waitFor()
    const pdf = await page.pdf({ format: 'A4', margin: { top: '10mm', bottom: '10mm', left: '10mm', right: '10mm' } })
    expect(pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g)).toHaveLength(1)
  })

  it('leaves letters alone that somebody goes on typing when a field goes away', async () => {
    const { page, id } = await ownPiece()
    const before = (await bodyOf(id)).spans
    // a field that is taken away under the hands of whoever types
    await page.evaluate(() => {
      const field = document.createElement('input')
      document.body.append(field)
      field.focus()
      field.addEventListener('input', () => field.value.length > 3 && field.remove())
    })
    await page.keyboard.type('a name goes here', { delay: 20 })
    await page.keyboard.press('Backspace')
    await page.waitForTimeout(300)
    expect((await bodyOf(id)).spans).toEqual(before)
    expect(await page.evaluate(() => (globalThis as unknown as { plainCutPlayer: { playing: boolean } }).plainCutPlayer.playing)).toBe(
      false,
    )
  })
})

it('favourite commands and speeds stand in a strip of one’s own', async () => {
  const { page } = await visit(`/tapes/${QUAY}`)
  await sheetDrawn(page)
  await press(page, 'Shift+k')
  const dialog = page.getByRole('dialog', { name: 'Favourites' })
  await dialog.getByRole('button', { name: '1.5×' }).click()
  await dialog.getByLabel('Search commands').fill('add a mark')
  await dialog.getByRole('button', { name: /^Add a mark/ }).click()
  await page.keyboard.press('Escape')
  const strip = page.getByRole('toolbar', { name: 'Favourites' })
  await strip.getByRole('button', { name: '1.5×' }).click()
  await page.getByTestId('speed').getByText('1.5×').waitFor()
  await page.reload()
  await sheetDrawn(page)
  await strip.getByRole('button', { name: 'Add a mark' }).waitFor()
  // what a screen does not have is not in its strip
  await press(page, 'Alt+1')
  await page.getByText('Stories').first().waitFor()
  expect(await strip.count()).toBe(0)
})

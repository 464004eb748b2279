import type { Page } from 'playwright-core'
import { expect, it } from 'vitest'
import { api, atRest, chooseJoin, FERRY, ownPiece, pieceOf, press, QUAY, sheetDrawn, until, useBrowser, visit } from './newsroom'

useBrowser()

const elsewhereAndBack = async (page: Page) => {
  await press(page, 'Alt+1')
  await page.getByText('Stories').first().waitFor()
  await page.goBack()
}
const inView = (page: Page) => page.getByTestId('words').innerText()

it('a Sheet has its place, its zoom and what is in view when one comes back to it', async () => {
  const { page } = await visit(`/tapes/${QUAY}`)
  await sheetDrawn(page)
  await press(page, '+', 2)
  await press(page, 'End')
  await atRest(page)
  const [place, words] = [await page.getByTestId('place').innerText(), await inView(page)]
  expect(place).not.toBe('0:00.0')
  await elsewhereAndBack(page)
  await sheetDrawn(page)
  expect(await page.getByTestId('place').innerText()).toBe(place)
  expect(
    await until(
      () => inView(page),
      (now) => now === words,
    ),
  ).toBe(words)
})

it('a Bench has its join and its panel', async () => {
  const { page } = await ownPiece('Nobody told us')
  const chosen = page.getByTestId('joins').locator('[aria-pressed=true]')
  const join = await chooseJoin(page.getByTestId('joins').locator('button[aria-pressed]').last())
  await press(page, 'Alt+v')
  await page.getByTestId('level-panel').waitFor()
  await page.keyboard.press('Escape')
  await elsewhereAndBack(page)
  await page.getByTestId('level-panel').waitFor()
  expect((await chosen.innerText()).split('\n')[0]).toBe(join)
})

it('a page has its block, its way of playing and its place', async () => {
  const { page } = await visit(`/stories/${FERRY}`, { width: 1280, height: 500 })
  const blocks = page.locator('[id^=block-]')
  // as long as it will be: with the words of its actualities
  await page.getByTestId('page').getByText('tie her up.').waitFor()
  await page.getByRole('button', { name: 'As sent' }).click()
  await blocks.nth(4).click({ position: { x: 90, y: 12 } })
  await press(page, 'ArrowRight')
  const state = async () => ({
    place: await page.getByTestId('place').innerText(),
    chosen: await page.locator('[id^=block-][aria-current]').getAttribute('id'),
    sent: await page.getByRole('button', { name: 'As sent' }).getAttribute('aria-pressed'),
  })
  /** Where the chosen block stands on the screen, once nothing grows any more. */
  const top = async () => {
    const ys: number[] = []
    await until(
      async () => {
        ys.unshift((await blocks.nth(4).boundingBox())!.y)
        await page.waitForTimeout(100)
        return ys.slice(0, 4)
      },
      (last) => last.length === 4 && last.every((y) => y === last[0]),
    )
    return ys[0]!
  }
  const before = await until(state, ({ place }) => place === '0:02.0')
  const stood = await top()
  expect(stood).toBeLessThan(300)
  await elsewhereAndBack(page)
  await blocks.nth(4).waitFor()
  expect(await until(state, ({ place, chosen }) => place === before.place && chosen === before.chosen)).toEqual(before)
  await until(top, (y) => Math.abs(y - stood) <= 2)
})

it('levels are measured of a piece, of what is selected in it, and of a block of a page', async () => {
  const { page } = await visit(`/pieces/${(await pieceOf('Nobody told us')).id}`)
  await sheetDrawn(page)
  await press(page, 'v')
  const dialog = page.getByRole('dialog')
  await dialog.getByText('Integrated loudness').waitFor()
  expect(await dialog.getByRole('heading').first().innerText()).toBe('Levels of the piece')
  const loudness = async () => Number(/([−\d.]+) LUFS/.exec(await dialog.innerText())![1].replace('−', '-'))
  const whole = await loudness()
  expect(whole).toBeGreaterThan(-40)
  await page.keyboard.press('Escape')
  await press(page, 'Home')
  await press(page, 'Shift+ArrowRight', 2)
  await press(page, 'v')
  await dialog.getByText('Integrated loudness').waitFor()
  expect(await dialog.getByRole('heading').first().innerText()).toMatch(/^Levels, 0:00/)
  await page.goto(page.url().replace(/\/pieces.*/, `/stories/${FERRY}`))
  await page
    .locator('[data-block=actuality]')
    .first()
    .click({ position: { x: 90, y: 12 } })
  await until(
    async () => {
      await press(page, 'v')
      return dialog.count()
    },
    (count) => count === 1,
  )
  await dialog.getByText('Integrated loudness').waitFor()
  expect(await dialog.getByRole('heading').first().innerText()).toMatch(/^Levels, /)
})

it('the pieces of a story follow one another by key, as many as it was pressed, however quickly', async () => {
  const [first] = await api<{ id: string; aside?: boolean }[]>(`/pieces?story=${FERRY}`)
  const { page } = await visit(`/pieces/${first.id}`)
  await sheetDrawn(page)
  const open = () => new URL(page.url()).pathname.split('/').pop()!
  const way = [open()]
  for (let i = 0; i < 2; i++) {
    await press(page, 'Alt+PageDown')
    way.push(await until(open, (id) => id !== way[i]))
    await sheetDrawn(page)
  }
  expect(new Set(way).size).toBe(3)
  for (let i = 0; i < 2; i++) await page.keyboard.press('Alt+PageUp')
  await until(open, (id) => id === way[0])
})

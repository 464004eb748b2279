import { expect, it } from 'vitest'
import { clipLength } from '../core/edits/actuality'
import { cuts } from '../core/edits/editList'
import { milliseconds } from '../core/time'
import { atRest, bodyOf, boxOf, ownPiece, pieceOf, press, saved, until, useBrowser } from './newsroom'

useBrowser()

it('a crossfade is made longer, of another shape, and the sides overlapped, by key', async () => {
  const { page, id, complaints } = await ownPiece('Nobody told us')
  const before = await bodyOf(id)
  const [first] = cuts(before.spans)
  const now = async () => cuts((await bodyOf(id)).spans)[0]
  await press(page, 'Home') // the first join is chosen from the start
  await press(page, 'Alt+6', 2)
  await until(now, ({ join }) => join.fade === first.join.fade + 2 * milliseconds(5))
  await press(page, 'Alt+5')
  await press(page, 'Alt+4')
  await until(now, ({ join }) => join.fade === first.join.fade + milliseconds(5) && join.shape !== first.join.shape)
  await press(page, 'Alt+0', 2)
  const apart = await until(
    () => bodyOf(id),
    (body) => clipLength(body) === clipLength(before) - 4 * milliseconds(5),
  )
  expect(cuts(apart.spans)[0].join.heard).toBe(false)
  await press(page, 'Alt+9', 2)
  await until(
    () => bodyOf(id),
    (body) => clipLength(body) === clipLength(before),
  )
  expect(complaints).toEqual([])
})

it('all crossfades are set at once, and what does not fit is counted; ends have fades of their own', async () => {
  const { page, id } = await ownPiece('Nobody told us')
  const before = await bodyOf(id)
  await press(page, 'Home')
  await press(page, 'Shift+f')
  const dialog = page.getByRole('dialog', { name: 'Fades' })
  const length = dialog.getByLabel('Length, ms', { exact: true })
  await length.fill('30')
  await dialog.getByRole('button', { name: /^At all \d joins$/ }).click()
  await page.getByText(/^Set at \d joins/).waitFor()
  const set = await until(
    () => bodyOf(id),
    (body) => cuts(body.spans).every(({ join }) => join.fade === milliseconds(30)),
  )
  expect(clipLength(set)).toBe(clipLength(before))
  await dialog.getByLabel('Length, ms (handle 300)').nth(1).fill('90')
  await dialog.getByRole('button', { name: 'Set' }).nth(1).click()
  await until(
    () => bodyOf(id),
    (body) => body.fadeOut?.length === milliseconds(90),
  )
  await page.keyboard.press('Escape')
  // plain again, all of them
  await press(page, 'Alt+i')
  await until(
    () => bodyOf(id),
    (body) => !body.fadeOut && cuts(body.spans).every(({ join }) => join.fade === milliseconds(8)),
  )
})

it('a fade is drawn longer in the close-up, and an overlap', async () => {
  const { page, id } = await ownPiece('Nobody told us')
  const before = await bodyOf(id)
  await press(page, 'Home') // the first join is chosen from the start
  const canvas = page.getByRole('img', { name: /^Close-up of the join/ })
  const box = await boxOf(canvas)
  const lean = Math.max(14, (cuts(before.spans)[0].join.fade / milliseconds(400)) * box.width) / 2
  const draw = async (x: number, y: number, by: number) => {
    await page.mouse.move(box.x + x, box.y + y)
    await page.mouse.down()
    await page.mouse.move(box.x + x + by, box.y + y, { steps: 4 })
    await page.mouse.up()
  }
  await draw(box.width / 2 + lean, 10, 40)
  const longer = await until(
    () => bodyOf(id),
    (body) => cuts(body.spans)[0].join.fade > milliseconds(20),
  )
  expect(clipLength(longer)).toBe(clipLength(before))
  const wider = ((cuts(longer.spans)[0].join.fade / milliseconds(400)) * box.width) / 2
  await draw(box.width / 2 - wider, box.height - 24, -40)
  await until(
    () => bodyOf(id),
    (body) => clipLength(body) < clipLength(before) - milliseconds(10),
  )
})

it('a rough join is masked by the next phrase, a pause is made longer and shorter', async () => {
  const { page, id } = await ownPiece('Nobody told us')
  const before = await bodyOf(id)
  await press(page, 'Home')
  await press(page, ']') // after a sentence
  await press(page, 'Alt+a')
  const sooner = await until(
    () => bodyOf(id),
    (body) => clipLength(body) < clipLength(before) - milliseconds(100),
  )
  await page.getByRole('button', { name: /^Pause/ }).waitFor()
  await press(page, 'Space')
  await saved(page)
  // the pause after "us.", which nobody cut
  await atRest(page)
  const us = Number(
    await page
      .locator('[data-word]', { hasText: /^us\. $/ })
      .first()
      .getAttribute('data-word'),
  )
  const next = await boxOf(page.locator(`[data-word="${us + 1}"]`))
  await page.mouse.dblclick(next.x - 20, next.y + 12)
  await page.locator('[data-testid=selection]').waitFor()
  await press(page, '>', 2)
  const longer = await until(
    () => bodyOf(id),
    (body) => clipLength(body) === clipLength(sooner) + 2 * milliseconds(50),
  )
  expect(longer.spans.filter(({ sound }) => sound === 'room').length).toBeGreaterThan(0)
  await press(page, 'Control+z', 2)
  await until(
    () => bodyOf(id),
    (body) => clipLength(body) === clipLength(sooner),
  )
})

it('fades of one’s own are used at each new pull', async () => {
  const { page } = await ownPiece('Nobody told us')
  await page.evaluate(
    () => (localStorage.fades = JSON.stringify({ join: { fade: 960, shape: 'gain' }, fadeIn: { length: 4800, shape: 'power' } })),
  )
  const { body } = await pieceOf('Nobody told us')
  await page.goto(page.url().replace(/\/pieces\/.*/, `/tapes/${body.spans[0].tape}`))
  await page.waitForSelector('canvas[data-drawn=words]')
  await press(page, 'Home')
  await press(page, 'Shift+ArrowRight', 14)
  await press(page, 'p')
  await page.getByRole('button', { name: 'To the Bench' }).click()
  await page.waitForURL(/\/pieces\//)
  const made = page.url().split('/pieces/')[1].split('?')[0]
  expect((await bodyOf(made)).fadeIn).toEqual({ length: 4800, shape: 'power' })
  await page.waitForSelector('canvas[data-drawn=words]')
  await press(page, 'Control+ArrowRight', 5)
  await press(page, 'Shift+ArrowRight')
  await press(page, 'Backspace')
  const [cut] = await until(
    async () => cuts((await bodyOf(made)).spans),
    (all) => all.length > 0,
  )
  expect(cut.join.shape).toBe('gain')
})

import { expect, it } from 'vitest'
import { clipLength, wordsLength, type Actuality } from '../core/edits/actuality'
import { nicks } from '../core/edits/gone'
import { versionsOf } from '../core/edits/versions'
import { toFrames } from '../core/time'
import { bodyOf, ownPiece, press, saved, selectWords, until, useBrowser, word } from './newsroom'

useBrowser()

it('a version is kept by one key, compared by ear and as words, and gone back to', async () => {
  const { page, id, complaints } = await ownPiece()
  const before = await bodyOf(id)
  await press(page, 'Control+s')
  await saved(page)
  const list = page.getByTestId('versions')
  await list.getByRole('button', { name: 'compare' }).waitFor()
  await selectWords(page, 2)
  await press(page, 'Backspace')
  await until(
    () => bodyOf(id),
    (body) => clipLength(body) < clipLength(before),
  )
  await list.getByRole('button', { name: 'words' }).click()
  await page.getByRole('dialog').locator('mark', { hasText: 'mother' }).waitFor()
  await page.keyboard.press('Escape')

  await list.getByRole('button', { name: 'compare' }).click()
  await press(page, 'b')
  await page.getByRole('button', { name: /version 1/, pressed: true }).waitFor()
  await press(page, 'b')
  await list.getByRole('button', { name: 'restore' }).click()
  const back = await until(
    () => bodyOf(id),
    (body) => clipLength(body) === clipLength(before),
  )
  expect(back.spans).toEqual(before.spans)
  expect(versionsOf(back)).toHaveLength(1)
  expect(complaints).toEqual([])
})

it('gaps grow and shrink by key, and what went is held or closed up afterwards', async () => {
  const { page, id } = await ownPiece()
  const before = await bodyOf(id)
  await press(page, 'Escape')
  await press(page, 'Home')
  await press(page, ']')
  await press(page, '>', 2)
  await until(
    () => bodyOf(id),
    (body) => clipLength(body) === clipLength(before) + 2 * 2400,
  )
  await press(page, '<', 2)
  await until(
    () => bodyOf(id),
    (body) => clipLength(body) === clipLength(before),
  )

  // a word goes, its time is held afterwards, and closed up again
  await selectWords(page, 2)
  await press(page, 'Backspace')
  const closed = await until(
    () => bodyOf(id),
    (body) => clipLength(body) < clipLength(before),
  )
  await saved(page)
  await press(page, 'Shift+h')
  const held = await until(
    () => bodyOf(id),
    (body) => clipLength(body) > clipLength(closed),
  )
  expect(nicks(held).some(({ held: time }) => time > 4800)).toBe(true)
  await press(page, 'Shift+h')
  await until(
    () => bodyOf(id),
    (body) => clipLength(body) < clipLength(held),
  )
})

it('a point of a level line is dragged', async () => {
  const { page, id } = await ownPiece()
  await selectWords(page, 2)
  await press(page, 'Control+,', 4)
  const levelOf = (body: Actuality) => body.spans[0].level ?? []
  const line = levelOf(
    await until(
      () => bodyOf(id),
      (body) => levelOf(body).some(({ dB }) => dB === -6),
    ),
  )
  await press(page, 'Escape')
  // the playhead out of the way, and the word in view
  await press(page, 'Home')
  // over a point the hand says that it can be moved
  const { x, y } = await word(page, 'mother')
  const cursor = () => page.getByRole('region', { name: /^Bench/ }).evaluate((region) => region.style.cursor)
  const spots = Array.from({ length: 12 }, (_, i) => y - 50 + 4 * i)
  let at: number | undefined
  for (const spot of spots) {
    await page.mouse.move(x, spot)
    if ((await cursor()) === 'move') at ??= spot
  }
  expect(at).toBeDefined()
  await page.mouse.move(x, at!)
  await page.mouse.down()
  await page.mouse.move(x + 6, at! - 6, { steps: 2 })
  await page.mouse.move(x + 12, at! - 14, { steps: 2 })
  await page.mouse.up()
  const moved = levelOf(
    await until(
      () => bodyOf(id),
      (body) => JSON.stringify(levelOf(body)) !== JSON.stringify(line),
    ),
  )
  expect(moved).toHaveLength(line.length)
  expect(moved[1].at).toBeGreaterThan(line[1].at)
  expect(moved[1].dB).toBeGreaterThan(-6)
  expect(moved.slice(2)).toEqual(line.slice(2))
  await press(page, 'Control+z')
  await until(
    () => bodyOf(id),
    (body) => JSON.stringify(levelOf(body)) === JSON.stringify(line),
  )
})

it('the room before and after the words grows and shrinks, and the words stay as long', async () => {
  const { page, id } = await ownPiece()
  const before = await bodyOf(id)
  const { head, tail } = before
  await press(page, 'Shift+6', 2)
  await press(page, 'Shift+7')
  const changed = await until(
    () => bodyOf(id),
    (body) => body.head === head + 4800 && body.tail === tail - 2400,
  )
  expect(wordsLength(changed)).toBe(wordsLength(before))
  await page.getByTestId('handles').getByRole('button', { name: 'Shorter head handle' }).click()
  await until(
    () => bodyOf(id),
    (body) => body.head === head + 2400,
  )
})

it('the ends are drawn in between words by mouse, and out again into the tape', async () => {
  const { page, id } = await ownPiece('Nobody told us')
  const before = await bodyOf(id)
  const first = before.spans[0]
  const start = page.getByRole('button', { name: /^Draw the start/ })
  const grip = (await start.boundingBox())!
  const from = { x: grip.x + grip.width / 2, y: grip.y + grip.height / 2 }
  const to = await word(page, 'first')
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(from.x + 20, from.y, { steps: 3 })
  await page.mouse.move(to.x - 6, from.y, { steps: 4 })
  await page.getByTestId('end-place').waitFor()
  await page.mouse.up()
  const shorter = await until(
    () => bodyOf(id),
    (body) => body.spans[0].from > first.from,
  )
  expect(shorter.head).toBe(toFrames(0.3))
  // what was cut off comes back by drawing the start out by as much
  await saved(page)
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(from.x - 20, from.y, { steps: 3 })
  await page.mouse.move(from.x - 70, from.y, { steps: 3 })
  await page.getByText('s more of the tape').waitFor()
  await page.mouse.up()
  const longer = await until(
    () => bodyOf(id),
    (body) => wordsLength(body) > wordsLength(shorter),
  )
  expect(longer.spans[0].from).toBeLessThan(shorter.spans[0].from)
})

import { expect, it } from 'vitest'
import { clipLength } from '../core/edits/actuality'
import { boxOf, desk, figure, fileOf, pieces, saved, selection, sent, sheetDrawn, until, useBrowser, visit } from './newsroom'
import { makeWav, readWav } from './wav'

useBrowser()

it('goes from an own file to a WAV that is exactly the piece', async () => {
  const { page, complaints } = await visit('/')

  // a story
  await page.getByText('Stories').waitFor()
  await page.keyboard.press('Shift+N')
  await page.getByLabel('Slug').fill('Fog on the sound')
  await page.getByLabel('Slot').fill('0:20')
  await page.getByRole('button', { name: 'Create' }).click()
  await page.getByText('An empty page.').waitFor()
  const story = page.url().split('/').at(-1)!

  // a tape of one's own
  await page.getByTestId('file-input').setInputFiles({ name: 'phone memo 7.wav', mimeType: 'audio/wav', buffer: makeWav(30) })
  await page.getByText('“phone memo 7.wav” is ready.').waitFor()
  await page.getByRole('button', { name: 'Open' }).click()
  await sheetDrawn(page)

  // pulled by dragging over the sound
  const box = await boxOf(page.getByRole('region', { name: /Sheet of phone memo/ }))
  await page.mouse.move(box.x + 200, box.y + 50)
  await page.mouse.down()
  await page.mouse.move(box.x + 600, box.y + 50, { steps: 5 })
  await page.mouse.up()
  const chosen = (await selection(page))!
  expect(chosen.to - chosen.from).toBeGreaterThan(2)
  await page.keyboard.press('p')
  await page.getByRole('button', { name: 'To the Bench' }).click()

  // a cut inside
  await page.getByTestId('length-total').waitFor()
  await sheetDrawn(page)
  const before = (await pieces(story))[0]
  const bench = await boxOf(page.getByRole('region', { name: /Bench/ }))
  await page.mouse.move(bench.x + 250, bench.y + 50)
  await page.mouse.down()
  await page.mouse.move(bench.x + 350, bench.y + 50, { steps: 5 })
  await page.mouse.up()
  await page.keyboard.press('Backspace')
  await page.getByTestId('joins').getByRole('button').first().waitFor()
  await saved(page)
  const after = (await pieces(story))[0]
  expect(after.body.spans).toHaveLength(2)
  expect(clipLength(after.body)).toBeLessThan(clipLength(before.body))

  // on the page, with a line before it
  await page.getByRole('button', { name: 'Put on the page' }).click()
  await page.getByRole('button', { name: 'To the page' }).click()
  await page
    .getByTestId('page')
    .getByRole('region', { name: /Actuality/ })
    .waitFor()
  await page.getByRole('complementary').getByRole('button', { name: 'Host intro' }).click()
  await page.keyboard.type('The fog came in at six and the boats stayed where they were.')
  await page.keyboard.press('Escape')
  await saved(page)
  const file = await figure(page, 'file')
  expect(file).toBeCloseTo(clipLength(after.body) / 48_000, 1)
  expect(await figure(page, 'TRT')).toBeGreaterThan(file + 3)
  const row = await until(
    async () => (await desk()).stories.find((one) => one.id === story)!,
    (one) => one.outputs[0].trt > 0,
  )
  expect(row.outputs[0].lacks).toEqual([])

  // and out
  await page.getByRole('button', { name: 'Send', exact: true }).click()
  await page.getByRole('dialog').getByText('samples, nothing before or after').waitFor()
  await page.getByRole('dialog').getByRole('button', { name: 'Send' }).click()
  await page.getByTestId('receipts').getByRole('link', { name: 'Save' }).waitFor()
  const receipt = await sent(story)
  const wav = readWav(await fileOf(receipt))
  expect([wav.rate, wav.bits, wav.channels]).toEqual([48_000, 24, 1])
  expect(wav.frames).toBe(clipLength(after.body))
  expect(receipt.fileName).toMatch(/^Fog-on-the-sound_\d{4}-\d\d-\d\d_0m0\ds\.wav$/)
  expect(complaints).toEqual([])
})

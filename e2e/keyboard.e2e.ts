import { spawnSync } from 'node:child_process'
import { expect, it } from 'vitest'
import type { Receipt } from '../contract/sends'
import type { TapeInfo } from '../contract/tapes'
import { clipLength } from '../core/edits/actuality'
import { api, FERRY, fileOf, pieces, saved, sent, sheetDrawn, tabTo, until, useBrowser, visit } from './newsroom'
import { readWav } from './wav'

useBrowser()

it('goes by keyboard alone from the Desk to a sent WAV', async () => {
  const { page } = await visit('/')
  await page.getByText('The night ferry').first().waitFor()
  await tabTo(page, /^The night ferry$/)
  await page.keyboard.press('Enter')
  await page.getByText('tie her up.').waitFor()

  // to the tape, a passage chosen by words, pulled
  await page.keyboard.press('Alt+2')
  await page.getByRole('searchbox').waitFor()
  await tabTo(page, /^Find tapes$/)
  await page.keyboard.type('council')
  await page.getByText('Council, by phone').waitFor()
  await tabTo(page, /^Council, by phone$/)
  await page.keyboard.press('Enter')
  await sheetDrawn(page)
  for (let i = 0; i < 20; i++) await page.keyboard.press('Control+ArrowRight')
  for (let i = 0; i < 9; i++) await page.keyboard.press('Shift+ArrowRight')
  const before = (await pieces(FERRY)).length
  await page.keyboard.press('p')
  const pulled = await until(
    () => pieces(FERRY),
    (rows) => rows.length === before + 1,
  )
  const piece = pulled.at(-1)!

  // to its Bench, one word out
  await page.getByRole('complementary').getByText(piece.body.slug).first().waitFor()
  await page.keyboard.press('g')
  await page.getByTestId('length-total').waitFor()
  await sheetDrawn(page)
  await page.keyboard.press('Home')
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+ArrowRight')
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('Backspace')
  await page.getByTestId('joins').getByRole('button').first().waitFor()
  await saved(page)
  const cut = (await pieces(FERRY)).find((row) => row.id === piece.id)!
  expect(clipLength(cut.body)).toBeLessThan(clipLength(piece.body))

  // onto the page, and out
  await page.keyboard.press('u')
  await page.waitForURL(/\/stories\//)
  await page.getByText('tie her up.').waitFor()
  await page.keyboard.press('t')
  await page.getByRole('dialog').waitFor()
  await tabTo(page, new RegExp(`^${piece.body.slug}`))
  await page.keyboard.press('Enter')
  await page.locator('[data-block=actuality]').nth(2).waitFor()
  await saved(page)
  await page.keyboard.press('Control+Enter')
  await page.getByRole('dialog').getByText('samples, nothing before or after').waitFor()
  const { frames } = await api<{ frames: number }>('/sends/preview', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({
      what: { kind: 'story', id: FERRY },
      format: 'wav',
      rate: 48_000,
      bits: 24,
      channels: 1,
      kbps: 192,
      unrecorded: 'out',
      pattern: '{slug}',
    }),
  })
  const earlier = (await api<Receipt[]>(`/sends?of=${FERRY}`)).length
  await tabTo(page, /^Send$/)
  await page.keyboard.press('Enter')
  // others have sent this story before
  await until(
    () => api<Receipt[]>(`/sends?of=${FERRY}`),
    (list) => list.length > earlier,
  )
  const wav = readWav(await fileOf(await sent(FERRY)))
  await page.getByTestId('receipts').getByRole('link', { name: 'Save' }).first().waitFor()
  expect(wav.frames).toBe(frames)
})

it('and the same with an MP3 of one’s own, which has no words', async () => {
  const { page } = await visit('/tapes')
  await page.getByRole('searchbox').waitFor()
  // other bytes at each try: what is here already is not taken in twice
  const mp3 = spawnSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    `sine=f=${300 + (Date.now() % 1000)}:d=20`,
    '-af',
    'tremolo=f=1:d=0.9',
    '-b:a',
    '128k',
    '-f',
    'mp3',
    'pipe:1',
  ]).stdout
  const chooser = page.waitForEvent('filechooser')
  await page.keyboard.press('Shift+T')
  await (await chooser).setFiles({ name: 'own memo.mp3', mimeType: 'audio/mpeg', buffer: mp3 })
  await tabTo(page, /^Find tapes$/)
  await page.keyboard.type('own memo')
  await page.getByRole('link', { name: 'own memo', exact: true }).first().waitFor()
  await tabTo(page, /^own memo$/)
  await page.keyboard.press('Enter')
  await sheetDrawn(page)
  const tape = page.url().split('/').at(-1)
  await until(
    () => api<TapeInfo>(`/tapes/${tape}`),
    ({ state }) => state === 'ready',
  )
  await page.getByText('Still arriving').waitFor({ state: 'detached' })
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('i')
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('o')
  const before = (await pieces()).length
  await page.keyboard.press('p')
  const piece = (
    await until(
      () => pieces(),
      (rows) => rows.length === before + 1,
    )
  ).at(-1)!
  expect(Math.abs(clipLength(piece.body) - 8 * 48_000)).toBeLessThan(1000)
  await page.getByRole('complementary').getByText('Untitled').waitFor()
  await page.keyboard.press('g')
  await page.getByTestId('length-total').waitFor()
  await sheetDrawn(page)
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('Backspace')
  await page.getByTestId('joins').getByRole('button').first().waitFor()
  await saved(page)
  await page.keyboard.press('Control+Enter')
  await page.getByRole('dialog').getByText('samples, nothing before or after').waitFor()
  await tabTo(page, /^Send$/)
  await page.keyboard.press('Enter')
  await page.getByTestId('receipts').getByRole('link', { name: 'Save' }).first().waitFor()
  const wav = readWav(await fileOf(await sent(piece.id)))
  const cut = (await pieces()).find((row) => row.id === piece.id)!
  expect(wav.frames).toBe(clipLength(cut.body))
  expect(wav.frames).toBeLessThan(clipLength(piece.body))
})

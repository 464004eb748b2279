import type { Page } from 'playwright-core'
import { expect, it } from 'vitest'
import type { Play } from '../contract/boards'
import { newBoard, type LiveClip } from '../core/live/board'
import type { Captured, ClipSound } from '../web/live/clipSound'
import { RATE } from '../core/time'
import { api, ownPiece, pieces, press, QUAY, saved, send, sheetDrawn, fileOf, until, useBrowser, visit } from './newsroom'
import { readWav } from './wav'

useBrowser()

type Here = { plainCutBoard: ClipSound; finish: () => Promise<Captured> }

/** A board with pieces of the demo on its first keys. */
async function boardWith(slugs: readonly string[], more: readonly Partial<LiveClip>[] = []): Promise<{ board: string; ids: string[] }> {
  const rows = await pieces()
  const board = crypto.randomUUID()
  const ids = slugs.map((slug) => rows.find(({ body }) => body.slug === slug)!.id)
  const clips = ids.map((piece, i) => ({ id: crypto.randomUUID(), kind: 'clip' as const, piece, key: `Digit${i + 1}`, ...more[i] }))
  const body = newBoard(`Board ${Date.now() % 100_000}`)
  await api(`/documents/${board}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ ...body, records: { ...body.records, ...Object.fromEntries(clips.map((clip) => [clip.id, clip])) } }),
  })
  return { board, ids }
}

const stateOf = (page: Page, key: string) => page.getByTestId(`clip-${key}`).getAttribute('data-state')
const ready = async (page: Page, ...keys: string[]) => {
  for (const key of keys)
    await until(
      () => stateOf(page, key),
      (state) => state === 'ready',
      20_000,
    )
}
const playing = (page: Page, key: string, yes = true) =>
  until(
    () => stateOf(page, key),
    (state) => (state === 'playing') === yes,
  )

it('a key plays what is on it, another takes its place, Escape stops all, and what was played is listed', async () => {
  const { board, ids } = await boardWith(['Nobody told us', 'No boat till six', 'Line 1, the ropes'], [{}, {}, { over: true, loop: true }])
  const { page, complaints } = await visit(`/live/${board}`)
  await ready(page, 'Digit1', 'Digit2', 'Digit3')
  await page.keyboard.press('1')
  await playing(page, 'Digit1')
  expect(await page.getByTestId('time-left').innerText()).toMatch(/^:\d\d$/)
  await page.waitForTimeout(600)
  await page.keyboard.press('2')
  await playing(page, 'Digit2')
  await playing(page, 'Digit1', false)
  // one that may play beside others leaves them alone
  await page.keyboard.press('3')
  await playing(page, 'Digit3')
  expect(await stateOf(page, 'Digit2')).toBe('playing')
  await page.keyboard.press('Escape')
  await playing(page, 'Digit2', false)
  await playing(page, 'Digit3', false)
  // Space plays what is cued, pauses it, and goes on from there
  await page.keyboard.press('ArrowRight')
  await page.getByTestId('clip-Digit2').getByText('cued', { exact: true }).waitFor()
  await page.keyboard.press('Space')
  await playing(page, 'Digit2')
  await page.waitForTimeout(1500)
  await page.keyboard.press('Space')
  await page.getByTestId('clip-Digit2').getByText('paused', { exact: true }).waitFor()
  await page.keyboard.press('Space')
  await playing(page, 'Digit2')
  const at = await page.evaluate(() => (globalThis as unknown as Here).plainCutBoard.runs[0].at)
  expect(at).toBeGreaterThan(RATE)
  await page.keyboard.press('Escape')
  const plays = await until(
    () => api<Play[]>(`/boards/${board}/plays`),
    (list) => list.length === 5,
  )
  expect(plays.every(({ stopped, seconds }) => stopped && seconds > 0)).toBe(true)
  expect(new Set(plays.map(({ piece }) => piece))).toEqual(new Set(ids))
  await page.getByRole('button', { name: 'Played' }).click()
  await until(
    () => page.getByTestId('played').locator('li').count(),
    (count) => count === 5,
  )
  expect(complaints).toEqual([])
})

it('what goes on air is the file, to the bit, also once the server is gone', async () => {
  const { page, id } = await ownPiece('No boat till six')
  const wanted = readWav(await fileOf(await send(id)))
  await press(page, 'Alt+Shift+L')
  await page.getByText(/^On “.*”, on /).waitFor()
  await page.getByRole('button', { name: 'To the board' }).click()
  await page.waitForURL('**/live/*')
  const key = await until(
    () => page.locator('[data-testid^=clip-]').filter({ hasText: 'tried' }).last().getAttribute('data-testid'),
    (found) => found !== null,
  )
  const place = key!.replace('clip-', '')
  await ready(page, place)
  await page.context().setOffline(true)
  await page.waitForTimeout(500)
  await page.evaluate(() => {
    const here = globalThis as unknown as Here
    here.finish = here.plainCutBoard.capture()
  })
  await page.keyboard.press(place.replace(/Digit|Key/, ''))
  await playing(page, place)
  await playing(page, place, false)
  const heard = await page.evaluate(async () => {
    const { blocks } = await (globalThis as unknown as Here).finish()
    return blocks.flatMap((block) => [...block]).map((sample) => Math.round(sample * 2 ** 23))
  })
  const sound = [...wanted.channel(0)]
  const [begins, first] = [heard.findIndex((sample) => sample !== 0), sound.findIndex((sample) => sample !== 0)]
  const worst = sound.slice(first).reduce((most, sample, i) => Math.max(most, Math.abs(sample - heard[begins + i])), 0)
  expect(sound.length).toBeGreaterThan(3 * RATE)
  expect(worst).toBe(0)
  await page.context().setOffline(false)
})

it('all clips are brought to one level by one choice, and each is as its piece again by undo', async () => {
  const { board } = await boardWith(['No boat till six'])
  const { page } = await visit(`/live/${board}`)
  const highest = async () => {
    await ready(page, 'Digit1')
    await page.evaluate(() => {
      const here = globalThis as unknown as Here
      here.finish = here.plainCutBoard.capture()
    })
    await page.keyboard.press('1')
    await playing(page, 'Digit1')
    await playing(page, 'Digit1', false)
    return page.evaluate(async () => {
      const { blocks } = await (globalThis as unknown as Here).finish()
      return blocks.reduce((most, block) => block.reduce((high, sample) => Math.max(high, Math.abs(sample)), most), 0)
    })
  }
  const own = await highest()
  await page.getByLabel('Levels').selectOption('all at −23 LUFS')
  const said = /([+−])([\d.]+) dB/.exec(await page.getByRole('region', { name: 'Cued' }).getByText(/ dB$/).innerText())!
  const dB = Number(said[2]) * (said[1] === '+' ? 1 : -1)
  expect(Math.abs(dB)).toBeGreaterThan(0.5)
  expect(20 * Math.log10((await highest()) / own)).toBeCloseTo(dB, 1)
  await press(page, 'Control+Z')
  await until(
    () => page.getByRole('region', { name: 'Cued' }).getByText(/ dB$/).count(),
    (count) => count === 0,
  )
  expect(await highest()).toBe(own)
}, 60_000)

it('a trim is on air with the next key, and a clip is moved, looped and removed, all of which can be undone', async () => {
  const { page: bench } = await ownPiece('Nobody told us')
  await bench.close()
  const { board } = await boardWith(['Nobody told us'])
  const { page } = await visit(`/live/${board}`)
  await ready(page, 'Digit1')
  // another piece by hand
  await page.getByRole('button', { name: 'Put a piece on Q' }).click()
  await page.getByLabel('Slug or name').fill('tried')
  await page.keyboard.press('Enter')
  await ready(page, 'KeyQ')
  await page.keyboard.press('ArrowRight')
  const before = (await page.getByRole('region', { name: 'Cued' }).innerText()).replace(/\s+/g, ' ')
  expect(before).toContain('Q')
  await page.getByRole('button', { name: 'Starts later' }).click()
  await until(
    async () => (await page.getByRole('region', { name: 'Cued' }).innerText()).replace(/\s+/g, ' '),
    (now) => now !== before,
  )
  await ready(page, 'KeyQ')
  // to another key
  await page.getByRole('button', { name: 'More for tried' }).click()
  await page.getByRole('menuitem', { name: 'To another key' }).click()
  await page.keyboard.press('5')
  await page.getByTestId('clip-Digit5').waitFor()
  await page.getByRole('button', { name: 'More for tried' }).click()
  await page.getByRole('menuitem', { name: 'Remove from the board' }).click()
  await page.getByTestId('clip-Digit5').waitFor({ state: 'detached' })
  await press(page, 'Control+Z')
  await page.getByTestId('clip-Digit5').waitFor()
  await saved(page)
})

it('from a tape to the board in one stroke, and from recording to recording by key', async () => {
  const { page } = await visit(`/tapes/${QUAY}`)
  await sheetDrawn(page)
  await press(page, 'Control+A')
  await press(page, 'Alt+Shift+L')
  await page.getByText(/^On “.*”, on |already|All keys/).waitFor()
  const quay = await page.title()
  await press(page, 'Alt+Shift+PageDown')
  await page.waitForURL((url) => url.pathname.startsWith('/tapes/') && !url.pathname.endsWith(QUAY))
  // the address goes before the view
  await until(
    () => page.title(),
    (title) => title !== quay,
  )
  await sheetDrawn(page)
  await press(page, 'Alt+Shift+PageUp')
  await page.waitForURL(`**/tapes/${QUAY}`)
})

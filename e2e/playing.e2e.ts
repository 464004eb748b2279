import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import { edits } from '../core/edits/editList'
import { heardDuring, type Window } from './listen'
import { api, bodyOf, bring, FERRY, ownPiece, pieceOf, QUAY, saved, selectWords, sheetDrawn, until, useBrowser, visit } from './newsroom'
import { makeWav } from './wav'

useBrowser()

const isPlaying = (page: Page) => page.evaluate(() => (globalThis as unknown as Window).plainCutPlayer.playing)
const position = (page: Page) => page.evaluate(() => (globalThis as unknown as Window).plainCutPlayer.position)

describe('playing', () => {
  it('stops and says so where the sound cannot be fetched, and plays no silence for it', async () => {
    const { page } = await visit(`/tapes/${QUAY}`)
    await sheetDrawn(page)
    let away = false
    await page.route('**/api/tapes/*/sound/**', (route) => (away ? route.abort() : route.continue()))
    const { frames } = await api<{ frames: number }>(`/tapes/${QUAY}`)
    const [left] = await heardDuring(page, async () => {
      await page.keyboard.press('Space')
      await until(
        () => position(page),
        (at) => at > 4800,
      )
      away = true
      await page.getByText('Playing stopped: the sound can’t be fetched').waitFor({ timeout: 20_000 })
    })
    expect(await isPlaying(page)).toBe(false)
    await page.getByRole('button', { name: 'Play', exact: true }).waitFor()
    // what went out is the beginning of the tape, and nothing after it
    expect(left.length).toBeLessThan(frames)
    expect(Math.abs((await position(page)) - left.length)).toBeLessThan(2048)
    let silent = 0
    for (const sample of left) silent = sample === 0 ? silent + 1 : 0
    expect(silent).toBeLessThan(480)
    // once it is there again, it goes on from there
    away = false
    const stopped = await position(page)
    await page.keyboard.press('Space')
    await until(
      () => position(page),
      (at) => at > stopped + 4800,
    )
  })

  it('counts no join as played whose sound was not there', async () => {
    const { body } = await pieceOf('Nobody told us')
    const { page, id } = await ownPiece({
      ...body,
      spans: body.spans.map((span) => (span.join ? { ...span, join: { ...span.join, heard: false } } : span)),
    })
    const played = async () => edits((await bodyOf(id)).spans).filter((edit) => edit.played).length
    const before = await played()
    expect([before, edits((await bodyOf(id)).spans).length > 1]).toEqual([0, true])
    // nothing of its sound is here but the waves
    await page.route('**/api/tapes/*/sound/sound/**', (route) => route.abort())
    await page.reload()
    await sheetDrawn(page)
    await page.getByTestId('joins').getByRole('button').first().click()
    await page.keyboard.press('Shift+Enter')
    await page.getByText('Playing stopped: the sound can’t be fetched').waitFor({ timeout: 20_000 })
    await page.waitForTimeout(500)
    expect(await played()).toBe(before)
    expect(await isPlaying(page)).toBe(false)
  })

  it('says that it waits while sound is slow to come', async () => {
    const { page } = await visit(`/tapes/${QUAY}`)
    await sheetDrawn(page)
    await page.route('**/api/tapes/*/sound/sound/**', async (route) => {
      await new Promise((done) => setTimeout(done, 1200))
      await route.continue().catch(() => undefined)
    })
    await page.keyboard.press('End')
    await page.keyboard.press('ArrowLeft')
    await page.keyboard.press('Alt+ArrowLeft')
    await page.getByRole('button', { name: 'Play', exact: true }).click()
    await page.getByTitle('Waiting for the sound').waitFor()
    await page.getByTitle('Waiting for the sound').waitFor({ state: 'detached', timeout: 10_000 })
  })

  it('of all joins in a row goes on over an edit that is made meanwhile', async () => {
    const { page, id } = await ownPiece('Nobody told us')
    const before = edits((await bodyOf(id)).spans).map(({ at }) => at)
    expect(before.length).toBeGreaterThan(1)
    // two words of the beginning go, and the joins after them lie earlier
    await selectWords(page, 1, 2)
    await page.keyboard.press('Shift+Enter')
    await until(
      () => position(page),
      (at) => at > before[0] - 96_000,
    )
    await page.keyboard.press('Delete')
    await saved(page)
    const after = edits((await bodyOf(id)).spans).map(({ at }) => at)
    const last = after[after.length - 1]
    expect(last).toBeLessThan(before[before.length - 1] - 4800)
    // the last to be played is the last of the piece as it is now, from 2 s before it to 2 s after
    await until(
      () => isPlaying(page),
      (playing) => !playing,
      30_000,
    )
    const { length } = await page.evaluate(() => ({
      length: (globalThis as unknown as { plainCutPlayer: { plan: { length: number } } }).plainCutPlayer.plan.length,
    }))
    expect(Math.abs((await position(page)) - Math.min(length, last + 96_000))).toBeLessThan(2400)
  })

  async function onPage(): Promise<Page> {
    const { page } = await visit(`/stories/${FERRY}`)
    await page.getByTestId('page').getByText('tie her up.').waitFor()
    return page
  }

  it('is not disturbed by what arrives elsewhere: what is open stays the very same', async () => {
    for (const open of [async () => (await ownPiece()).page, onPage]) {
      const page = await open()
      await page.getByRole('button', { name: 'Play', exact: true }).click()
      await until(
        () => isPlaying(page),
        (playing) => playing,
      )
      await page.getByRole('button', { name: 'Pause', exact: true }).click()
      const same = () =>
        page.evaluate(() => {
          const own = globalThis as unknown as { plainCutPlayer: { plan: unknown }; planBefore?: unknown }
          own.planBefore ??= own.plainCutPlayer.plan
          return own.planBefore === own.plainCutPlayer.plan
        })
      await page.waitForTimeout(500)
      expect(await same()).toBe(true)
      // a tape comes in, gets its figures, and a piece of another story changes
      await bring('while somebody works.wav', makeWav(20))
      await ownPiece()
      await page.waitForTimeout(1000)
      expect(await same()).toBe(true)
    }
  }, 60_000)
})

import { beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import { api, FERRY, figure, until, useBrowser, visit } from './newsroom'

useBrowser()

let page: Page
const seconds = (text: string) => {
  const [, sign, minutes, rest] = /(−?)(\d+):(\d+\.\d)/.exec(text)!
  return (sign ? -1 : 1) * (Number(minutes) * 60 + Number(rest))
}
const now = async () => seconds((await page.getByTestId('countdown-now').textContent())!)
const place = async () => seconds((await page.getByTestId('place').first().textContent())!)
/** What each row says of its time, without the room before it. */
const times = async () => (await page.getByTestId('block-time').allTextContents()).map((text) => /^−?\d+:\d\d(\.\d|:\d\d)/.exec(text)![0])

beforeAll(async () => {
  const { id } = await api<{ id: string }>(`/stories/${FERRY}/duplicate`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: '{}',
  })
  ;({ page } = await visit(`/stories/${id}`))
  await page.getByText('tie her up.').waitFor()
})

describe('a page that is read against tape', () => {
  it('counts down to the next line, to the next tape and to the end, with the words that each begins and ends on', async () => {
    await page.keyboard.press('Alt+Shift+C')
    const panel = page.getByTestId('countdown')
    await panel.getByText('Host intro').waitFor()
    await panel.getByText('Actuality, Piet Aldous').waitFor()
    await panel.getByText('I remember the first', { exact: false }).waitFor()
    // all of it comes from one place of the page: what is left of the intro, and the whole
    const [atStart, left, all] = [await place(), await now(), await figure(page, 'TRT')]
    expect(atStart).toBe(0)
    await page.keyboard.press('Space')
    await until(place, (at) => at > 1)
    await page.keyboard.press('Space')
    const [at, then] = [await place(), await now()]
    expect(Math.abs(left - then - at)).toBeLessThan(0.15)
    const end = panel.getByText('End in').locator('span').last()
    expect(Math.abs(all - at - seconds((await end.textContent())!))).toBeLessThan(0.15)
    // in the actuality its out cue is told
    await page
      .locator('[data-block=actuality]')
      .first()
      .click({ position: { x: 100, y: 10 } })
    await page.keyboard.press('Shift+Space')
    await panel.getByText('tie her up.', { exact: false }).waitFor()
    await page.keyboard.press('Space')
    await page.keyboard.press('Alt+Shift+C')
    await panel.waitFor({ state: 'detached' })
  })

  it('shows when each block must begin for the page to end with its slot, as a time of day', async () => {
    const begins = (await times()).map(seconds)
    await page.getByRole('button', { name: 'From', exact: true }).click()
    const must = await until(times, (all) => /^\d\d:\d\d:\d\d$/.test(all[0]))
    const clockOf = (text: string) => text.split(':').reduce((sum, part) => sum * 60 + Number(part), 0)
    /** How far apart two times of day are, in seconds, also where midnight lies between them. */
    const apart = (a: number, b: number) => Math.abs(((a - b + 36 * 3600) % (24 * 3600)) - 12 * 3600)
    must.forEach((time, i) => expect(apart(clockOf(time), clockOf(must[0]) + begins[i] - begins[0])).toBeLessThan(1.11))
    // the page is too long for its slot by so much: it must begin that much before its air time
    const airs = await page.getByText(/Airs .*\d\d:\d\d/).textContent()
    const over = seconds((await page.getByText(/over by/).textContent())!)
    const due = clockOf(`${/\d\d:\d\d/.exec(airs!)![0]}:00`) - over
    expect(apart(clockOf(must[0]), due)).toBeLessThan(1.01)
    await page.keyboard.press('Alt+Shift+B')
    await until(times, (all) => all[0] === '0:00.0')
  })
})

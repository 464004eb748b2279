import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { AxeResults } from 'axe-core'
import { describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import { FERRY, pieceOf, QUAY, until, useBrowser, visit, sheetDrawn, selection, word } from './newsroom'

useBrowser()

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

const ALL = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']
/** All that differs by night. */
const COLOURS = ['color-contrast']

async function violations(page: Page, runOnly = ALL, within = 'html'): Promise<string[]> {
  await page.evaluate(axe)
  const { violations: found } = await page.evaluate(
    ([rules, part]) =>
      (globalThis as unknown as { axe: { run: (within: string, options: object) => Promise<AxeResults> } }).axe.run(part, {
        runOnly: rules,
        // nobody reads of what is well
        resultTypes: ['violations'],
      }),
    [runOnly, within] as const,
  )
  return found.flatMap((one) => one.nodes.map((node) => `${one.id}: ${node.html.slice(0, 160)} ${node.any[0]?.message ?? ''}`))
}

const VIEWS: [string, () => Promise<string>, string][] = [
  ['Desk', async () => '/', 'Stories'],
  ['Tapes', async () => '/tapes', 'on disk'],
  ['Record', async () => '/record', 'No input.'],
  ['Sheet', async () => `/tapes/${QUAY}`, 'Pulled from this tape'],
  ['Bench', async () => `/pieces/${(await pieceOf('Nobody told us')).id}`, 'Close-up'],
  ['Fair-edit record', async () => `/pieces/${(await pieceOf('Nobody told us')).id}/record`, 'It shows what was done'],
  ['Page', async () => `/stories/${FERRY}`, 'tie her up.'],
  ['Script', async () => `/stories/${FERRY}/script`, 'tie her up.'],
]

describe.each(VIEWS)('%s', (_name, path, shows) => {
  it('is within reach of everybody, by day and by night, in 1024, 1280 and 1920 pixels', async () => {
    const { page, context, complaints } = await visit(await path())
    await page.getByText(shows).first().waitFor()
    await page.waitForTimeout(400)
    expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe('day')
    expect(await violations(page)).toEqual([])
    await page.evaluate(() => (localStorage.theme = 'night'))
    await page.reload()
    await page.getByText(shows).first().waitFor()
    await page.waitForTimeout(400)
    expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe('night')
    expect(await violations(page, COLOURS)).toEqual([])
    expect(complaints).toEqual([])

    // and nothing is cut off at whatever width
    for (const width of [1024, 1280, 1920]) {
      await page.setViewportSize({ width, height: 800 })
      await page.waitForTimeout(300)
      const spills = await page.evaluate(() => {
        const wide = document.documentElement.scrollWidth - innerWidth
        const cut = [...document.querySelectorAll('header, footer')]
          .filter((bar) => bar.scrollWidth > bar.clientWidth + 1)
          .map((bar) => bar.tagName)
        return wide > 0 ? [...cut, 'page'] : cut
      })
      expect(spills, `at ${width} pixels`).toEqual([])
    }
    await context.close()
  })
})

describe('dialogs', () => {
  it('are within reach too, and Escape backs out of them', async () => {
    const { page } = await visit(`/stories/${FERRY}`)
    await page.getByText('tie her up.').waitFor()
    for (const [key, shows] of [
      ['?', 'Click a key'],
      ['Control+k', 'Type a part'],
      ['Control+Enter', 'Previous sends'],
      ['t', 'Add an actuality'],
    ]) {
      await page.keyboard.press(key)
      await page.getByRole('dialog').waitFor()
      if (shows !== 'Type a part') await page.getByText(shows).first().waitFor()
      await page.waitForTimeout(300)
      expect(await violations(page, ALL, '[role=dialog]')).toEqual([])
      await page.keyboard.press('Escape')
      await page.getByRole('dialog').waitFor({ state: 'detached' })
    }
  })

  it('find a command by name and do it', async () => {
    const { page } = await visit('/')
    await page.getByText('Stories').waitFor()
    await page.keyboard.press('Control+k')
    await page.getByPlaceholder('Type to search commands …').waitFor()
    await page.keyboard.type('dark theme')
    await page.keyboard.press('Enter')
    await until(
      () => page.evaluate(() => document.documentElement.dataset.theme),
      (theme) => theme === 'night',
    )
    // paper stays white, and what is printed on it black
    await page.emulateMedia({ media: 'print' })
    const { front, ground } = await page.evaluate(() => ({
      front: getComputedStyle(document.querySelector('h1')!).color,
      ground: getComputedStyle(document.body).backgroundColor,
    }))
    expect([front, ground]).toEqual(['rgb(0, 0, 0)', 'rgb(255, 255, 255)'])
    await page.emulateMedia({ media: 'screen' })
  })

  it('give a command another key', async () => {
    const { page } = await visit('/')
    await page.getByText('Stories').waitFor()
    await page.keyboard.press('?')
    await page.getByRole('button', { name: /Another key for: Go to Tapes/ }).click()
    await page.keyboard.press('v')
    await page.keyboard.press('Escape')
    await page.keyboard.press('v')
    await page.waitForURL(/\/tapes$/)
  })
})

it('a finger scrolls up and down, chooses sideways, and takes out', async () => {
  const { page, context } = await visit(`/tapes/${QUAY}`)
  await sheetDrawn(page)
  const touch = await context.newCDPSession(page)
  const finger = (type: string, points: { x: number; y: number }[]) =>
    touch.send('Input.dispatchTouchEvent', { type: type as 'touchStart', touchPoints: points })
  const from = await word(page, 'Nurses')
  const to = await word(page, 'shift.')
  await finger('touchStart', [from])
  for (let i = 1; i <= 6; i++) await finger('touchMove', [{ x: from.x + ((to.x - from.x) * i) / 6, y: from.y }])
  await finger('touchEnd', [])
  const chosen = await selection(page)
  expect(chosen).not.toBeNull()
  await page.getByRole('button', { name: 'Strike' }).click()
  expect(await selection(page)).toBeNull()
  await page.keyboard.press('Control+z')
})

it('says so where there is nothing', async () => {
  const { page } = await visit('/tapes/00000000-0000-4000-8000-000000000000')
  await page.getByText('That tape is not here.').waitFor()
  await page.goto(new URL('/pieces/00000000-0000-4000-8000-000000000000', page.url()).href)
  await page.getByText('Piece not found').waitFor()
  await page.goto(new URL('/nowhere', page.url()).href)
  await page.getByText('There is no page at this address.').waitFor()
})

it('says so where a view cannot go on, and opens it again', async () => {
  const { page } = await visit('/')
  await page.getByText('Stories').waitFor()
  await page.route('**/assets/PageView-*.js', (route) => route.abort())
  await page.getByRole('link', { name: 'The night ferry' }).first().click()
  await page.getByText('This screen crashed; your edits are saved.').waitFor()
  await page.goBack()
  await page.getByText('Stories').waitFor()
  await page.goForward()
  await page.getByText('This screen crashed; your edits are saved.').waitFor()
  await page.unroute('**/assets/PageView-*.js')
  await page.getByRole('button', { name: 'Reload' }).click()
  await page.getByText('tie her up.').first().waitFor()
})

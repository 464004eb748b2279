import { chromium } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freePort } from '../scripts/cluster'
import { serve, type Serving } from '../scripts/serving'
import type { StoredDocument } from '../contract/documents'
import type { Actuality } from '../core/edits/actuality'
import { CHROMIUM } from './browser'
import { here } from './here'
import { api, dragWords, open, pieceOf, saved, sheetDrawn, until, useBrowser, visit } from './newsroom'

useBrowser()

/** A piece of one's own to cut in, like the demo's. */
async function copyOf(slug: string): Promise<string> {
  const { body } = await pieceOf(slug)
  const id = crypto.randomUUID()
  await api(`/documents/${id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ ...body, slug: `${slug}, ${id.slice(0, 4)}` }),
  })
  return id
}
const stored = (id: string, address = here.address): Promise<StoredDocument & { body: Actuality }> =>
  fetch(`${address}/api/documents/${id}`).then((answer) => answer.json()) as never
const joins = (page: import('playwright-core').Page) => page.getByTestId('joins').getByRole('button')

describe('two who cut one piece', () => {
  it('see each other’s cuts at once, and both cuts hold', async () => {
    const id = await copyOf('Nobody told us')
    const one = await visit(`/pieces/${id}`)
    const two = await visit(`/pieces/${id}`)
    await Promise.all([sheetDrawn(one.page), sheetDrawn(two.page)])
    await dragWords(one.page, 'Nobody', 'us.')
    await dragWords(two.page, 'engine', 'running,')
    await Promise.all([one.page.keyboard.press('Backspace'), two.page.keyboard.press('Backspace')])
    await until(
      async () => [await joins(one.page).count(), await joins(two.page).count()],
      ([a, b]) => a === 5 && b === 5,
      5000,
    )
    await saved(one.page)
    expect((await stored(id)).body.spans).toHaveLength(6)
    // undo takes back one's own, under what the other did
    await one.page.keyboard.press('Control+z')
    await until(
      () => joins(two.page).count(),
      (count) => count === 4,
    )
    await one.page.getByText('Nobody told us').first().waitFor()
    await two.page.keyboard.press('Control+z')
    await until(
      () => joins(one.page).count(),
      (count) => count === 3,
    )
  })

  it('are told when both touch the same place, and see the newer state', async () => {
    const id = await copyOf('Nobody told us')
    const one = await visit(`/pieces/${id}`)
    const two = await visit(`/pieces/${id}`)
    await Promise.all([sheetDrawn(one.page), sheetDrawn(two.page)])
    let letThrough: () => void = () => undefined
    const later = new Promise<void>((done) => (letThrough = done))
    await two.context.route('**/api/documents/*/steps', async (route) => {
      await later
      await route.continue()
    })
    // nor does the second hear of the first before its own step is on the way
    await two.context.route('**/api/documents/*/log*', async (route) => {
      await later
      await route.continue()
    })
    await dragWords(two.page, 'told', 'us.')
    await two.page.keyboard.press('Backspace')
    await dragWords(one.page, 'Nobody', 'us.')
    await one.page.keyboard.press('Backspace')
    await until(
      () => stored(id),
      ({ revision }) => revision === 1,
    )
    letThrough()
    await two.page.getByText('changed the same place first').waitFor()
    await saved(two.page)
    const { body } = await stored(id)
    expect(body.spans).toHaveLength(5)
    await until(
      () => joins(two.page).count(),
      (count) => count === 4,
    )
  })
})

describe('undo', () => {
  it('reaches back past a reload', async () => {
    const id = await copyOf('No boat till six')
    const before = (await stored(id)).body
    const { page } = await visit(`/pieces/${id}`)
    await sheetDrawn(page)
    await dragWords(page, 'mother', 'on')
    await page.keyboard.press('Backspace')
    await saved(page)
    await page.getByLabel('Slug').fill('Island')
    await page.keyboard.press('Enter')
    await until(
      () => stored(id),
      ({ body }) => body.slug === 'Island',
    )
    await page.reload()
    await sheetDrawn(page)
    await page.keyboard.press('Control+z')
    await until(
      () => stored(id),
      ({ body }) => body.slug === before.slug,
    )
    await page.keyboard.press('Control+z')
    await until(
      () => stored(id),
      ({ body }) => JSON.stringify(body.spans) === JSON.stringify(before.spans),
    )
    await page.keyboard.press('Control+Shift+z')
    await until(
      () => stored(id),
      ({ body }) => body.spans.length === before.spans.length + 1,
    )
  })
})

describe('a crash', () => {
  const start = (port: number): Promise<Serving> =>
    serve({ PORT: String(port), PLAIN_CUT_DATA: here.data, PLAIN_CUT_DATABASE: here.database, PLAIN_CUT_DEMO: 'none' })

  it('of the server stops nobody: steps wait, and go in when it is back', async () => {
    const id = await copyOf('Nobody told us')
    const port = await freePort()
    const address = `http://localhost:${port}`
    let server = await start(port)
    const visitor = await visit('/')
    await visitor.page.goto(`${address}/pieces/${id}`)
    const { page } = visitor
    await sheetDrawn(page)
    server.child.kill('SIGKILL')
    await dragWords(page, 'Nobody', 'us.')
    await page.keyboard.press('Backspace')
    await page.getByTestId('save-state').getByText('not saved yet').waitFor()
    await dragWords(page, 'engine', 'running,')
    await page.keyboard.press('Backspace')
    await until(
      () => joins(page).count(),
      (count) => count === 5,
    )
    server = await start(port)
    await saved(page)
    expect((await stored(id, address)).body.spans).toHaveLength(6)
    await server.stop()
  })

  it('of the server in the middle of a send ends in a file all the same', async () => {
    const piece = await pieceOf('Nobody told us')
    const port = await freePort()
    const address = `http://localhost:${port}`
    let server = await start(port)
    const order = {
      what: { kind: 'actuality', id: piece.id },
      format: 'mp3',
      rate: 44_100,
      bits: 24,
      channels: 2,
      kbps: 192,
      unrecorded: 'out',
      pattern: '{slug}',
    }
    const placed = await fetch(`${address}/api/sends`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(order),
    })
    const { id } = (await placed.json()) as { id: string }
    server.child.kill('SIGKILL')
    server = await start(port)
    await until(
      () => api<{ state: string }>(`/sends/${id}`),
      (receipt) => receipt.state === 'done',
      20_000,
    )
    await server.stop()
  })

  it('of the browser loses nothing: what waited goes in at the next visit', async () => {
    const id = await copyOf('Nobody told us')
    const port = await freePort()
    const address = `http://localhost:${port}`
    let server = await start(port)
    const profile = mkdtempSync(join(tmpdir(), 'plain-cut-profile-'))
    let context = await chromium.launchPersistentContext(profile, CHROMIUM)
    let page = await context.newPage()
    await page.goto(`${address}/pieces/${id}`)
    await sheetDrawn(page)
    server.child.kill('SIGKILL')
    await dragWords(page, 'Nobody', 'us.')
    await page.keyboard.press('Backspace')
    await page.getByTestId('save-state').getByText('not saved yet').waitFor()
    await page.waitForTimeout(300)
    const session = await context
      .browser()
      ?.newBrowserCDPSession()
      .catch(() => null)
    if (session) await session.send('Browser.crash').catch(() => undefined)
    else await context.close()
    server = await start(port)
    context = await chromium.launchPersistentContext(profile, CHROMIUM)
    page = await context.newPage()
    await page.goto(address) // not even the piece itself
    await until(
      () => stored(id, address),
      ({ body }) => body.spans.length === 5,
      15_000,
    )
    await context.close()
    await server.stop()
  })
})

it('what is done in one tab is seen in another of the same browser', async () => {
  const id = await copyOf('Nobody told us')
  const one = await visit(`/pieces/${id}`)
  const two = await open(one.context, `/pieces/${id}`)
  await sheetDrawn(two.page)
  await one.page.bringToFront()
  await sheetDrawn(one.page)
  await one.page.getByLabel('Slug').fill('Till six')
  await one.page.keyboard.press('Enter')
  await until(
    () => two.page.getByLabel('Slug').inputValue(),
    (value) => value === 'Till six',
    2000,
  )
})

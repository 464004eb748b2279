import type { Browser, BrowserContext, Locator, Page } from 'playwright-core'
import { afterAll, afterEach, beforeAll, beforeEach, expect } from 'vitest'
import type { Desk, PieceRow } from '../contract/desk'
import type { TapeInfo } from '../contract/tapes'
import type { StoredDocument } from '../contract/documents'
import type { Receipt } from '../contract/sends'
import type { Actuality } from '../core/edits/actuality'
import { launch } from './browser'
import { here } from './here'
import { readWav, type Wav } from './wav'

/** What tests do over and over, in the words of those who do it. */

import { FERRY } from './demoIds'

export { AMBIENCE, COUNCIL, FERRY, QUAY, TRACKS } from './demoIds'

let browser: Browser
/** What was opened by the test that runs; null between tests, where what is opened is for several. */
let ofTest: BrowserContext[] | null = null

/** One Chromium for a file of tests. What a test opens is closed with it: a page that goes on playing would slow those after it. */
export function useBrowser(): void {
  beforeAll(async () => {
    browser = await launch()
  })
  beforeEach(() => {
    ofTest = []
  })
  afterEach(async () => {
    await Promise.all(ofTest?.map((context) => context.close()) ?? [])
    ofTest = null
  })
  afterAll(() => browser.close())
}

export interface Visit {
  page: Page
  context: BrowserContext
  /** What the page complained of. */
  complaints: string[]
}

/** Opens a path as somebody new: a browser of their own. */
export async function visit(path: string, size = { width: 1280, height: 800 }): Promise<Visit> {
  const context = await browser.newContext({ viewport: size, acceptDownloads: true })
  ofTest?.push(context)
  return open(context, path)
}

export async function open(context: BrowserContext, path: string): Promise<Visit> {
  const page = await context.newPage()
  const complaints: string[] = []
  page.on('pageerror', (error) => complaints.push(error.message))
  // from the start: a chooser that opens before anybody listens is never told of
  page.on('filechooser', () => undefined)
  await page.goto(here.address + path)
  return { page, context, complaints }
}

export async function api<T>(path: string, init?: RequestInit): Promise<T> {
  // a connection that the server closed while this process was busy is seen to be closed before it is used again
  await new Promise(setImmediate)
  const response = await fetch(`${here.address}/api${path}`, init)
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
  return response.json() as Promise<T>
}

export const pieces = (story?: string): Promise<PieceRow[]> => api(story ? `/pieces?story=${story}` : '/pieces')
export const pieceOf = async (slug: string): Promise<PieceRow> => (await pieces()).find((row) => row.body.slug === slug)!
/** What a piece is, at the server. */
export const bodyOf = async (id: string): Promise<Actuality> => (await api<StoredDocument & { body: Actuality }>(`/documents/${id}`)).body

/** A piece of one's own to work on, on its Bench: made of one that is there, or of a body. */
export async function ownPiece(
  of: string | Actuality = 'No boat till six',
  more: Partial<Actuality> = {},
): Promise<Visit & { id: string }> {
  const body = typeof of === 'string' ? (await pieceOf(of)).body : of
  const id = crypto.randomUUID()
  await api(`/documents/${id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ ...body, slug: 'tried', story: null, ...more }),
  })
  const visited = await visit(`/pieces/${id}`)
  await sheetDrawn(visited.page)
  return { ...visited, id }
}

/** A copy of the demo's ferry, for a test of its own. Gives its id. */
export async function ownFerry(): Promise<string> {
  const { id } = await api<{ id: string }>(`/stories/${FERRY}/duplicate`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: '{}',
  })
  return id
}

/** Sends all of a piece or of a page as a WAV, in mono unless asked otherwise, and gives its receipt. */
export async function send(id: string, kind: 'actuality' | 'story' = 'actuality', channels: 1 | 2 = 1): Promise<Receipt> {
  const earlier = (await api<Receipt[]>(`/sends?of=${id}`)).length
  await api('/sends', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({
      what: { kind, id },
      format: 'wav',
      rate: 48_000,
      bits: 24,
      channels,
      kbps: 192,
      unrecorded: 'out',
      pattern: '{slug}',
    }),
  })
  await until(
    () => api<Receipt[]>(`/sends?of=${id}`),
    (list) => list.length > earlier,
  )
  return sent(id)
}

/** The WAV of all of a piece or of a page, as it would be sent. */
export const soundOf = async (id: string, kind?: 'actuality' | 'story', channels?: 1 | 2): Promise<Wav> =>
  readWav(await fileOf(await send(id, kind, channels)))

/** Asks for the tapes that came in since the test began: one of the same name may be there from another. */
export function watchTapes(): () => Promise<TapeInfo[]> {
  let before = new Set<string>()
  beforeEach(async () => {
    before = new Set((await api<TapeInfo[]>('/tapes')).map(({ id }) => id))
  })
  return async () => (await api<TapeInfo[]>('/tapes')).filter(({ id }) => !before.has(id))
}

export const desk = (): Promise<Desk> => api('/desk')

/** Tries until it holds. */
export async function until<T>(look: () => Promise<T> | T, holds: (value: T) => boolean, limit = 10_000): Promise<T> {
  const end = Date.now() + limit
  for (;;) {
    const value = await look()
    if (holds(value)) return value
    if (Date.now() > end) expect.fail(`it did not come to that: ${JSON.stringify(value)?.slice(0, 300)}`)
    await new Promise((done) => setTimeout(done, 50))
  }
}

/** The Sheet once it is painted with all its peaks. */
export const sheetDrawn = (page: Page): Promise<unknown> => page.waitForSelector('canvas[data-drawn=words], canvas[data-drawn=even]')

/** Chooses a join in the list beside a Bench, which shows it a moment later; gives what the join reads. */
export async function chooseJoin(join: Locator): Promise<string> {
  await join.click()
  await until(
    () => join.getAttribute('aria-pressed'),
    (pressed) => pressed === 'true',
  )
  return (await join.innerText()).split('\n')[0]
}

/** Where something stands, once it does: what is drawn anew is nowhere for a moment. */
export async function boxOf(spot: Locator): Promise<{ x: number; y: number; width: number; height: number }> {
  await spot.waitFor({ state: 'attached' })
  return (await until(
    () => spot.boundingBox(),
    (found) => found !== null,
  ))!
}

/** A word on the Sheet, by what it says and which time it is said in view. */
export async function word(page: Page, text: string, nth = 0): Promise<{ x: number; y: number }> {
  const spot: Locator = page.locator('[data-word]', { hasText: new RegExp(`^${text.replace(/[.?]/g, '\\$&')} $`) }).nth(nth)
  const box = await boxOf(spot)
  return { x: box.x + Math.min(10, box.width / 2), y: box.y + 12 }
}

/** The Sheet once it has come to rest: while it scrolls, words are not where they were. */
export async function atRest(page: Page): Promise<void> {
  let last = NaN
  await until(
    async () => {
      const top = await page.locator('[role=region]:has(canvas[data-painted])').evaluate((region) => region.scrollTop)
      await page.waitForTimeout(230)
      const still = top === last
      last = top
      return still
    },
    (still) => still,
  )
}

/** Drags over words, from one to another. */
export async function dragWords(page: Page, from: string, to: string, nth = 0): Promise<void> {
  await atRest(page)
  const a = await word(page, from, nth)
  const b = await word(page, to, nth)
  await page.mouse.move(a.x, a.y)
  await page.mouse.down()
  await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 3 })
  await page.mouse.move(b.x, b.y, { steps: 3 })
  await page.mouse.up()
}

/** The selection as its figures say, in seconds. */
export async function selection(page: Page): Promise<{ from: number; to: number } | null> {
  const fields = page.locator('[data-testid=selection] input')
  if ((await fields.count()) === 0) return null
  const [from, to] = await Promise.all([fields.nth(0).inputValue(), fields.nth(1).inputValue()])
  return { from: seconds(from), to: seconds(to) }
}

export const seconds = (text: string): number =>
  text
    .replace('−', '-')
    .split(':')
    .reduce((sum, part) => sum * 60 + Number(part), 0)

/** A figure at the foot of a page: "TRT", "in the file". */
export async function figure(page: Page, name: string): Promise<number> {
  const text = await page.locator('[data-testid=figures]').innerText()
  return seconds(new RegExp(`${name}\\s+([\\d:.]+)`).exec(text)![1])
}

export const saved = (page: Page): Promise<void> => page.locator('[data-testid=save-state]', { hasText: /^saved$/ }).waitFor()

/** A key, so many times. */
export async function press(page: Page, key: string, times = 1): Promise<void> {
  for (let i = 0; i < times; i++) await page.keyboard.press(key)
}

/** How many places of a kind are open in Tidy. */
export const openOf = async (page: Page, kind: string): Promise<number> =>
  Number(
    /(\d+)/.exec(
      await page
        .getByTestId('tidy-kinds')
        .getByRole('button', { name: new RegExp(kind) })
        .innerText(),
    )![1],
  )

/** Selects words by keyboard alone: so many steps from the beginning on, so many words. */
export async function selectWords(page: Page, stepsOn: number, count = 1): Promise<void> {
  await press(page, 'Home')
  await press(page, 'Control+ArrowRight', stepsOn)
  await press(page, 'Shift+ArrowRight', count)
}

/** Tabs along until what has the focus is called so. */
export async function tabTo(page: Page, name: RegExp): Promise<void> {
  for (let i = 0; i < 80; i++) {
    const focused = await page.evaluate(() => {
      const element = document.activeElement
      return element?.getAttribute('aria-label') ?? element?.textContent ?? ''
    })
    if (name.test(focused.trim())) return
    await page.keyboard.press('Tab')
  }
  expect.fail(`nothing called ${name} was reached`)
}

/** Waits for the newest receipt of something to be done. */
export const sent = (of: string): Promise<Receipt> =>
  until(
    async () => (await api<Receipt[]>(`/sends?of=${of}`))[0],
    (receipt) => receipt?.state === 'done' || receipt?.state === 'failed',
    30_000,
  )

export const fileOf = async (receipt: Receipt): Promise<Buffer> =>
  Buffer.from(await (await fetch(`${here.address}/api/sends/${receipt.id}/file`)).arrayBuffer())

/** Sends a file the way the application does, all at once; gives the tape as soon as it is in, or refused. */
export async function bring(name: string, file: Buffer, limit = 20_000): Promise<TapeInfo> {
  // after long reckoning a connection that was kept may have ended unnoticed: time to notice
  await new Promise((done) => setTimeout(done, 50))
  const answer = await fetch(`${here.address}/api/uploads`, {
    method: 'POST',
    headers: {
      'Tus-Resumable': '1.0.0',
      'Upload-Length': String(file.length),
      'Upload-Metadata': `filename ${Buffer.from(name).toString('base64')}`,
      'Content-Type': 'application/offset+octet-stream',
    },
    body: new Uint8Array(file),
  })
  if (answer.status !== 201) throw new Error(await answer.text())
  return until(
    () => api<TapeInfo>(`/tapes/${answer.headers.get('location')!.split('/').at(-1)}`),
    (tape) => tape.state !== 'arriving',
    limit,
  )
}

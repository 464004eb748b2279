import { chromium, type BrowserContext, type Page } from 'playwright-core'
import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { CHROMIUM } from '../e2e/browser'
import type { Verdict, LoggedEntry, StoredDocument } from '../contract/documents'
import { actualityType, type Actuality, type ActualityStep } from '../core/edits/actuality'
import { applyAll } from '../core/steps/document'
import { random } from '../core/sound/random'
import { RATE, toFrames } from '../core/time'
import { durableArrivals } from './durableArrivals'
import { report } from './figure'
import { makeTape, openNewsroom } from './newsroom'
import { words } from './speechlike'

/**
 * Two browsers cut one piece without pause, while the server is killed ten times and the browsers
 * ten, each at a moment drawn at random. What was accepted must be there at the end, and all must
 * agree. What was accepted is known by the answers that came through the wire.
 */

const KILLS = 10
const next = random(20_261)
const newsroom = await openNewsroom()
const length = toFrames(300)
const tape = await makeTape(newsroom, length, words(length, 700))
const { address } = newsroom
let server = await newsroom.start()

const id = crypto.randomUUID()
const start: Actuality = {
  kind: 'actuality',
  slug: 'Cut by two',
  speaker: '',
  role: '',
  story: null,
  head: 0,
  tail: 0,
  spans: [{ tape, from: 0, to: length, sound: 'tape' }],
}
await fetch(`${address}/api/documents/${id}`, {
  method: 'PUT',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(start),
})

/** Acts of which a browser was told that they are accepted. */
const accepted = new Set<string>()
let kills = 0

interface Client {
  profile: string
  context: BrowserContext
  page: Page
}

async function open(profile: string): Promise<Client> {
  const context = await chromium.launchPersistentContext(profile, { ...CHROMIUM, viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  page.on('response', (response) => {
    if (!response.url().endsWith('/steps') || !response.ok()) return
    const sent = response.request().postDataJSON() as { entries: { id: string }[] }
    void response.json().then(
      ({ taken }: Verdict) => sent.entries.slice(0, taken.length).forEach((entry) => accepted.add(entry.id)),
      () => undefined,
    )
  })
  for (let tries = 0; ; tries++) {
    try {
      await page.goto(`${address}/pieces/${id}`)
      await page.waitForSelector('canvas[data-drawn]', { timeout: 20_000 })
      return { profile, context, page }
    } catch (error) {
      if (tries > 20) throw error
      await new Promise((done) => setTimeout(done, 500)) // the server may be down just now
    }
  }
}

/** Ends a browser as the power does: all its processes, at once. */
async function killBrowser({ profile, context }: Client): Promise<void> {
  spawnSync('pkill', ['-KILL', '-f', profile])
  await context.close().catch(() => undefined)
}

/** Cuts and names, at random places, as fast as a hurried hand. */
async function cutOnce({ page }: Client): Promise<void> {
  const box = await page.getByRole('region', { name: /Bench/ }).boundingBox()
  if (!box) return
  const x = box.x + 160 + next() * (box.width - 260)
  const y = box.y + 60 + Math.floor(next() * 4) * 91
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + 8 + next() * 22, y, { steps: 2 })
  await page.mouse.up()
  await page.keyboard.press(next() < 0.8 ? 'Backspace' : 'Shift+Backspace')
  if (next() < 0.15) await page.keyboard.press('Control+z')
}

let clients = await Promise.all([0, 1].map((n) => open(mkdtempSync(join(tmpdir(), `plain-cut-profile-${n}-`)))))
let streaming = true
const stream = async (which: number) => {
  while (streaming) {
    await cutOnce(clients[which]).catch(() => new Promise((done) => setTimeout(done, 200)))
    await new Promise((done) => setTimeout(done, 60 + next() * 120))
  }
}
const streams = [stream(0), stream(1)]

for (let round = 0; round < KILLS; round++) {
  await new Promise((done) => setTimeout(done, 800 + next() * 1800))
  server.child.kill('SIGKILL')
  kills++
  await new Promise((done) => setTimeout(done, 300 + next() * 900))
  server = await newsroom.start()
  await new Promise((done) => setTimeout(done, 800 + next() * 1800))
  const which = round % 2
  await killBrowser(clients[which])
  kills++
  clients[which] = await open(clients[which].profile)
}
streaming = false
await Promise.all(streams)

// all rest once nothing waits any more
for (const { page } of clients) await page.locator('[data-testid=save-state]', { hasText: /^saved$/ }).waitFor({ timeout: 60_000 })
await new Promise((done) => setTimeout(done, 1500))

const stored = (await (await fetch(`${address}/api/documents/${id}`)).json()) as StoredDocument & { body: Actuality }
const log = (await (await fetch(`${address}/api/documents/${id}/log?since=0`)).json()) as LoggedEntry[]
const kept = new Set(log.map((entry) => entry.id))
const lost = [...accepted].filter((entry) => !kept.has(entry)).length

// what each browser shows, by its own figures, and what the log comes to when it is played again
const replayed = applyAll(
  actualityType,
  start,
  log.flatMap((entry) => entry.steps as ActualityStep[]),
)
const same = (a: unknown, b: unknown) => JSON.stringify(sorted(a)) === JSON.stringify(sorted(b))
const documents: unknown[] = [replayed]
for (const { page } of clients)
  documents.push(
    await page.evaluate(
      (piece) => (globalThis as unknown as { plainCutDocument: (id: string) => Promise<unknown> }).plainCutDocument(piece),
      id,
    ),
  )
const diverged = documents.filter((document) => !same(document, stored.body)).length

/** The same value with its keys in order: the database keeps them in its own. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, one]) => [key, sorted(one)]),
  )
}

report({ measure: 'durable', name: 'durable.kills', value: kills, unit: 'kills' })
report({ measure: 'durable', name: 'durable.accepted', value: accepted.size, unit: 'acts' })
report({ measure: 'durable', name: 'durable.lost', value: lost, unit: 'acts' })
report({ measure: 'durable', name: 'durable.diverged', value: diverged, unit: 'documents' })
report({
  measure: 'durable',
  name: 'durable.length',
  value: replayed.spans.reduce((sum, span) => sum + span.to - span.from, 0) / RATE,
  unit: 's',
})

for (const { context, profile } of clients) {
  await context.close()
  rmSync(profile, { recursive: true, force: true })
}
server = await durableArrivals(newsroom, server)
await server.stop()
await newsroom.close()

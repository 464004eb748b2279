import { chromium, type BrowserContext, type Page } from 'playwright-core'
import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { StoredDocument } from '../contract/documents'
import { newStory, type Block, type StoryDocument } from '../core/page/story'
import { random } from '../core/sound/random'
import { CHROMIUM } from '../e2e/browser'
import { report } from './figure'
import { openNewsroom } from './newsroom'

/**
 * Copy that is written: a browser is killed while somebody types, twenty times, and what was typed before must be
 * there; then two people type in one line at the same time, and every character of both must be there.
 */

const KILLS = 20
const KEY_MS = 30
const EACH = 500
const next = random(77)
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms))
const newsroom = await openNewsroom()
const { address } = newsroom
const server = await newsroom.start()

async function send(method: string, path: string, body: object): Promise<void> {
  const answer = await fetch(`${address}/api${path}`, {
    method,
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  })
  if (!answer.ok) throw new Error(await answer.text())
}

async function storyWith(text: string): Promise<string> {
  const id = crypto.randomUUID()
  const block: Block = {
    id: crypto.randomUUID(),
    kind: 'copy',
    order: 'a0',
    aside: false,
    text,
    reader: 'Tamsin Roe',
    pace: 170,
    piece: null,
  }
  await send('PUT', `/documents/${id}`, newStory({ slug: 'Written' }, { id: crypto.randomUUID() }))
  await send('POST', `/documents/${id}/steps`, {
    base: 0,
    entries: [{ id: crypto.randomUUID(), author: crypto.randomUUID(), label: 'add copy', steps: [{ type: 'put', record: block }] }],
  })
  return id
}

const textOf = async (id: string): Promise<string> => {
  const { body } = (await (await fetch(`${address}/api/documents/${id}`)).json()) as StoredDocument & { body: StoryDocument }
  return (Object.values(body.records).find((record) => record.kind === 'copy') as Block).text
}

async function openLine(context: BrowserContext, id: string, at: 'Home' | 'End'): Promise<Page> {
  const page = context.pages()[0] ?? (await context.newPage())
  await page.goto(`${address}/stories/${id}`)
  await page.getByLabel('Copy, words').first().click()
  await page.keyboard.press(`Control+${at}`)
  return page
}

const LETTERS = 'abcdefghijklmnopqrstuvwxyz'

// --- killed while one types
const folder = mkdtempSync(join(tmpdir(), 'plain-cut-typing-'))
let worst = 0
for (let kill = 0; kill < KILLS; kill++) {
  const profile = join(folder, `profile-${kill}`)
  const id = await storyWith('')
  const context = await chromium.launchPersistentContext(profile, { ...CHROMIUM, viewport: { width: 1280, height: 800 } })
  const page = await openLine(context, id, 'End')
  const typed: { letter: string; at: number }[] = []
  let killed = 0
  const typing = (async () => {
    while (!killed) {
      const letter = LETTERS[Math.floor(next() * LETTERS.length)]
      await page.keyboard.press(letter)
      // when the page has it
      if (!killed) typed.push({ letter, at: performance.now() })
      await wait(KEY_MS)
    }
  })().catch(() => undefined)
  await wait(1500 + next() * 3000)
  killed = performance.now()
  spawnSync('pkill', ['-KILL', '-f', profile])
  await typing
  await context.close().catch(() => undefined)
  const again = await chromium.launchPersistentContext(profile, { ...CHROMIUM, viewport: { width: 1280, height: 800 } })
  const seen = again.pages()[0] ?? (await again.newPage())
  await seen.goto(`${address}/stories/${id}`)
  await seen.getByText('saved', { exact: true }).first().waitFor()
  await wait(1000)
  const kept = await textOf(id)
  await again.close()
  const first = typed.findIndex(({ letter }, i) => kept[i] !== letter)
  if (first >= 0) worst = Math.max(worst, killed - typed[first].at)
}
report({ measure: 'typing', name: 'typing.lost', value: worst, unit: `ms of what was typed before the kill, the most of ${KILLS}` })

// --- two people in one line
const id = await storyWith(' The boat left at midnight. ')
const contexts = await Promise.all(
  ['one', 'two'].map((name) =>
    chromium.launchPersistentContext(join(folder, name), { ...CHROMIUM, viewport: { width: 1280, height: 800 } }),
  ),
)
const pages = [await openLine(contexts[0], id, 'Home'), await openLine(contexts[1], id, 'End')]
const written = ['abcdefghij', '0123456789'].map((signs) =>
  Array.from({ length: EACH }, () => signs[Math.floor(next() * signs.length)]).join(''),
)
await Promise.all(
  pages.map(async (page, i) => {
    for (const sign of written[i]) {
      await page.keyboard.press(sign)
      await wait(next() * 30)
    }
  }),
)
await Promise.all(pages.map((page) => page.getByText('saved', { exact: true }).first().waitFor()))
await wait(1500)
const text = await textOf(id)
const [before, after] = text.split(' The boat left at midnight. ')
const inOrder = (wanted: string, there: string): number =>
  [...wanted].reduce((count, sign) => (there[count] === sign ? count + 1 : count), 0)
report({
  measure: 'typing',
  name: 'typing.merged',
  value: inOrder(written[0], before ?? '') + inOrder(written[1], after ?? ''),
  unit: `of ${2 * EACH} characters of two writers`,
})
for (const context of contexts) await context.close()
rmSync(folder, { recursive: true, force: true })
await server.stop()
await newsroom.close()

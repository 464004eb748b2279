import { createHash } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { expect, it, onTestFinished } from 'vitest'
import pg from 'pg'
import type { StoredDocument } from '../contract/documents'
import type { KeepingInfo } from '../contract/storyFiles'
import type { Receipt } from '../contract/sends'
import { blocksOf, storyHead, type StoryDocument } from '../core/page/story'
import { here } from './here'
import { api, ownFerry, send, soundOf, until, useBrowser, visit } from './newsroom'

useBrowser()

/** Takes a story out of the database with all that came with it. */
async function removeStory(id: string): Promise<void> {
  const database = new pg.Client({ connectionString: here.database })
  await database.connect()
  await database.query(`delete from document where kind = 'tape' and $1 = any(filed_in)`, [id])
  await database.query(`delete from document where body ->> 'story' = $1 or id::text = $1`, [id])
  await database.end()
}

/** Nothing is known any more of something that was sent, nor of where to. */
async function forget(send: string, destination: string): Promise<void> {
  const database = new pg.Client({ connectionString: here.database })
  await database.connect()
  await database.query('delete from send where id = $1', [send])
  await database.query('delete from destination where id = $1', [destination])
  await database.end()
}

const storyOf = async (id: string) => (await api<StoredDocument & { body: StoryDocument }>(`/documents/${id}`)).body

it('a whole story goes into a file and comes back beside itself, sounds the same to the bit, and has its history', async () => {
  const id = await ownFerry()
  const { page, complaints } = await visit(`/stories/${id}`)
  const slug = `Kept ${Date.now() % 100_000}`
  await page.goto(new URL('/', page.url()).href)
  const row = page
    .getByTestId('stories')
    .locator('tr')
    .filter({ has: page.locator(`a[href="/stories/${id}"]`) })
  await row.getByRole('button', { name: /^More for/ }).click()
  await page.getByRole('menuitem', { name: 'Rename' }).click()
  await page.getByLabel('Slug').fill(slug)
  await page.keyboard.press('Enter')
  const renamed = page.getByTestId('stories').locator('tr').filter({ hasText: slug })
  await renamed.getByRole('button', { name: /^More for/ }).click()
  await page.getByRole('menuitem', { name: 'Save as a story file' }).click()
  const files = page.getByTestId('story-files')
  const [download] = await Promise.all([
    page.waitForEvent('download', { timeout: 90_000 }),
    files.locator('li').filter({ hasText: slug }).getByRole('link', { name: /^Save/ }).click({ timeout: 90_000 }),
  ])
  const folder = mkdtempSync(join(tmpdir(), 'plain-cut-story-'))
  onTestFinished(() => rmSync(folder, { recursive: true }))
  const path = join(folder, download.suggestedFilename())
  await download.saveAs(path)
  expect(path).toMatch(/Kept-\d+_\d{4}-\d\d-\d\d\.story\.zip$/)

  // its words are found where it lies, before it is back
  await page.getByRole('button', { name: 'Search a folder of them' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Folder on this machine').fill(folder)
  await dialog.getByLabel('Words that were said').fill('no boat')
  await page.keyboard.press('Enter')
  await dialog
    .getByRole('status')
    .getByText(/places? in 1 story file\./)
    .waitFor()
  expect(await dialog.getByTestId('story-hits').innerText()).toMatch(/no boat/i)
  await dialog.getByLabel('Words that were said').fill('submarine')
  await page.keyboard.press('Enter')
  await dialog.getByText('No places in 1 story file.').waitFor()
  await dialog.getByLabel('Folder on this machine').fill('/nowhere at all')
  await page.keyboard.press('Enter')
  await dialog.getByText(/There is no such folder on this machine/).waitFor()
  await page.keyboard.press('Escape')

  // the line is gone in the middle of it: it goes on from where it was
  const offsets: number[] = []
  await page.route('**/api/storyFiles/*', async (route) => {
    if (route.request().method() !== 'PATCH') return route.continue()
    offsets.push(Number(route.request().headers()['upload-offset']))
    return offsets.length === 2 ? route.abort('connectionreset') : route.continue()
  })
  await page.getByLabel('Story file', { exact: true }).setInputFiles(path)
  await files.getByRole('link', { name: 'It is back' }).first().click({ timeout: 90_000 })
  await page.waitForURL((url) => url.pathname.startsWith('/stories/') && !url.pathname.endsWith(id))
  expect(offsets[1]).toBeGreaterThan(0)
  expect(offsets[2]).toBe(offsets[1])
  const copy = new URL(page.url()).pathname.split('/')[2]
  // its tapes say what the demo's say: other tests look for that
  onTestFinished(() => removeStory(copy))
  const [was, is] = [await storyOf(id), await storyOf(copy)]
  expect([storyHead(is).slug, blocksOf(is).length]).toEqual([slug, blocksOf(was).length])
  const log = (story: string) => api<{ label: string }[]>(`/documents/${story}/log`)
  expect((await log(copy)).map(({ label }) => label)).toEqual((await log(id)).map(({ label }) => label))
  const [before, after] = [await soundOf(id, 'story', 2), await soundOf(copy, 'story', 2)]
  expect(after.sound.equals(before.sound)).toBe(true)
  expect((await send(copy, 'story')).frames).toBe(before.frames)
  expect(complaints).toEqual([])
}, 120_000)

const posted = (method: string, body: object): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
})

it('where a story was sent, and the script that went along, come back with it, also where its destination is gone', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'plain-cut-sent-'))
  onTestFinished(() => rmSync(folder, { recursive: true }))
  const id = await ownFerry()
  const destination = crypto.randomUUID()
  const about = { name: 'Newsroom playout', kind: 'folder', address: folder, user: '', field: '', heedsKey: false, sameName: 'ask' }
  await api(`/destinations/${destination}`, posted('PUT', about))
  const order = { format: 'wav', rate: 48_000, bits: 24, channels: 1, kbps: 192, unrecorded: 'out', pattern: '{slug}' }
  await api('/sends', posted('POST', { ...order, what: { kind: 'story', id }, to: [destination], script: true }))
  const ways = (story: string) =>
    until(
      async () => (await api<Receipt[]>(`/sends?of=${story}`))[0],
      (receipt) => receipt?.deliveries.length === 2 && receipt.deliveries.every(({ state }) => state === 'arrived'),
      40_000,
    )
  const was = await ways(id)
  const ended = (keeping: KeepingInfo) =>
    until(
      async () => (await api<KeepingInfo[]>('/keepings')).find((one) => one.id === keeping.id)!,
      ({ state }) => state === 'done',
      60_000,
    )
  const out = await ended(await api<KeepingInfo>(`/keepings/out/${id}`, { method: 'POST' }))
  const path = join(folder, 'sent.story.zip')
  writeFileSync(path, Buffer.from(await (await fetch(`${here.address}/api/keepings/${out.id}/file`)).arrayBuffer()))
  await removeStory(id)
  await forget(was.id, destination)
  const back = await ended(await api<KeepingInfo>('/keepings/backFrom', posted('POST', { path })))
  const copy = back.story!
  onTestFinished(() => removeStory(copy))
  const is = await ways(copy)
  const told = ({ deliveries }: Receipt) =>
    deliveries.map(({ to, fileName, isScript, state, proof, arrived, tries }) => ({ to, fileName, isScript, state, proof, arrived, tries }))
  expect(told(is)).toEqual(told(was))
  expect(is.script).toEqual(was.script)
  const script = Buffer.from(await (await fetch(`${here.address}/api/sends/${is.id}/script`)).arrayBuffer())
  expect(createHash('sha256').update(script).digest('hex')).toBe(was.script!.sha256)
}, 120_000)

it('a file that is none is refused in words', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'plain-cut-story-'))
  onTestFinished(() => rmSync(folder, { recursive: true }))
  writeFileSync(join(folder, 'holiday.zip'), 'no zip at all')
  const { page } = await visit('/')
  await page.getByLabel('Story file', { exact: true }).setInputFiles(join(folder, 'holiday.zip'))
  await page.getByTestId('story-files').getByText('It is not a zip file, or not a whole one. Nothing of it was taken.').waitFor()
})

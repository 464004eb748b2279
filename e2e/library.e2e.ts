import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import pg from 'pg'
import type { LibraryFacts, LibraryPage, PageOrder } from '../contract/library'
import type { TapeInfo } from '../contract/tapes'
import type { Actuality } from '../core/edits/actuality'
import { freePort } from '../scripts/cluster'
import { serve } from '../scripts/serving'
import { here } from './here'
import { api, bring, QUAY, sheetDrawn, until, useBrowser, visit } from './newsroom'
import { makeWav } from './wav'

useBrowser()

let page: Page
let complaints: string[]
const rows = () =>
  page
    .getByTestId('tapes')
    .getByRole('row')
    .evaluateAll((all) => all.slice(1).map((row) => row.querySelector('a')?.textContent ?? ''))
const shows = (names: string[]) => until(rows, (list) => list.join() === names.join())
const ANYTHING: PageOrder['filter'] = {
  text: '',
  state: '',
  tag: '',
  speaker: '',
  story: null,
  from: '',
  to: '',
  shortest: null,
  longest: null,
}
const asked = (filter: Partial<PageOrder['filter']>, order: Partial<PageOrder> = {}) =>
  api<LibraryPage>('/library/page', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ filter: { ...ANYTHING, ...filter }, order: 'name', descending: false, from: 0, count: 200, ...order }),
  })
const library = async () => (await asked({})).rows
const find = (text: string) => page.getByRole('searchbox').fill(text)

beforeAll(async () => {
  // something of the tests' own, which nothing uses
  const tape = await bring('Kelp shed 2026-11-20.wav', makeWav(6))
  if (tape.day !== '2026-11-20') throw new Error(`recorded on ${tape.day}`)
  ;({ page, complaints } = await visit('/tapes'))
  await until(rows, (list) => list.length > 3)
})

describe('tapes are found', () => {
  it('by name, by tag, and by what was said, at the place where it was said', async () => {
    await find('council')
    // by its name, and the others by what is said on them
    await until(rows, (list) => list.includes('Council, by phone') && list.includes('Deckhand, on the quay') && !list.includes('Kelp shed'))
    await find('crew')
    await shows(['Deckhand, on the quay'])
    await find('nobody told us')
    await shows(['Deckhand, on the quay'])
    await page.getByText('“Nobody told us.”').waitFor()
    expect(await page.getByRole('link', { name: /Deckhand/ }).getAttribute('href')).toMatch(new RegExp(`^/tapes/${QUAY}\\?at=\\d+$`))
    await find('nobody at all said this')
    await page.getByText('No tapes match.').waitFor()
    await page.getByRole('button', { name: 'Show all' }).click()
    await until(rows, (list) => list.length >= 6)
  })

  it('by speaker, day and length together, and such a search is kept', async () => {
    await page.getByLabel('From day').fill('2026-11-19')
    await page.getByLabel('To day').fill('2026-11-21')
    await shows(['Kelp shed'])
    await page.getByLabel('At least length').fill('0:10')
    await page.keyboard.press('Tab')
    await page.getByText('No tapes match.').waitFor()
    await page.getByLabel('At least length').fill('0:05')
    await page.keyboard.press('Tab')
    await shows(['Kelp shed'])
    await page.getByText('Save search').click()
    await page.getByText('Saved as “Search”.').waitFor()
    await page.getByRole('button', { name: 'Show all' }).click()
    await until(rows, (list) => list.length >= 6)
    await page.reload()
    await page.getByRole('button', { name: 'Saved searches' }).click()
    await page.getByRole('menuitem', { name: 'Search' }).click()
    await shows(['Kelp shed'])
    await page.getByRole('button', { name: 'Show all' }).click()
    await page.getByLabel('Speaker', { exact: true }).click()
    await page.getByRole('menuitem', { name: 'Maren Ferris' }).click()
    await until(rows, (list) => list.includes('Council, by phone') && list.length < 4)
    await page.getByRole('button', { name: 'Any speaker' }).click()
  })

  it('in an order of one’s choice, in columns of one’s choice', async () => {
    await page.getByRole('columnheader', { name: 'Length' }).getByRole('button').click()
    const lengths = async () => {
      const order = await rows()
      const all = await library()
      return order.map((name) => all.find((row) => row.name === name)!.frames)
    }
    await until(lengths, (list) => list.every((value, i) => i === 0 || value <= list[i - 1]))
    await page.getByRole('columnheader', { name: 'Length' }).getByRole('button').click()
    await until(lengths, (list) => list.every((value, i) => i === 0 || value >= list[i - 1]))
    await page.getByRole('button', { name: 'Columns' }).click()
    await page.getByRole('menuitem', { name: 'On disk' }).click()
    await page.getByRole('columnheader', { name: 'On disk' }).waitFor()
    await page.reload()
    await page.getByRole('columnheader', { name: 'On disk' }).waitFor()
  })

  it('one after another by key, as many as the key was pressed, however quickly', async () => {
    const order = (await asked({}, { order: 'added', descending: true })).rows
    const open = () => new URL(page.url()).pathname.split('/').pop()
    await page.goto(new URL(`/tapes/${order[0].id}`, page.url()).href)
    await sheetDrawn(page)
    for (let i = 0; i < 3; i++) await page.keyboard.press('Alt+Shift+PageDown')
    await until(open, (id) => id === order[3].id)
    for (let i = 0; i < 2; i++) await page.keyboard.press('Alt+Shift+PageUp')
    await until(open, (id) => id === order[1].id)
    await page.goto(new URL('/tapes', page.url()).href)
  })
})

describe('the library answers', () => {
  const names = async (filter: Partial<PageOrder['filter']>) => (await asked(filter)).rows.map(({ name }) => name)
  it('to any words of names, speakers, tags and files, in any order', async () => {
    for (const text of ['quay', 'QUAY deck', 'aldous deckhand', 'crew piet'])
      expect(await names({ text })).toContain('Deckhand, on the quay')
    for (const text of ['quay council', 'deckhand%', 'deck_and']) expect(await names({ text })).not.toContain('Deckhand, on the quay')
  })
  it('to how far a tape has come, to tag, speaker and story, to day and length', async () => {
    const [quay] = (await asked({ text: 'deckhand, on the quay' })).rows
    const leaves = async (filter: Partial<PageOrder['filter']>) => (await asked(filter)).rows.some(({ id }) => id === quay.id)
    expect([await leaves({ state: 'used' }), await leaves({ state: 'new' })]).toEqual([true, false])
    expect([await leaves({ tag: 'crew' }), await leaves({ tag: 'council' })]).toEqual([true, false])
    expect([await leaves({ speaker: 'Piet Aldous' }), await leaves({ speaker: 'Piet' })]).toEqual([true, false])
    expect([await leaves({ story: quay.usedIn[0] }), await leaves({ story: crypto.randomUUID() })]).toEqual([true, false])
    expect([await leaves({ from: quay.day, to: quay.day }), await leaves({ to: '2000-01-01' })]).toEqual([true, false])
    expect([await leaves({ shortest: quay.frames, longest: quay.frames }), await leaves({ longest: quay.frames - 1 })]).toEqual([
      true,
      false,
    ])
    expect(await leaves({ text: 'quay', tag: 'crew', state: 'used' })).toBe(true)
  })
  it('in pages that, put together, are the whole in every order', async () => {
    const { total } = await asked({})
    for (const order of ['name', 'who', 'length', 'state', 'tags', 'day', 'added', 'stories', 'words', 'disk'] as const)
      for (const descending of [true, false]) {
        const whole = (await asked({}, { order, descending })).rows.map(({ id }) => id)
        const pages = []
        for (let from = 0; from < total; from += 2)
          pages.push(...(await asked({}, { order, descending, from, count: 2 })).rows.map(({ id }) => id))
        expect(pages).toEqual(whole)
      }
  })
  it('with what occurs in it', async () => {
    const { speakers, tags, tapes } = await api<LibraryFacts>('/library/facts')
    expect(tapes).toBe((await asked({})).total)
    expect(speakers).toContain('Piet Aldous')
    expect(tags).toContain('crew')
  })
})

describe('a tape', () => {
  const more = async (name: string, item: string) => {
    await page.getByRole('button', { name: `More for ${name}` }).click()
    await page.getByRole('menuitem', { name: item }).click()
  }
  it('is renamed, tagged and put in a story', async () => {
    await find('kelp')
    await shows(['Kelp shed'])
    await more('Kelp shed', 'Rename')
    await page.getByLabel('Name').fill('The kelp shed')
    await page.getByLabel('Tags').fill('kelp, prices , kelp')
    await page.getByText('Kelp prices').click()
    await page.getByRole('button', { name: 'Save' }).click()
    const row = await until(async () => (await library()).find(({ name }) => name === 'The kelp shed'), Boolean)
    expect(row!.tags).toEqual(['kelp', 'prices'])
    expect(row!.stories).toHaveLength(1)
    await page.getByText('prices', { exact: true }).waitFor()
  })
  it('is deleted, and taken back', async () => {
    await more('The kelp shed', 'Delete')
    await page.getByText('It can be restored for 30 days.').waitFor()
    await until(rows, (list) => !list.includes('The kelp shed'))
    await page.getByRole('button', { name: 'Restore' }).first().click()
    await until(rows, (list) => list.includes('The kelp shed'))
  })
  it('that something uses stays, and what uses it is said', async () => {
    await find('deckhand')
    await more('Deckhand, on the quay', 'Delete')
    await page.getByText(/That tape stays, because pieces use it: “Nobody told us”/).waitFor()
    expect((await library()).some(({ id }) => id === QUAY)).toBe(true)
  })
  it('is gone for good after thirty days, unless something was made of it all the same', async () => {
    const [left, used] = [await bring('Left behind.wav', makeWav(6)), await bring('Used at the last.wav', makeWav(6))]
    for (const { id } of [left, used]) expect((await fetch(`${here.address}/api/library/tapes/${id}`, { method: 'DELETE' })).ok).toBe(true)
    const body: Actuality = {
      kind: 'actuality',
      slug: 'of it',
      speaker: '',
      role: '',
      story: null,
      spans: [{ tape: used.id, from: 0, to: 48_000, sound: 'tape' }],
      head: 0,
      tail: 0,
    }
    await api(`/documents/${crypto.randomUUID()}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    })
    const database = new pg.Client({ connectionString: here.database })
    await database.connect()
    await database.query(`update document set deleted = now() - interval '31 days' where id = any($1)`, [[left.id, used.id]])
    await database.end()
    // it is looked to whenever a server begins
    const server = await serve({
      PORT: String(await freePort()),
      PLAIN_CUT_DATA: here.data,
      PLAIN_CUT_DATABASE: here.database,
      PLAIN_CUT_DEMO: 'none',
    })
    await server.stop()
    const there = [left, used].map(({ id }) => existsSync(join(here.data, 'media', 'tapes', id)))
    expect(there).toEqual([false, true])
    expect((await fetch(`${here.address}/api/tapes/${left.id}`)).status).toBe(404)
    expect((await api<TapeInfo>(`/tapes/${used.id}`)).state).toBe('ready')
  })
  it('is looked for by words alone, whatever signs stand among them', async () => {
    const said = async (text: string) => (await asked({ text })).said.map(({ id }) => id)
    expect(await said("NOBODY, told ' | us:* & !")).toEqual([QUAY])
    expect(await said("') or 1=1 --")).toEqual([])
    expect(complaints.filter((line) => !line.includes('409'))).toEqual([])
  })
})

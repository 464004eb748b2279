import { expect, it, onTestFinished } from 'vitest'
import pg from 'pg'
import type { Going } from '../contract/keepRules'
import type { TapeInfo } from '../contract/tapes'
import { here } from './here'
import { api, bring, pieceOf, useBrowser, visit } from './newsroom'
import { makeWav } from './wav'

useBrowser()

it('a recording that nothing uses is warned of, can be spared, and goes only after that; what a piece uses never does', async () => {
  const names = ['Old and unused', 'Old and spared', 'Old and used'].map((name) => `${name} ${Date.now() % 100_000}`)
  const { page } = await visit('/')
  const ids: TapeInfo[] = []
  for (const name of names) ids.push(await bring(`${name}.wav`, makeWav(2)))
  const idOf = (name: string) => ids.find((tape) => tape.name === name)!.id
  await api(`/documents/${crypto.randomUUID()}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({
      ...(await pieceOf('No boat till six')).body,
      story: null,
      spans: [{ tape: idOf(names[2]), from: 0, to: 48_000, sound: 'tape' }],
    }),
  })
  const database = new pg.Client({ connectionString: here.database })
  await database.connect()
  onTestFinished(async () => {
    await api('/keepRules', {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: '{"unusedTapes":null,"storyFiles":null}',
    })
    await database.end()
  })
  const age = (id: string) => database.query(`update document set changed = now() - interval '100 days' where id = $1`, [id])
  const old = (id: string) => database.query(`update tape set added = now() - interval '100 days' where id = $1`, [id])
  for (const { id } of ids) {
    await age(id)
    await old(id)
  }
  await page.goto(new URL('/', page.url()).href)
  await page.getByRole('button', { name: 'What is kept how long' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Recordings that nothing uses, days').fill('90')
  await dialog.getByRole('button', { name: 'Set', exact: true }).click()
  const going = dialog.getByTestId('going')
  await going.getByText(names[0]).waitFor()
  // one is as old, and stands in a piece
  expect((await api<Going[]>('/keepRules/going')).map(({ id }) => id)).not.toContain(idOf(names[2]))
  await going.locator('li').filter({ hasText: names[1] }).getByRole('button', { name: 'Keep' }).click()
  await going.getByText(names[1]).waitFor({ state: 'detached' })
  expect((await api<TapeInfo[]>('/tapes')).map(({ id }) => id)).toEqual(expect.arrayContaining(ids.map(({ id }) => id)))
  // two weeks on
  await database.query(`update tape set warned = now() - interval '15 days' where warned is not null`)
  await api('/keepRules', { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: '{"unusedTapes":90,"storyFiles":null}' })
  const left = (await api<TapeInfo[]>('/tapes')).map(({ id }) => id)
  expect([left.includes(idOf(names[0])), left.includes(idOf(names[1])), left.includes(idOf(names[2]))]).toEqual([false, true, true])
})

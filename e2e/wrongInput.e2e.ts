import { describe, expect, it } from 'vitest'
import { newStory } from '../core/page/story'
import type { StoredDocument } from '../contract/documents'
import { here } from './here'
import { api, desk, FERRY, QUAY, useBrowser, visit } from './newsroom'

/** Requests that make no sense: each is refused in plain words, changes nothing, and names neither the database nor a path. */

useBrowser()

const send = async (path: string, body: string, method = 'POST', type = 'application/json') => {
  const answer = await fetch(`${here.address}/api${path}`, { method, headers: { 'Content-Type': type }, body })
  return { status: answer.status, text: await answer.text() }
}
const INTERNAL = /postgres|typeorm|syntax error|violates|column|relation|\/tmp\/|ENOENT|stack|at \w+ \(/i
const id = () => crypto.randomUUID()
const act = (steps: unknown) => JSON.stringify({ base: 0, entries: [{ id: id(), author: id(), label: 'x', steps }] })

describe('what makes no sense is refused', () => {
  it.each<[string, string, string, string?]>([
    ['no JSON', `/documents/${FERRY}/steps`, '{"base":'],
    ['very deep JSON', `/documents/${FERRY}/steps`, `${'['.repeat(100_000)}${']'.repeat(100_000)}`],
    ['zero characters', `/documents/${FERRY}/steps`, act([{ type: 'set', id: 'story', key: 'slug', value: 'a\u0000b' }])],
    [
      'half a pair of units',
      `/documents/${FERRY}/steps`,
      act([{ type: 'set', id: 'story', key: 'slug', value: 'x' }]).replace('"value":"x"', '"value":"\\ud83d"'),
    ],
    ['a step that is none', `/documents/${FERRY}/steps`, act([{ type: 'explode' }])],
    ['a step on what every object has', `/documents/${FERRY}/steps`, act([{ type: 'set', id: 'constructor', key: 'slug', value: 'x' }])],
    ['a step on its prototype', `/documents/${FERRY}/steps`, act([{ type: 'set', id: '__proto__', key: 'slug', value: 'x' }])],
    ['a property of another kind of record', `/documents/${FERRY}/steps`, act([{ type: 'set', id: 'story', key: 'pace', value: 170 }])],
    [
      'an air time that is no day',
      `/documents/${FERRY}/steps`,
      act([{ type: 'set', id: 'story', key: 'airs', value: '9999-99-99T17:52' }]),
    ],
    ['a day that is none', `/documents/${QUAY}/steps`, act([{ type: 'set', id: 'tape', key: 'day', value: '2020-00-00' }])],
    [
      'times beyond reason',
      `/documents/${id()}`,
      JSON.stringify({
        kind: 'actuality',
        slug: '',
        speaker: '',
        role: '',
        story: null,
        spans: [{ tape: QUAY, from: 0, to: 1e17, sound: 'tape' }],
        head: 0,
        tail: 0,
      }),
      'PUT',
    ],
    ['an id that is none', '/documents/../x/steps', act([])],
    ['a revision that is none', `/documents/${FERRY}/steps`, JSON.stringify({ base: -1, entries: [] })],
  ])('%s', async (_what, path, body, method) => {
    const before = await api<StoredDocument>(`/documents/${FERRY}`)
    const { status, text } = await send(path, body, method)
    const refused = status === 200 ? (JSON.parse(text) as { taken?: number[] }).taken?.length === 0 : status >= 400 && status < 500
    expect(refused, `${status} ${text}`).toBe(true)
    expect(text).not.toMatch(INTERNAL)
    expect(await api<StoredDocument>(`/documents/${FERRY}`)).toEqual(before)
    expect((await desk()).stories.length).toBeGreaterThan(0)
  })

  it('an upload that has no id', async () => {
    for (const name of ['x', '..%2f..%2fetc', id()]) {
      const { status, text } = await send(`/uploads/${name}`, '', 'PATCH', 'application/offset+octet-stream')
      expect(status).toBeGreaterThanOrEqual(400)
      expect(status).toBeLessThan(500)
      expect(text).not.toMatch(INTERNAL)
    }
  })

  it('the same new document put twenty times at once is there once', async () => {
    const made = id()
    const body = JSON.stringify(newStory({ slug: 'x' }, { id: id() }))
    const answers = await Promise.all(Array.from({ length: 20 }, () => send(`/documents/${made}`, body, 'PUT')))
    expect(answers.every(({ status }) => status < 300)).toBe(true)
    expect((await desk()).stories.filter((story) => story.id === made)).toHaveLength(1)
    await send(`/documents/${made}`, '{"aside":true}', 'PATCH')
  })

  it('names keep their joiners', async () => {
    const name = 'می‌خواهم 👩‍🚀'
    const made = id()
    await send(`/documents/${made}`, JSON.stringify(newStory({ slug: name }, { id: id() })), 'PUT')
    expect((await desk()).stories.find((story) => story.id === made)!.slug).toBe(name)
    await send(`/documents/${made}`, '{"aside":true}', 'PATCH')
  })
})

it('one damaged story never hides the others, and is named', async () => {
  const { Client } = (await import('pg')).default
  const client = new Client({ connectionString: here.database })
  await client.connect()
  const made = id()
  await client.query(`insert into document (id, kind, revision, aside, body) values ($1, 'story', 0, false, '{"kind":"story"}')`, [made])
  const { stories, broken } = await desk()
  expect(stories.length).toBeGreaterThan(0)
  expect(broken).toContain(made)
  const { page } = await visit('/')
  await page.getByRole('alert').getByText(made).waitFor()
  await page.getByRole('link', { name: 'The night ferry' }).first().waitFor()
  await client.query('delete from document where id = $1', [made])
  await client.end()
})

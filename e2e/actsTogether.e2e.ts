import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { LoggedEntry, StoredDocument, Verdict } from '../contract/documents'
import { newStory, type StoryStep } from '../core/page/story'
import { here } from './here'
import { api, until } from './newsroom'

/** Acts on several documents that wait at one moment are written by one statement: none fails, or waits, by another. */

let client: pg.Client
beforeAll(async () => {
  client = new pg.Client({ connectionString: here.database })
  await client.connect()
})
afterAll(() => client.end())

const json = (method: string, body: object): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
})

/** A line of copy more. */
const newLine = (): StoryStep => ({
  type: 'put',
  record: { id: crypto.randomUUID(), kind: 'copy', order: 'a0', aside: false, text: 'A line.', reader: '', pace: 170, piece: null },
})
const post = (id: string, base: number, act: string = crypto.randomUUID()) =>
  api<Verdict>(
    `/documents/${id}/steps`,
    json('POST', { base, entries: [{ id: act, author: crypto.randomUUID(), label: 'add copy', steps: [newLine()] }] }),
  )
/** A story that the server remembers: it has written one act on it. */
async function story(): Promise<string> {
  const id = crypto.randomUUID()
  await api(`/documents/${id}`, json('PUT', newStory({ slug: 'Together' }, { id: crypto.randomUUID() })))
  await post(id, 0)
  return id
}
const revision = async (id: string) => (await api<StoredDocument>(`/documents/${id}`)).revision

describe('acts on several documents at once', () => {
  it('all go in, each with what it says of itself in its own log', async () => {
    const ids = await Promise.all(Array.from({ length: 12 }, story))
    const verdicts = await Promise.all(ids.flatMap((id) => [post(id, 1), post(id, 1)]))
    expect(verdicts.every(({ taken }) => taken.length === 1)).toBe(true)
    for (const id of ids) {
      const log = await api<LoggedEntry[]>(`/documents/${id}/log`)
      expect(log.map((entry) => entry.revision)).toEqual([1, 2, 3])
      expect(await revision(id)).toBe(3)
    }
  })

  it('go in beside one that cannot, since its act is in another log already', async () => {
    const [first, ...others] = await Promise.all(Array.from({ length: 6 }, story))
    const act = crypto.randomUUID()
    await post(first, 1, act)
    const answers = await Promise.allSettled([post(others[0], 1, act), ...others.slice(1).map((id) => post(id, 1))])
    expect(answers.map(({ status }) => status)).toEqual(['rejected', ...others.slice(1).map(() => 'fulfilled')])
    expect(await Promise.all(others.map(revision))).toEqual([1, ...others.slice(1).map(() => 2)])
  })

  it('do not wait for one that somebody else holds; that one goes in once it is free', async () => {
    const [held, ...others] = await Promise.all(Array.from({ length: 4 }, story))
    await client.query('begin')
    await client.query('select id from document where id = $1 for update', [held])
    let waits = true
    const waiting = post(held, 1).then(() => (waits = false))
    await Promise.all(others.map((id) => post(id, 1)))
    await Promise.all(others.map((id) => post(id, 2)))
    expect(waits).toBe(true)
    await client.query('commit')
    await waiting
    expect(
      await until(
        () => revision(held),
        (now) => now > 1,
      ),
    ).toBe(2)
  })
})

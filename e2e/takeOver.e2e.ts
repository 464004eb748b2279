import { spawnSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Bringing } from '../contract/bringings'
import type { Recognition } from '../contract/recognitions'
import type { Receipt } from '../contract/sends'
import type { TapeInfo } from '../contract/tapes'
import { here } from './here'
import { api, bring, pieceOf, until } from './newsroom'
import { makeWav } from './wav'

/**
 * Work that another server process held when it ended: it had said a moment ago that it was at it, and says so
 * no more. Whoever else is there takes each kind over, four of each.
 */

const TAKEN_OVER_MS = 10_000
const FOUR = [1, 2, 3, 4]
let client: pg.Client
let tape: TapeInfo

beforeAll(async () => {
  client = new pg.Client({ connectionString: here.database })
  await client.connect()
  const { stdout } = spawnSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-ss',
      '17',
      '-t',
      '4',
      '-i',
      join(import.meta.dirname, '..', 'demo', 'tapes', 'voice-tracks.flac'),
      '-f',
      'wav',
      'pipe:1',
    ],
    { maxBuffer: 1 << 26 },
  )
  tape = await bring('held by another.wav', stdout)
})
afterAll(() => client.end())

/** Rows like those of a tape, each with an id of its own, as a process that is gone left them. */
async function leftArriving(): Promise<string> {
  const id = crypto.randomUUID()
  writeFileSync(join(here.data, 'media', 'uploads', id), makeWav(2))
  await client.query(`insert into document (id, kind, revision, aside, body) select $1, kind, 0, false, body from document where id = $2`, [
    id,
    tape.id,
  ])
  await client.query(
    `insert into tape (id, state, progress, error, channels, frames, file_name, bytes, sha256, format, tone, size, complete,
      tended, findings, origin, disk)
     select $1, 'arriving', 0.5, '', channels, 0, file_name, 0, '', format, tone, 100, true, now(), '[]', origin, 0 from tape
       where id = $2`,
    [id, tape.id],
  )
  await client.query(
    `insert into document (id, kind, revision, aside, body, tape)
      values ($1, 'transcript', 0, false, '{"kind":"transcript","words":[],"voices":{}}', $2)`,
    [crypto.randomUUID(), id],
  )
  return id
}

describe('what a process that is gone held is taken over', () => {
  it('arrivals', { timeout: 40_000 }, async () => {
    const ids = await Promise.all(FOUR.map(leftArriving))
    const states = () => Promise.all(ids.map(async (id) => (await api<TapeInfo>(`/tapes/${id}`)).state))
    await until(states, (all) => all.every((state) => state === 'ready'), TAKEN_OVER_MS + 5000)
    for (const id of ids)
      await api(`/documents/${id}`, { method: 'PATCH', headers: { 'Content-Type': 'application/json' }, body: '{"aside":true}' })
  })

  it('sends', { timeout: 40_000 }, async () => {
    const { id: piece } = await pieceOf('No boat till six')
    const order = {
      what: { kind: 'actuality', id: piece },
      format: 'wav',
      rate: 48_000,
      bits: 24,
      channels: 1,
      kbps: 192,
      unrecorded: 'out',
      pattern: 'held {slug}',
    }
    const ids = FOUR.map(() => crypto.randomUUID())
    for (const id of ids)
      await client.query(
        `insert into send (id, request, state, progress, file_name, frames, bytes, sha256, error, beat)
          values ($1, $2, 'working', 0.4, 'x', 0, 0, '', '', now())`,
        [id, order],
      )
    const receipts = async () => (await api<Receipt[]>(`/sends?of=${piece}`)).filter((receipt) => (ids as string[]).includes(receipt.id))
    await until(receipts, (all) => all.length === 4 && all.every(({ state }) => state === 'done'), TAKEN_OVER_MS + 5000)
  })

  it('recognition, and words that are being laid on a tape', { timeout: 120_000 }, async () => {
    const { stdout } = spawnSync(
      'ffmpeg',
      [
        '-v',
        'error',
        '-ss',
        '17',
        '-t',
        '4',
        '-i',
        join(import.meta.dirname, '..', 'demo', 'tapes', 'voice-tracks.flac'),
        '-af',
        'volume=0.9',
        '-f',
        'wav',
        'pipe:1',
      ],
      { maxBuffer: 1 << 26 },
    )
    const other = await bring('held by another, second.wav', stdout)
    const plan = [{ from: 0, to: 4 * 48_000, side: 0 }]
    await client.query(
      `insert into recognition (tape, run, state, recogniser, plan, beat) values ($1, $2, 'working', 'x', $3, now())
        on conflict (tape) do update set state = 'working', plan = $3, beat = now(), done = '{}'`,
      [tape.id, crypto.randomUUID(), JSON.stringify(plan)],
    )
    await client.query(
      `insert into bringing (tape, act, author, name, words, state, beat) values ($1, $2, $3, 'x.json', $4, 'working', now())`,
      [
        other.id,
        crypto.randomUUID(),
        crypto.randomUUID(),
        JSON.stringify([{ text: 'Nobody', within: { from: 4800, to: 24_000 }, exact: true }]),
      ],
    )
    const begun = Date.now()
    await until(
      () => api<Bringing | null>(`/bringings/${other.id}`),
      (row) => row?.state === 'done',
      TAKEN_OVER_MS + 5000,
    )
    expect(Date.now() - begun).toBeLessThan(TAKEN_OVER_MS + 5000)
    await until(
      () => api<Recognition | null>(`/recognitions/${tape.id}`),
      (row) => row?.state === 'done',
      60_000,
    )
    await fetch(`${here.address}/api/bringings/${other.id}`, { method: 'DELETE' })
  })
})

import pg from 'pg'
import { DataSource } from 'typeorm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { AnyStep } from '../contract/documents'
import { actualityType, clipLength, type Actuality, type ActualityStep } from '../core/edits/actuality'
import { takeOut } from '../core/edits/acts'
import { offcutsOf } from '../core/edits/offcuts'
import { versionsOf } from '../core/edits/versions'
import { applyAndInvert } from '../core/steps/document'
import { takingBack } from '../core/steps/history'
import { MIGRATIONS, openDatabase } from '../server/database'
import { logSince } from '../server/documents/log'
import { readPiece } from '../server/documents/pieces'
import { submit } from '../server/documents/submit'
import { here } from './here'

/** A house that was worked in before pieces were kept apart from their lists: nothing is lost, and undo reaches back. */

const NAME = `before_${crypto.randomUUID().slice(0, 8)}`
const [tape, piece, me] = [crypto.randomUUID(), crypto.randomUUID(), crypto.randomUUID()]
const url = (name: string): string => {
  const made = new URL(here.database)
  made.pathname = `/${name}`
  return made.href
}
const start: Actuality = {
  kind: 'actuality',
  slug: 'Nobody told us',
  speaker: '',
  role: '',
  story: null,
  head: 0,
  tail: 0,
  spans: [{ tape, from: 0, to: 48_000, sound: 'tape' }],
}
let database: DataSource
let admin: pg.Client

/** Acts as they were written then: what was kept was set as a whole list. */
const whole = (key: 'offcuts' | 'versions', value: unknown): AnyStep => ({ type: 'set', key, value }) as unknown as AnyStep

beforeAll(async () => {
  admin = new pg.Client({ connectionString: here.database })
  await admin.connect()
  await admin.query(`create database ${NAME}`)
  const before = new DataSource({ type: 'postgres', url: url(NAME), migrations: MIGRATIONS.slice(0, MIGRATIONS.length - 1) })
  await before.initialize()
  await before.runMigrations()
  const cut = applyAndInvert(actualityType, start, takeOut(start, { from: 10_000, to: 20_000 }))
  const offcut = { at: '2026-11-25T17:40:00.000Z', spans: [{ tape, from: 10_000, to: 20_000, sound: 'tape' }] }
  const version = { name: 'long', at: '2026-11-25T17:41:00.000Z', spans: start.spans, head: 0, tail: 0 }
  const body = { ...cut.document, offcuts: [offcut], versions: [version] }
  await before.query('insert into document (id, kind, revision, aside, body) values ($1, $2, 2, false, $3)', [piece, 'actuality', body])
  const acts: [string, AnyStep[], AnyStep[]][] = [
    [
      'set aside',
      [...takeOut(start, { from: 10_000, to: 20_000 }), whole('offcuts', [offcut])],
      [whole('offcuts', undefined), ...cut.inverse],
    ],
    ['keep a version', [whole('versions', [version])], [whole('versions', undefined)]],
  ]
  for (const [i, [label, steps, inverse]] of acts.entries())
    await before.query(
      'insert into entry (id, document, revision, author, label, steps, inverse, quiet) values ($1, $2, $3, $4, $5, $6, $7, false)',
      [crypto.randomUUID(), piece, i + 1, me, label, JSON.stringify(steps), JSON.stringify(inverse)],
    )
  await before.destroy()
  database = await openDatabase(url(NAME))
  // the tape that it refers to
  await database.query(
    `insert into document (id, kind, revision, aside, body) values ($1, 'tape', 0, false, '{"kind":"tape","records":{}}')`,
    [tape],
  )
  await database.query(
    `insert into tape (id, state, progress, error, channels, frames, file_name, bytes, sha256, format, tone)
     values ($1, 'ready', 1, '', 1, 48000, '', 0, '', '', '{"made":false,"quiet":[]}')`,
    [tape],
  )
})
afterAll(async () => {
  await database?.destroy()
  await admin.query(`drop database if exists ${NAME}`)
  await admin.end()
})

it('a piece has its list, its offcuts and its versions, and is found by its tape', async () => {
  const { piece: now, revision } = (await readPiece(database.manager, piece))!
  expect([revision, clipLength(now), now.slug]).toEqual([2, 38_000, 'Nobody told us'])
  expect(offcutsOf(now).map(({ spans }) => spans.map(({ from, to }) => [from, to]))).toEqual([[[10_000, 20_000]]])
  expect(versionsOf(now).map(({ name }) => name)).toEqual(['long'])
  expect(await database.query('select frames, head_frames from document where id = $1', [piece])).toEqual([
    { frames: '38000', head_frames: '0' },
  ])
  expect(await database.query('select tape from piece_use where piece = $1', [piece])).toEqual([{ tape }])
})

it('what was done before is undone, one act after the other', async () => {
  for (const [undone, kept] of [
    ['keep a version', [1, 0]],
    ['set aside', [0, 0]],
  ] as const) {
    const log = await logSince(database.manager, piece, 0)
    const target = log.find(({ label }) => label === undone)!
    const steps = takingBack(actualityType, log as Parameters<typeof takingBack<Actuality, ActualityStep>>[1], target as never)!
    const entry = { id: crypto.randomUUID(), author: me, label: undone, undoes: target.id, steps }
    expect(await submit(database, piece, log.length, [entry])).toMatchObject({ refused: null, taken: [log.length + 1] })
    const { piece: now } = (await readPiece(database.manager, piece))!
    expect([offcutsOf(now).length, versionsOf(now).length]).toEqual(kept)
  }
  expect((await readPiece(database.manager, piece))!.piece).toEqual(start)
})

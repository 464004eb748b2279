import pg from 'pg'
import { DataSource } from 'typeorm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { faultsIn, type AnyStep } from '../contract/documents'
import { actualityType, clipLength, type Actuality } from '../core/edits/actuality'
import { takeOut } from '../core/edits/acts'
import { offcutsOf } from '../core/edits/offcuts'
import { versionsOf } from '../core/edits/versions'
import { outputsOf, spineOf, storyHead, storyType, type StoryDocument } from '../core/page/story'
import { applyAndInvert, type DocumentType } from '../core/steps/document'
import { takingBack } from '../core/steps/history'
import { MIGRATIONS, openDatabase } from '../server/database'
import { logSince } from '../server/documents/log'
import { readPiece } from '../server/documents/pieces'
import { submit } from '../server/documents/submit'
import { Pieces1765200000000 } from '../server/migrations/1765200000000-pieces'
import { here } from './here'

/**
 * A house that was worked in before pieces were kept apart from their lists, and before stories had outputs: nothing is
 * lost, and undo reaches back.
 */

const NAME = `before_${crypto.randomUUID().slice(0, 8)}`
const [tape, piece, story, me] = Array.from({ length: 4 }, () => crypto.randomUUID())
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
const SOC = 'For Brackle Sound, I’m Tamsin Roe.'
const oldStory = {
  kind: 'story',
  records: {
    story: {
      id: 'story',
      kind: 'story',
      slug: 'The night ferry',
      airs: '2026-11-25T17:52+00:00',
      slot: 48_000 * 50,
      client: 'Brackle Sound',
      soc: SOC,
    },
    [tape]: { id: tape, kind: 'copy', order: 'a0', aside: false, text: 'Twenty to twelve.', reader: 'Tamsin Roe', pace: 170, piece: null },
  },
}
let database: DataSource
let admin: pg.Client

/** Acts as they were written then: what was kept was set as a whole list. */
const whole = (key: 'offcuts' | 'versions', value: unknown): AnyStep => ({ type: 'set', key, value }) as unknown as AnyStep

beforeAll(async () => {
  admin = new pg.Client({ connectionString: here.database })
  await admin.connect()
  await admin.query(`create database ${NAME}`)
  const before = new DataSource({
    type: 'postgres',
    url: url(NAME),
    migrations: MIGRATIONS.slice(0, MIGRATIONS.indexOf(Pieces1765200000000)),
  })
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
  const log = async (document: string, written: typeof acts) => {
    for (const [i, [label, steps, inverse]] of written.entries())
      await before.query(
        'insert into entry (id, document, revision, author, label, steps, inverse, quiet) values ($1, $2, $3, $4, $5, $6, $7, false)',
        [crypto.randomUUID(), document, i + 1, me, label, JSON.stringify(steps), JSON.stringify(inverse)],
      )
  }
  await log(piece, acts)
  await before.query('insert into document (id, kind, revision, aside, body) values ($1, $2, 2, false, $3)', [story, 'story', oldStory])
  const ofStory = (step: object) => [{ id: 'story', ...step } as unknown as AnyStep]
  await log(story, [
    ['air time', ofStory({ type: 'set', key: 'airs', value: '2026-11-25T17:52+00:00' }), ofStory({ type: 'set', key: 'airs', value: '' })],
    [
      'write',
      ofStory({ type: 'write', key: 'soc', change: [{ put: SOC }] }),
      ofStory({ type: 'write', key: 'soc', change: [{ cut: SOC }] }),
    ],
  ])
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

/** Takes one act back as its author would, by the log as it is now. */
async function takeBack<D, S>(document: string, type: DocumentType<D, S>, label: string): Promise<void> {
  const log = await logSince(database.manager, document, 0)
  const target = log.find((entry) => entry.label === label)!
  const steps = takingBack(type, log as never, target as never)! as AnyStep[]
  const entry = { id: crypto.randomUUID(), author: me, label, undoes: target.id, steps }
  expect(await submit(database, document, log.length, [entry])).toMatchObject({ refused: null, taken: [log.length + 1] })
}

it('what was done before is undone, one act after the other', async () => {
  for (const [undone, kept] of [
    ['keep a version', [1, 0]],
    ['set aside', [0, 0]],
  ] as const) {
    await takeBack(piece, actualityType, undone)
    const { piece: now } = (await readPiece(database.manager, piece))!
    expect([offcutsOf(now).length, versionsOf(now).length]).toEqual(kept)
  }
  expect((await readPiece(database.manager, piece))!.piece).toEqual(start)
})

const storyNow = async () => (await database.query<{ body: StoryDocument }[]>('select body from document where id = $1', [story]))[0].body

it('a story has its output, and its standard out cue as its last block', async () => {
  const body = await storyNow()
  expect(faultsIn('story', body)).toEqual([])
  expect(outputsOf(body)).toMatchObject([{ airs: '2026-11-25T17:52+00:00', slot: 48_000 * 50, client: 'Brackle Sound' }])
  expect(spineOf(body).map(({ kind, text, reader }) => [kind, text, reader])).toEqual([
    ['copy', 'Twenty to twelve.', 'Tamsin Roe'],
    ['soc', SOC, 'Tamsin Roe'],
  ])
  expect(storyHead(body)).toEqual({ id: 'story', kind: 'story', slug: 'The night ferry' })
})

it('what was done to its air time and its out cue is undone where they are now', async () => {
  await takeBack(story, storyType, 'write')
  await takeBack(story, storyType, 'air time')
  const body = await storyNow()
  expect([spineOf(body).at(-1)!.text, outputsOf(body)[0].airs]).toEqual(['', ''])
})

import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { afterEach, beforeEach, expect, test } from 'vitest'
import { Inbox, PASSWORD, USER } from '../standins/inbox'
import { openPlayout, type Playout } from '../standins/playout'
import { newKey } from '../standins/sftpDoor'
import { deliverAsFile, partName, type Before } from './byFile'
import { deliverByForm, deliverByPut } from './byHttp'
import { openFolder } from './folder'
import { openFtp } from './ftp'
import type { Notes, Parcel, Place } from './place'
import { openSftp } from './sftp'
import type { Trouble } from './trouble'

/** Files on their way to each kind of destination, over the real protocols, to places with which something is wrong. */

const KEY = newKey()
const PATIENCE = 1500
const KINDS = ['folder', 'sftp', 'ftp', 'put', 'form'] as const
type Kind = (typeof KINDS)[number]
const FIRST: Before = { replaces: false, beyond: false }

let folder: string
let inbox: Inbox
let playout: Playout
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'plain-cut-playout-'))
  inbox = new Inbox(folder)
  playout = await openPlayout(inbox, [0, 0, 0], KEY)
})
afterEach(() => {
  playout.close()
  rmSync(folder, { recursive: true, force: true })
})

function parcelOf(content: Buffer, name = 'night-ferry.wav'): Parcel {
  const sha256 = createHash('sha256').update(content).digest('hex')
  return { id: randomUUID(), name, bytes: content.length, sha256, open: () => Readable.from(chunks(content)) }
}
function* chunks(content: Buffer) {
  for (let at = 0; at < content.length; at += 65_536) yield content.subarray(at, at + 65_536)
}

async function open(kind: Kind, password = PASSWORD): Promise<Place> {
  const address = playout.addresses[kind]
  if (kind === 'folder') return openFolder(address)
  if (kind === 'ftp') return openFtp(address, USER, password, PATIENCE)
  return openSftp(address, USER, password, { known: '', remember: async () => undefined }, PATIENCE)
}

async function send(kind: Kind, parcel: Parcel, before = FIRST, { heedsKey = false, notes = quiet(), password = PASSWORD } = {}) {
  if (kind === 'put' || kind === 'form') {
    const target = { address: playout.addresses[kind], user: USER, secret: password, field: 'sound', heedsKey }
    return (kind === 'put' ? deliverByPut : deliverByForm)(target, parcel, before, notes)
  }
  const place = await open(kind, password)
  try {
    return await deliverAsFile(place, parcel, before, notes)
  } finally {
    await place.close()
  }
}

const quiet = (signal = new AbortController().signal): Notes => ({ sent: () => undefined, beyond: async () => undefined, signal })
const troubleIn = async (act: Promise<unknown>): Promise<Trouble> =>
  act.then(
    () => expect.fail('it went'),
    (error: Trouble) => error,
  )
const content = randomBytes(400_000)

test.each(KINDS)('%s: what arrives is what was sent, once, and nothing else is left', async (kind) => {
  const parcel = parcelOf(content)
  expect(await send(kind, parcel)).toBe(kind === 'form' ? 'answer' : 'hash')
  expect(readdirSync(folder)).toEqual([parcel.name])
  expect(readFileSync(join(folder, parcel.name)).equals(content)).toBe(true)
})

test.each(KINDS)('%s: another file of that name stays as it is', async (kind) => {
  writeFileSync(join(folder, 'night-ferry.wav'), 'yesterday')
  const trouble = await troubleIn(send(kind, parcelOf(content)))
  expect([trouble.kind, trouble.message]).toEqual(['exists', expect.stringContaining('another file of that name')])
  expect(readFileSync(join(folder, 'night-ferry.wav'), 'utf8')).toBe('yesterday')
  expect(readdirSync(folder)).toEqual(['night-ferry.wav'])
})

test.each(['folder', 'sftp', 'ftp', 'put'] as const)('%s: it takes the place of another where a person said so', async (kind) => {
  writeFileSync(join(folder, 'night-ferry.wav'), 'yesterday')
  expect(await send(kind, parcelOf(content), { replaces: true, beyond: false })).toBe('hash')
  expect(readFileSync(join(folder, 'night-ferry.wav')).equals(content)).toBe(true)
  expect(readdirSync(folder)).toEqual(['night-ferry.wav'])
})

test.each(['folder', 'sftp', 'ftp', 'put'] as const)('%s: the same file, sent again, is known for the same', async (kind) => {
  await send(kind, parcelOf(content))
  expect(await send(kind, parcelOf(content))).toBe('hash')
  expect(inbox.arrivals.filter(({ by }) => by !== 'folder').length).toBeLessThanOrEqual(1)
})

test.each(['sftp', 'ftp', 'put', 'form'] as const)('%s: one that is full is told so, and tried again', async (kind) => {
  inbox.faults = { full: true }
  const trouble = await troubleIn(send(kind, parcelOf(content)))
  expect([trouble.kind, trouble.message]).toEqual(['again', expect.stringContaining('full')])
  expect(readdirSync(folder)).toEqual([])
})

test.each(['sftp', 'ftp', 'put', 'form'] as const)('%s: one that refuses the password is not tried again', async (kind) => {
  const trouble = await troubleIn(send(kind, parcelOf(content), FIRST, { password: 'wrong' }))
  expect([trouble.kind, trouble.message]).toEqual(['refused', 'It refuses the user or the password.'])
})

test.each(['sftp', 'ftp', 'put'] as const)(
  '%s: one that says a wrong size is not believed, and nothing stays there by its name',
  async (kind) => {
    inbox.faults = { lies: true }
    const trouble = await troubleIn(send(kind, parcelOf(content)))
    expect(trouble.kind).toBe('again')
    // a PUT has no name but its own
    if (kind !== 'put') expect(readdirSync(folder)).toEqual([])
  },
)

test.each(['sftp', 'ftp'] as const)('%s: where nothing can be read back, its size is asked', async (kind) => {
  inbox.faults = { closed: true }
  expect(await send(kind, parcelOf(content))).toBe('size')
})

test('put: where nothing can be read back, its answer is what there is', async () => {
  inbox.faults = { closed: true }
  expect(await send('put', parcelOf(content))).toBe('answer')
})

test.each(['sftp', 'ftp', 'put', 'form'] as const)('%s: one that takes nothing more is left, and nothing half stays', async (kind) => {
  inbox.faults = { stuck: true }
  const off = new AbortController()
  const parcel = parcelOf(randomBytes(8_000_000))
  setTimeout(() => off.abort(new Error('enough')), 300)
  const going = send(kind, parcel, FIRST, { notes: quiet(off.signal) })
  going.catch(() => undefined)
  await new Promise((done) => off.signal.addEventListener('abort', done))
  expect(inbox.size(parcel.name)).toBeNull()
  expect(inbox.arrivals).toEqual([])
})

test('one that nobody answers for, a name that is none, a folder that is away: each in plain words', async () => {
  const { ftp } = playout.addresses
  playout.close()
  await new Promise((done) => setTimeout(done, 50))
  expect((await troubleIn(openFtp(ftp, USER, PASSWORD, PATIENCE))).message).toBe('Nobody answers there.')
  expect((await troubleIn(openFolder(join(folder, 'away')))).message).toBe('The folder is not there. Is its drive connected?')
  const gone = { address: 'http://127.0.0.1:1/form', user: '', secret: '', field: '', heedsKey: false }
  expect(await troubleIn(deliverByForm(gone, parcelOf(content), FIRST, quiet()))).toMatchObject({
    kind: 'again',
    message: 'Nobody answers there.',
  })
})

test('form: all of it was sent and no answer came: a person must look', async () => {
  inbox.faults = { mute: true }
  const parcel = parcelOf(content)
  expect((await troubleIn(send('form', parcel))).kind).toBe('perhaps')
  // it had arrived; a second try does not even begin
  expect((await troubleIn(send('form', parcel, { replaces: false, beyond: true }))).kind).toBe('perhaps')
  expect(inbox.arrivals.length).toBe(1)
})

test('form: where the other side heeds the key, a second try is harmless', async () => {
  inbox.faults = { mute: true }
  inbox.heedsKey = true
  const parcel = parcelOf(content)
  expect((await troubleIn(send('form', parcel, FIRST, { heedsKey: true }))).kind).toBe('again')
  inbox.faults = {}
  expect(await send('form', parcel, { replaces: false, beyond: true }, { heedsKey: true })).toBe('answer')
  expect(inbox.arrivals.length).toBe(1)
})

test.each(['sftp', 'ftp', 'put'] as const)('%s: it broke as it got its name: the next try finds it there', async (kind) => {
  inbox.faults = { mute: true }
  const parcel = parcelOf(content)
  let beyond = false
  const notes = { ...quiet(), beyond: async () => void (beyond = true) }
  expect((await troubleIn(send(kind, parcel, FIRST, { notes }))).kind).toBe('again')
  expect(beyond).toBe(true)
  inbox.faults = {}
  expect(await send(kind, parcel, { replaces: false, beyond: true })).toBe('hash')
  expect(inbox.arrivals.length).toBe(1)
})

test.each(['sftp', 'ftp'] as const)('%s: it broke as it got its name, and was taken in since: a person must look', async (kind) => {
  inbox.faults = { mute: true }
  const parcel = parcelOf(content)
  await troubleIn(send(kind, parcel))
  rmSync(join(folder, parcel.name))
  inbox.faults = {}
  expect((await troubleIn(send(kind, parcel, { replaces: false, beyond: true }))).kind).toBe('perhaps')
  expect(inbox.arrivals.length).toBe(1)
})

test.each(['folder', 'sftp', 'ftp'] as const)('%s: what an earlier try left half is begun anew', async (kind) => {
  const parcel = parcelOf(content)
  writeFileSync(join(folder, partName(parcel)), content.subarray(0, 1000))
  expect(await send(kind, parcel)).toBe('hash')
  expect(readdirSync(folder)).toEqual([parcel.name])
})

test('sftp: a server whose key is another is not spoken to', async () => {
  let seen = ''
  const hostKey = { known: '', remember: async (key: string) => void (seen = key) }
  await (await openSftp(playout.addresses.sftp, USER, PASSWORD, hostKey, PATIENCE)).close()
  expect(seen).toMatch(/^[A-Za-z0-9+/]{43}=$/)
  const other = await openPlayout(inbox)
  const trouble = await troubleIn(openSftp(other.addresses.sftp, USER, PASSWORD, { ...hostKey, known: seen }, PATIENCE))
  other.close()
  expect([trouble.kind, trouble.message]).toEqual(['refused', expect.stringContaining('not the machine that it was')])
})

import mammoth from 'mammoth'
import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import { expect, it, onTestFinished } from 'vitest'
import type { DestinationInfo, DestinationKind, SameName } from '../contract/destinations'
import type { Receipt } from '../contract/sends'
import { Inbox, PASSWORD, USER } from '../server/standins/inbox'
import { openPlayout, type Playout } from '../server/standins/playout'
import { api, ownFerry, ownPiece, press, until, useBrowser, visit } from './newsroom'

useBrowser()

/** A playout system that is there for one test, and the name by which it is set up. */
async function playoutOf(): Promise<{ inbox: Inbox; playout: Playout; name: string }> {
  const folder = mkdtempSync(join(tmpdir(), 'plain-cut-playout-'))
  const inbox = new Inbox(folder)
  const playout = await openPlayout(inbox)
  onTestFinished(() => {
    playout.close()
    rmSync(folder, { recursive: true, force: true })
  })
  return { inbox, playout, name: `Playout ${Date.now() % 100_000}` }
}

/** Sets one up as a hand does that is in a hurry. */
async function setUp(
  kind: DestinationKind,
  { playout, name }: { playout: Playout; name: string },
  sameName: SameName = 'ask',
): Promise<void> {
  const id = crypto.randomUUID()
  const secret = kind === 'folder' ? {} : { secret: PASSWORD }
  await api(`/destinations/${id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ name, kind, address: playout.addresses[kind], user: USER, field: 'file', heedsKey: false, sameName, ...secret }),
  })
  onTestFinished(async () => void (await fetchGone(id)))
}
const fetchGone = async (id: string) => api(`/destinations/${id}`, { method: 'DELETE' }).catch(() => undefined)

const receiptsOf = (id: string) => api<Receipt[]>(`/sends?of=${id}`)
/** Sends what is open to a destination, by the dialog. */
async function sendTo(page: Page, name: string) {
  await press(page, 'Control+Enter')
  const dialog = page.getByRole('dialog')
  await dialog.getByText(name, { exact: true }).click()
  await dialog.getByRole('button', { name: 'Send', exact: true }).click()
  return dialog
}

it('a destination is set up and tried, and its password comes back to nobody', async () => {
  const there = await playoutOf()
  const { page, complaints } = await visit('/sendings')
  await page.getByRole('button', { name: 'Add a destination' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name', { exact: true }).fill(there.name)
  await dialog.getByText('SFTP', { exact: true }).click()
  await dialog.getByLabel('Address').fill(there.playout.addresses.sftp)
  await dialog.getByLabel('User').fill(USER)
  await dialog.getByLabel('Password or private key').fill('wrong')
  await dialog.getByRole('button', { name: 'Keep and try' }).click()
  await dialog.getByText('It refuses the user or the password.').waitFor()
  await dialog.getByLabel('Password or private key').fill(PASSWORD)
  await dialog.getByRole('button', { name: 'Keep and try' }).click()
  await dialog.getByText('It answers.').waitFor()
  await dialog.getByRole('button', { name: 'Keep', exact: true }).click()
  await page.getByLabel('Where files go, and in which form').getByText(there.name).waitFor()
  const said = JSON.stringify(await api('/destinations'))
  expect(said).not.toContain(PASSWORD)
  const own = (JSON.parse(said) as DestinationInfo[]).find(({ name }) => name === there.name)!
  expect([own.hasSecret, own.hostKey]).toEqual([true, expect.stringMatching(/^[A-Za-z0-9+/]{43}=$/)])
  // its password does not go along to another machine
  const order = {
    name: own.name,
    kind: 'sftp',
    address: 'sftp://127.0.0.1:1/in',
    user: own.user,
    field: '',
    heedsKey: false,
    sameName: 'ask',
  }
  const moved = await api<DestinationInfo>(`/destinations/${own.id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(order),
  })
  expect([moved.hasSecret, moved.hostKey]).toEqual([false, ''])
  await fetchGone(own.id)
  expect(complaints).toEqual([])
})

it('a piece goes to a destination in two strokes, and its receipt says that it was read back there', async () => {
  const there = await playoutOf()
  await setUp('ftp', there, 'replace')
  const { page, id, complaints } = await ownPiece()
  const dialog = await sendTo(page, there.name)
  const [first] = await until(
    () => receiptsOf(id),
    ([newest]) => newest?.deliveries[0]?.state === 'arrived',
    20_000,
  )
  await dialog
    .getByTestId('deliveries')
    .getByText(/Arrived at .*: read back there, the same to the byte/)
    .waitFor()
  expect(there.inbox.arrivals).toEqual([{ by: 'FTP', name: first.fileName, bytes: first.bytes, sha256: first.sha256 }])
  await dialog.getByText('What changed since').click()
  await dialog.getByText('Nothing: it would be the same sound.').waitFor()
  // as last time: the key that opens it, and once more; here it takes the place of the first
  await page.keyboard.press('Escape')
  await press(page, 'Control+Enter')
  await press(page, 'Control+Enter')
  const [again] = await until(
    () => receiptsOf(id),
    (list) => list.length === 2 && list[0].deliveries[0]?.state === 'arrived',
    20_000,
  )
  expect(again.order).toEqual(first.order)
  expect(there.inbox.arrivals.map(({ sha256 }) => sha256)).toEqual([first.sha256, again.sha256])
  expect(readdirSync(there.inbox.folder)).toEqual([first.fileName])
  expect(complaints).toEqual([])
})

it('a single actuality goes out with its cue sheet: who, how it begins and ends, all that is said', async () => {
  const there = await playoutOf()
  await setUp('sftp', there)
  const { page, id } = await ownPiece('Nobody told us')
  await press(page, 'Control+Enter')
  const dialog = page.getByRole('dialog')
  await dialog.getByText('its cue sheet, as a Word file').click()
  await dialog.getByText(there.name, { exact: true }).click()
  await dialog.getByRole('button', { name: 'Send', exact: true }).click()
  const arrivedAll = ([newest]: Receipt[]) => newest?.deliveries.filter(({ state }) => state === 'arrived').length === 2
  const [receipt] = await until(() => receiptsOf(id), arrivedAll, 20_000)
  const script = receipt.script!
  expect(script.fileName).toBe(receipt.fileName.replace(/\.\w+$/, '.docx'))
  const files = [receipt, script].map(({ fileName, bytes, sha256 }) => ({ by: 'SFTP', name: fileName, bytes, sha256 }))
  expect(there.inbox.arrivals).toHaveLength(2)
  expect(there.inbox.arrivals).toEqual(expect.arrayContaining(files))
  const { value } = await mammoth.extractRawText({ path: there.inbox.at(script.fileName) })
  for (const part of ['Piet Aldous, deckhand', 'Words :', 'In: “', 'Out: “…', 'From “']) expect(value).toContain(part)
  await dialog.getByText(`${there.name}, the script`).waitFor()
  await dialog.getByTestId('receipts').getByRole('link', { name: 'Cue sheet' }).waitFor()
  // the same again goes without a destination that is gone, and says so
  await fetchGone(receipt.deliveries[0].destination)
  await dialog.getByTestId('receipts').getByRole('button', { name: 'Same again' }).click()
  await page.getByText(`“${there.name}” is not set up any more: it was not sent there.`).waitFor()
  const [again] = await until(
    () => receiptsOf(id),
    (all) => all.length === 2 && all[0].state === 'done',
    20_000,
  )
  expect(again.deliveries).toEqual([])
})

it('one that is full is said on every page, is tried again, and arrives once there is room', async () => {
  const there = await playoutOf()
  await setUp('sftp', there)
  there.inbox.faults = { full: true }
  const { page, id } = await ownPiece()
  await sendTo(page, there.name)
  await page.getByRole('button', { name: 'Close' }).click()
  await page
    .getByRole('alert')
    .getByText(new RegExp(`Not at ${there.name}`))
    .waitFor({ timeout: 20_000 })
  await page.getByRole('link', { name: 'Sendings' }).click()
  const row = page.getByTestId('deliveries').filter({ hasText: there.name })
  await row.getByText(/it may be full\. Tried (once|\d+ times); again in \d+ s/).waitFor()
  there.inbox.faults = {}
  await row.getByRole('button', { name: 'Try now' }).click()
  await until(
    () => receiptsOf(id),
    ([newest]) => newest.deliveries[0].state === 'arrived',
    20_000,
  )
  await page.getByText(`has arrived at ${there.name}`).waitFor()
})

it('where another file has its name, nothing happens until somebody decides', async () => {
  const there = await playoutOf()
  await setUp('folder', there)
  const { page, id } = await ownPiece()
  const dialog = await sendTo(page, there.name)
  const [first] = await until(
    () => receiptsOf(id),
    ([newest]) => newest?.deliveries[0]?.state === 'arrived',
    20_000,
  )
  await dialog.getByText('16 bit, dithered').click()
  await dialog.getByRole('button', { name: 'Send', exact: true }).click()
  await dialog.getByText(/There is another file of that name\. It was left as it is/).waitFor({ timeout: 20_000 })
  expect(readdirSync(there.inbox.folder)).toEqual([first.fileName])
  await dialog.getByRole('button', { name: 'Send under another name' }).click()
  await until(
    () => receiptsOf(id),
    ([newest]) => newest.deliveries[0].state === 'arrived',
    20_000,
  )
  expect(readdirSync(there.inbox.folder).sort()).toEqual([first.fileName.replace('.wav', '-v2.wav'), first.fileName].sort())
})

it('where nobody but a person can know whether it arrived, it is not sent twice', async () => {
  const there = await playoutOf()
  await setUp('form', there)
  there.inbox.faults = { mute: true }
  const { page, id } = await ownPiece()
  const dialog = await sendTo(page, there.name)
  await dialog.getByText(/All of it was sent, and no answer came\. It may have arrived\./).waitFor({ timeout: 20_000 })
  await page.waitForTimeout(3000)
  expect(there.inbox.arrivals.length).toBe(1)
  await dialog.getByRole('button', { name: 'It arrived' }).click()
  await dialog.getByText(/Arrived at .*: as somebody found there/).waitFor()
  expect((await receiptsOf(id))[0].deliveries[0]).toMatchObject({ state: 'arrived', proof: 'person' })
})

it('a house format is set once for a programme, and its stories go out in it', async () => {
  const there = await playoutOf()
  await setUp('put', there)
  const programme = `Harbour Desk ${Date.now() % 100_000}`
  const story = await ownFerry()
  const { page, complaints } = await visit(`/stories/${story}`)
  await page.getByRole('button', { name: /^Airs|Set the air time/ }).click()
  await page.getByLabel('Programme', { exact: true }).fill(programme)
  await page.getByRole('button', { name: 'Set', exact: true }).click()
  await press(page, 'Control+Enter')
  const dialog = page.getByRole('dialog')
  await dialog.getByText('MP3', { exact: true }).click()
  await dialog.getByText(there.name, { exact: true }).click()
  await dialog.getByRole('button', { name: `Keep as the house format of ${programme}` }).click()
  await dialog.getByTestId('house-format').getByText('MP3, 192 kbit/s, 48 kHz, mono').waitFor()
  // once otherwise changes nothing of it
  await dialog.getByRole('button', { name: 'Another form, this time' }).click()
  await dialog.getByText('FLAC', { exact: true }).click()
  await dialog.getByRole('button', { name: `Back to the form of ${programme}` }).click()
  await dialog.getByTestId('house-format').getByText('MP3, 192 kbit/s, 48 kHz, mono').waitFor()
  await dialog.getByRole('button', { name: 'Send', exact: true }).click()
  const [receipt] = await until(
    () => receiptsOf(story),
    ([newest]) => newest?.deliveries[0]?.state === 'arrived',
    60_000,
  )
  expect(receipt.order).toMatchObject({ format: 'mp3', kbps: 192 })
  expect(there.inbox.arrivals.map(({ name }) => name)).toEqual([receipt.fileName])
  // another browser has it too
  const other = await visit('/sendings')
  await other.page.getByLabel('Where files go, and in which form').getByText(programme).waitFor()
  expect([...complaints, ...other.complaints]).toEqual([])
})

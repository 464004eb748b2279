import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import { beforeAll, expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { Found } from '../contract/find'
import type { Recognition } from '../contract/recognitions'
import { wordsOf, type Transcript } from '../core/transcript/transcript'
import { here } from './here'
import { api, bring, dragWords, pieces, saved, sheetDrawn, until, useBrowser, visit, word } from './newsroom'

useBrowser()

/** An own recording: two spoken sentences out of the demo's voice tracks, at another pitch, so that it is a tape nobody has. */
function recording(): Buffer {
  const { stdout, status } = spawnSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-ss',
      '14.5',
      '-t',
      '14',
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
  if (status !== 0) throw new Error('ffmpeg could not make the recording')
  return stdout
}

let tape: string
let page: Page
const transcript = async () => (await api<StoredDocument & { body: Transcript }>(`/tapes/${tape}/words`)).body
const said = async () => wordsOf(await transcript()).map(({ text }) => text)
const recognition = () => api<Recognition | null>(`/recognitions/${tape}`)

beforeAll(async () => {
  tape = (await bring('Words spoken on the quay.wav', recording())).id
  ;({ page } = await visit(`/tapes/${tape}`))
  await sheetDrawn(page)
})

// all that it recognises is reckoned beside the other tests
it('gets its words by itself, as a guess that says it is one', { timeout: 150_000 }, async () => {
  await page.getByText('No transcript yet.').waitFor()
  await page.getByRole('button', { name: 'Transcribe' }).click()
  await until(recognition, (now) => now?.state === 'done', 120_000)
  const words = (await transcript()).words
  expect(words.length).toBeGreaterThan(20)
  for (const one of words) {
    expect(one.sure).toBeGreaterThanOrEqual(0)
    expect(one.checked).toBeUndefined()
  }
  expect((await said()).join(' ')).toContain('eleven passengers')
  await page.getByText('These words are a rough guess.').waitFor()
  await word(page, 'passengers')
})

it('has a word corrected in place, which is put on the sound again at once', async () => {
  const before = await transcript()
  const at = before.words.findIndex(({ text }) => text === 'passengers')
  const spot = await word(page, 'passengers')
  await page.mouse.click(spot.x, spot.y)
  await page.keyboard.press('d')
  const editor = page.getByTestId('word-editor')
  expect(await editor.inputValue()).toBe('passengers')
  await editor.fill('Passengers, dear passengers')
  await page.keyboard.press('Escape')
  await editor.waitFor({ state: 'detached' })
  expect((await transcript()).words).toEqual(before.words)
  await page.keyboard.press('d')
  await editor.fill('travellers')
  await page.keyboard.press('Enter')
  await word(page, 'travellers')
  const placed = await until(transcript, ({ words }) => words[at].text === 'travellers' && !words[at].rough)
  expect(placed.words[at].sure).toBeUndefined()
  await saved(page)
  await page.keyboard.press('Control+z')
  await until(said, (texts) => texts[at] === 'passengers')
  await page.keyboard.press('Control+Shift+z')
  await until(said, (texts) => texts[at] === 'travellers')
})

it('is checked by whoever heard it, visibly, and a guess again once it is corrected', async () => {
  await dragWords(page, 'eleven', 'travellers')
  await page.keyboard.press('Shift+c')
  await page.getByText('2 words are checked.').waitFor()
  await until(transcript, ({ words }) => words.filter((one) => one.checked).length === 2)
  await page.getByText(/2 of \d+ words are checked/).waitFor()
  await page.keyboard.press('Escape')
  const spot = await word(page, 'travellers')
  await page.mouse.click(spot.x, spot.y)
  await page.keyboard.press('d')
  await page.getByTestId('word-editor').fill('Travellers,')
  await page.keyboard.press('Enter')
  await until(
    transcript,
    ({ words }) => words.filter((one) => one.checked).length === 1 && words.some((one) => one.text === 'Travellers,' && !one.rough),
  )
})

it('is found by what was said, by near spellings and by sound', async () => {
  const find = (text: string) => api<Found[]>(`/find?tape=${tape}&text=${encodeURIComponent(text)}`)
  expect((await find('eleven travellers'))[0]).toMatchObject({
    tape,
    exact: true,
    text: [expect.any(String), 'eleven Travellers,', expect.any(String)],
  })
  expect((await find('traveller'))[0]).toMatchObject({ tape })
  expect((await find('elleven'))[0]).toMatchObject({ tape, exact: false })
  expect(await find('zebra crossing')).toEqual([])
})

it('is pulled by its words', async () => {
  const before = (await pieces()).length
  await dragWords(page, 'eleven', 'Travellers,')
  await page.keyboard.press('p')
  const rows = await until(
    () => pieces(),
    (list) => list.length === before + 1,
  )
  expect(rows.at(-1)!.body.slug).toBe('Eleven Travellers')
})

it('keeps what was said off the record to itself, by every way out', async () => {
  const piece = (await pieces()).at(-1)!
  await page.keyboard.press('Escape')
  await dragWords(page, 'eleven', 'Travellers,')
  await page.keyboard.press('Shift+o')
  await page.getByText('not pulled, exported or sent').waitFor()
  await until(
    () => api<{ off: unknown[] }>(`/tapes/${tape}`),
    ({ off }) => off.length === 1,
  )
  // it cannot be pulled, nor sent where it was pulled before
  const before = (await pieces()).length
  await page.keyboard.press('p')
  await page.getByText('off the record, so it can’t be pulled').waitFor()
  expect(await pieces()).toHaveLength(before)
  const order = {
    what: { kind: 'actuality', id: piece.id },
    format: 'wav',
    rate: 48_000,
    bits: 24,
    channels: 1,
    kbps: 192,
    unrecorded: 'out',
    pattern: '{slug}',
  }
  const post = { method: 'POST', headers: { 'Content-Type': 'application/json' } }
  await expect(api('/sends/preview', { ...post, body: JSON.stringify(order) })).rejects.toThrow(/off the record/)
  await expect(api(`/documents/${crypto.randomUUID()}`, { ...post, method: 'PUT', body: JSON.stringify(piece.body) })).rejects.toThrow(
    /off the record/,
  )
  // a side that goes out to be mended is silent there
  const { off } = await api<{ off: { from: number; to: number }[] }>(`/tapes/${tape}`)
  const side = Buffer.from(await (await fetch(`${here.address}/api/tapes/${tape}/side?channels=0`)).arrayBuffer())
  const begins = side.indexOf('data') + 8
  const sound = new Float32Array(new Uint8Array(side.subarray(begins)).buffer)
  expect(sound.subarray(off[0].from, off[0].to).every((sample) => sample === 0)).toBe(true)
  expect(sound.subarray(0, off[0].from).filter((sample) => sample !== 0).length).toBeGreaterThan(10_000)
  // no transcript and no search says it
  const text = await (await fetch(`${here.address}/api/transcripts/${tape}?as=txt`)).text()
  expect(text).toContain('says (off the record)')
  expect(text).not.toMatch(/eleven|travellers/i)
  expect(await (await fetch(`${here.address}/api/transcripts/${piece.id}?as=srt`)).text()).not.toMatch(/eleven|travellers/i)
  expect(await api<Found[]>(`/find?tape=${tape}&text=travellers`)).toEqual([])
  const [company] = await api<Found[]>(`/find?tape=${tape}&text=company`)
  expect(company.text.join(' ')).toContain('(off the record)')
  // on the record again it is as it was
  await page.keyboard.press('Shift+o')
  await until(
    () => api<{ off: unknown[] }>(`/tapes/${tape}`),
    ({ off }) => off.length === 0,
  )
  await api('/sends/preview', { ...post, body: JSON.stringify(order) })
})

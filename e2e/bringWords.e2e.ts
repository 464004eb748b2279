import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { Document, Packer, Paragraph } from 'docx'
import type { Page } from 'playwright-core'
import { beforeAll, expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { Bringing } from '../contract/bringings'
import { wordsOf, type Transcript } from '../core/transcript/transcript'
import { api, bring, saved, sheetDrawn, until, useBrowser, visit, word } from './newsroom'

useBrowser()

const FROM = 17.3
const LENGTH = 12
const truth = (
  JSON.parse(readFileSync(join(import.meta.dirname, '..', 'demo', 'truth', 'tracks.json'), 'utf8')) as {
    start: number
    end: number
    text: string
    what?: string
  }[]
).filter(({ start, end, what }) => what !== 'pause' && start > FROM && end < FROM + LENGTH)
const text = truth.map((one) => one.text).join(' ')

let tape: string
let page: Page
const words = async () => wordsOf((await api<StoredDocument & { body: Transcript }>(`/tapes/${tape}/words`)).body)
const bringing = () => api<Bringing | null>(`/bringings/${tape}`)

async function choose(name: string, mimeType: string, content: Buffer): Promise<void> {
  await page.getByRole('button', { name: 'More', exact: true }).click()
  await page.getByRole('menuitem', { name: 'Import transcript' }).click()
  await page.getByTestId('words-file').setInputFiles({ name, mimeType, buffer: content })
}

beforeAll(async () => {
  const { stdout } = spawnSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-ss',
      String(FROM),
      '-t',
      String(LENGTH),
      '-i',
      join(import.meta.dirname, '..', 'demo', 'tapes', 'voice-tracks.flac'),
      '-f',
      'wav',
      'pipe:1',
    ],
    { maxBuffer: 1 << 26 },
  )
  tape = (await bring('Read in the cupboard.wav', stdout)).id
  ;({ page } = await visit(`/tapes/${tape}`))
  await sheetDrawn(page)
})

// putting words on sound is reckoned beside the other tests
const WHILE_BUSY = 120_000

it('of a Word file are put where they are said, and what nobody says is told', { timeout: 2 * WHILE_BUSY }, async () => {
  const [first, ...rest] = text.split(' ')
  const file = await Packer.toBuffer(
    new Document({ sections: [{ children: [new Paragraph(`Tamsin Roe: ${first} marmalade kettle ${rest.join(' ')}`)] }] }),
  )
  await choose('script.docx', 'application/vnd.openxmlformats-officedocument.wordprocessingml.document', file)
  await page.getByTestId('disagreements').getByText('marmalade kettle').waitFor({ timeout: WHILE_BUSY })
  await page.keyboard.press('Escape')
  const placed = await words()
  expect(placed.map((one) => one.text).join(' ')).toBe(text)
  expect(placed[0].speaker).toBe('Tamsin Roe')
  const errors = placed
    .flatMap(({ from, to }, i) => [from / 48_000 - (truth[i].start - FROM), to / 48_000 - (truth[i].end - FROM)])
    .map(Math.abs)
    .sort((a, b) => a - b)
  expect(errors[Math.floor(errors.length / 2)]).toBeLessThan(0.02)
  expect(errors[Math.floor(errors.length * 0.9)]).toBeLessThan(0.1)
  await word(page, truth[3].text)
  await page.keyboard.press('Control+z')
  await until(words, (list) => list.length === 0 || list.some((one) => one.sure !== undefined))
  await page.keyboard.press('Control+Shift+z')
  await until(words, (list) => list.length === placed.length)
  await saved(page)
})

it('of subtitles lie within their cues, and a file without words is refused in a sentence', { timeout: 2 * WHILE_BUSY }, async () => {
  await page.keyboard.press('Escape')
  await api(`/bringings/${tape}`, { method: 'DELETE' }).catch(() => undefined)
  await until(bringing, (now) => now === null)
  await page.reload()
  await sheetDrawn(page)
  await choose('nothing.srt', 'application/x-subrip', Buffer.from('no cues at all'))
  await page.getByText('There are no words in that file.').waitFor()
  await page.getByTestId('words-file').setInputFiles({
    name: 'cues.srt',
    mimeType: 'application/x-subrip',
    buffer: Buffer.from(`1\n00:00:00,000 --> 00:00:${String(LENGTH).padStart(2, '0')},000\nMaren Ferris: ${text}\n`),
  })
  await page.getByText('Text and tape agree everywhere.').waitFor({ timeout: WHILE_BUSY })
  const placed = await words()
  expect(new Set(placed.map((one) => one.speaker))).toEqual(new Set(['Maren Ferris']))
  expect(placed.map((one) => one.text).join(' ')).toBe(text)
})
